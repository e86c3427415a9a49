import type { CivilDay } from "../time/civil-day";
import { addDays, minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { append, clip, fromRanges, subtract } from "../time/intervals";
import type { Zone } from "../time/zone";
import { localTime } from "../time/zone";

/** What a timetable is on one local date. Sets are of minutes of the day, 0..1440. */
export interface LocalDay {
  readonly date: CivilDay;
  readonly open: IntervalSet;
  /** Minutes of the day that the wall clock skips on this date. */
  readonly skipped: IntervalSet;
}

/** A timetable of UTC minutes over `[from, to)` as local dates in order; a minute that comes twice is open if either is. */
export function localDays(open: IntervalSet, zone: Zone, from: EpochMinute, to: EpochMinute): LocalDay[] {
  const segments = zone.segments(from, to);
  const ranges: (readonly [number, number])[] = [];
  const gaps: number[] = [];
  let shown = -Infinity;
  for (const segment of segments) {
    const inside = clip(open, segment.from, segment.to);
    for (let i = 0; i < inside.length; i += 2)
      ranges.push([(inside[i] as number) + segment.offset, (inside[i + 1] as number) + segment.offset]);
    if (shown !== -Infinity && segment.from + segment.offset > shown) append(gaps, shown, segment.from + segment.offset);
    shown = segment.to + segment.offset;
  }
  const local = fromRanges(ranges);
  const first = localTime(zone, from).date;
  const last = localTime(zone, (to - 1) as EpochMinute).date;
  const days: LocalDay[] = [];
  let i = 0;
  for (let date = first; date <= last; date = addDays(date, 1)) {
    const midnight = date * minutesADay;
    while (i < local.length && (local[i + 1] as number) <= midnight) i += 2;
    const set: number[] = [];
    for (let k = i; k < local.length && (local[k] as number) < midnight + minutesADay; k += 2)
      append(set, Math.max(0, (local[k] as number) - midnight), Math.min(minutesADay, (local[k + 1] as number) - midnight));
    const skipped = clip(gaps, midnight, midnight + minutesADay).map((minute) => minute - midnight);
    days.push({ date, open: set, skipped });
  }
  return days;
}

/** Whether a date opens just as a pattern of minutes of the day says; minutes that the clock skips do not count. */
export function dayFollows(day: LocalDay, pattern: IntervalSet): boolean {
  const expected = subtract(pattern, day.skipped);
  return expected.length === day.open.length && expected.every((minute, i) => minute === day.open[i]);
}
