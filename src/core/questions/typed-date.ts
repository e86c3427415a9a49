import { formatCivilDay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { plainDate } from "./when-dates";
import { tokensOf } from "./when-tokens";

/**
 * A date as people type it (`31.12.2026`, `31 Dec 2026`, `Dec 31, 2026`, `tomorrow`) as `YYYY-MM-DD`; undefined for what is no date, or
 * could be two: `3/4/2026`. `today` is the date that a year left out, or "tomorrow", is counted from.
 */
export function typedDate(text: string, today: CivilDay): string | undefined {
  const tokens = tokensOf(text);
  const found = tokens && plainDate(tokens, 0, today);
  return found && "piece" in found && found.piece.says === "date" && found.used === tokens.length ? formatCivilDay(found.piece.date) : undefined;
}
