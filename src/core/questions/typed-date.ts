import { civilDay, formatCivilDay } from "../time/civil-day";
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

const leapYears = [civilDay(1996, 1, 2), civilDay(2000, 1, 1)] as const;

/**
 * A day of the year as people type it (`25 Dec`, `Dec 25`, `25.12.`) as `MM-DD`; undefined for what is none, could be two, has a year of its own, or counts
 * from today, as "tomorrow" does.
 */
export function typedDayOfYear(text: string): string | undefined {
  const [one, other] = leapYears.map((from) => typedDate(text, from));
  if (one === undefined || other === undefined || one === other) return undefined;
  return one.slice(5) === other.slice(5) ? one.slice(5) : undefined;
}
