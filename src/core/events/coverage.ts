import type { CivilDay } from "../time/civil-day";

/** Local dates of a site on which one of its doors had an event, whatever came of it: in order, each once. */
export type EventDates = readonly CivilDay[];

/** Two dates with events at most this far apart, with none between them, cover the dates between: a site may be shut for a week. */
export const gapDays = 7;

/** So much of a period must be covered before it is said that something did not happen in it. */
export const coveredPercent = 90;

/**
 * How many of the dates from `today - days` up to yesterday events cover. A single stray event covers its own date and nothing else.
 * Source: `findings.md`, "Coverage".
 */
export function coveredDatesBefore(dates: EventDates, today: CivilDay, days: number, gap = gapDays): number {
  const first = today - days;
  const within = (from: number, to: number): number => Math.max(0, Math.min(to, today) - Math.max(from, first));
  let covered = 0;
  for (let i = 0; i < dates.length; i++) {
    const date = dates[i] as number;
    // An event of a later date than today is not known yet.
    if (date > today) break;
    const next = dates[i + 1];
    const end = next !== undefined && next <= today && next - date <= gap ? next : date + 1;
    covered += within(date, end);
  }
  return covered;
}

/** Whether so many covered dates are enough to speak of a period. */
export const coversPeriod = (covered: number, days: number, percent = coveredPercent): boolean => covered * 100 >= percent * days;
