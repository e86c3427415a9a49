import type { Found, PieceContext } from "./when-piece";
import { isWord } from "./when-piece";
import type { Token } from "./when-tokens";

function startsWith(tokens: readonly Token[], at: number, words: readonly string[]): boolean {
  return words.length > 0 && words.every((word, i) => tokens[at + i]?.text === word);
}

/** A date that has a name in a calendar, as the days of that name; the longest name counts. */
export function holidayPiece(tokens: readonly Token[], at: number, { holidays }: PieceContext): { readonly name: string; readonly used: number } | undefined {
  let best: { readonly name: string; readonly used: number } | undefined;
  for (const [words, name] of holidays) if (startsWith(tokens, at, words) && words.length > (best?.used ?? 0)) best = { name, used: words.length };
  return best;
}

/** Days of a day type: `public holidays`, `company days`. */
export function dayTypePiece(tokens: readonly Token[], at: number, { dayTypes }: PieceContext): Found {
  let best: { readonly dayType: string; readonly used: number } | undefined;
  for (const [words, dayType] of dayTypes) if (startsWith(tokens, at, words) && words.length > (best?.used ?? 0)) best = { dayType, used: words.length };
  if (!best) return undefined;
  const isNamed = isWord(tokens[at + best.used], "days", "day", "holidays", "holiday", "dates");
  return { piece: { says: "days", days: { kind: "day-type", dayType: best.dayType } }, used: best.used + (isNamed ? 1 : 0) };
}
