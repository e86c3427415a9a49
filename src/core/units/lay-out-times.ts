import { dayFollows, localDays } from "../describe/local-days";
import type { LocalDay } from "../describe/local-days";
import type { CivilDay } from "../time/civil-day";
import { minutesADay, weekdayNumber } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { contentKey, nothing, range, union } from "../time/intervals";
import type { Zone } from "../time/zone";
import { firstMinuteFrom, localTime } from "../time/zone";
import type { HeldRow } from "./unit-memory";

/** Times as a weekly pattern: what it is on weekdays, Monday first, and the dates on which it is not so. */
export interface WeeklyTimes {
  readonly week: readonly HeldRow[];
  readonly unlike: ReadonlyMap<CivilDay, HeldRow>;
  readonly from?: number;
  readonly until?: number;
}

/** A weekday on which it is otherwise so many times in a row, and each time the same, has changed for good. */
const changedForGood = 3;
/** The pattern of a weekday is what most of so many of them have. */
const lookedAt = 6;

export const rowOf = (set: IntervalSet): HeldRow => {
  const row: (readonly [number, number])[] = [];
  for (let i = 0; i < set.length; i += 2) row.push([set[i] as number, set[i + 1] as number]);
  return row;
};

/** The dates of a timetable; what lies outside of `[from, to)` on the first and the last of them does not count, like minutes that the clock skips. */
function askedDays(open: IntervalSet, zone: Zone, from: EpochMinute, to: EpochMinute): readonly LocalDay[] {
  const days = localDays(open, zone, from, to);
  const [first, last] = [days[0], days[days.length - 1]];
  const [begins, ends] = [localTime(zone, from), localTime(zone, (to - 1) as EpochMinute)];
  return days.map((day) => {
    let { skipped } = day;
    if (day === first) skipped = union(skipped, range(0, begins.minuteOfDay));
    if (day === last) skipped = union(skipped, range(ends.minuteOfDay + 1, minutesADay));
    return skipped === day.skipped ? day : { ...day, skipped };
  });
}

/** What most of the first dates of each weekday have, from a date on; Monday first. */
function patternFrom(days: readonly LocalDay[], start: number): readonly IntervalSet[] {
  return Array.from({ length: 7 }, (_, weekday) => {
    const counts = new Map<string, { count: number; readonly open: IntervalSet }>();
    let seen = 0;
    for (let i = start; i < days.length && seen < lookedAt; i++) {
      const day = days[i] as LocalDay;
      if (weekdayNumber(day.date) !== weekday) continue;
      seen++;
      const key = contentKey(day.open);
      const known = counts.get(key);
      if (known) known.count++;
      else counts.set(key, { count: 1, open: day.open });
    }
    let most: { readonly count: number; readonly open: IntervalSet } = { count: 0, open: nothing };
    for (const one of counts.values()) if (one.count > most.count) most = one;
    return most.open;
  });
}

/** Up to which date a pattern holds: where a weekday changes for good, or to the end. */
function endOfPattern(days: readonly LocalDay[], start: number, pattern: readonly IntervalSet[]): number {
  const runs: { key: string; since: number; count: number }[] = Array.from({ length: 7 }, () => ({ key: "", since: 0, count: 0 }));
  for (let i = start; i < days.length; i++) {
    const day = days[i] as LocalDay;
    const weekday = weekdayNumber(day.date);
    const run = runs[weekday] as (typeof runs)[number];
    if (dayFollows(day, pattern[weekday] ?? nothing)) {
      run.count = 0;
      continue;
    }
    const key = contentKey(day.open);
    if (run.count === 0 || run.key !== key) runs[weekday] = { key, since: i, count: 1 };
    else if (++run.count === changedForGood && run.since > start) return run.since;
  }
  return days.length;
}

/**
 * Times within `[from, to)` as weekly patterns one after the other, each with the dates that are unlike it. Most are one pattern; one that begins or ends says
 * so instead of naming every date before or after.
 */
export function weeklyTimes(open: IntervalSet, zone: Zone, from: EpochMinute, to: EpochMinute): readonly WeeklyTimes[] {
  if (open.length === 0) return [];
  const [begins, ends] = [open[0] as number, open[open.length - 1] as number];
  const days = askedDays(open, zone, from, to);
  const firstOpen = localTime(zone, begins as EpochMinute).date;
  const lastOpen = localTime(zone, (ends - 1) as EpochMinute).date;
  const inUse = days.filter(({ date }) => date >= firstOpen && date <= lastOpen);
  // Dates before it begins and after it ends are no part of the pattern; the first and the last one only as far as it reaches.
  const [started, ended] = [localTime(zone, begins as EpochMinute).minuteOfDay, localTime(zone, (ends - 1) as EpochMinute).minuteOfDay + 1];
  const used = inUse.map((day, i) => {
    let { skipped } = day;
    if (i === 0 && begins > from) skipped = union(skipped, range(0, started));
    if (i === inUse.length - 1 && ends < to) skipped = union(skipped, range(ended, minutesADay));
    return skipped === day.skipped ? day : { ...day, skipped };
  });
  const found: WeeklyTimes[] = [];
  for (let start = 0; start < used.length;) {
    const pattern = patternFrom(used, start);
    const end = endOfPattern(used, start, pattern);
    const unlike = new Map<CivilDay, HeldRow>();
    for (let i = start; i < end; i++) {
      const day = used[i] as LocalDay;
      if (!dayFollows(day, pattern[weekdayNumber(day.date)] ?? nothing)) unlike.set(day.date, rowOf(day.open));
    }
    const followed = (day: LocalDay): boolean => dayFollows(day, pattern[weekdayNumber(day.date)] ?? nothing);
    const mustBegin = start === 0 && days.some((day) => day.date <= firstOpen && !followed(day) && !unlike.has(day.date));
    const mustEnd = end === used.length && days.some((day) => day.date >= lastOpen && !followed(day) && !unlike.has(day.date));
    found.push({
      week: pattern.map(rowOf),
      unlike,
      ...(start > 0 ? { from: firstMinuteFrom(zone, (used[start] as LocalDay).date) } : mustBegin && { from: begins }),
      ...(end < used.length ? { until: firstMinuteFrom(zone, (used[end] as LocalDay).date) } : mustEnd && { until: ends }),
    });
    start = end;
  }
  return found;
}

/** The same where a pattern would not be exact, as in an hour that comes twice and is open once: open throughout, from one minute to another. */
export const rangeByRange = (open: IntervalSet): readonly WeeklyTimes[] => {
  const wholeDay: HeldRow = [[0, minutesADay]];
  return rowOf(open).map(([from, until]) => ({ week: Array.from({ length: 7 }, () => wholeDay), unlike: new Map<CivilDay, HeldRow>(), from, until }));
};
