import { addDays, civilDay, firstYear, formatCivilDay, minutesADay, yearMonthDay } from "./civil-day";
import type { CivilDay } from "./civil-day";
import type { EpochMinute } from "./instant";
import { required } from "../kernel/invariant";

/** A stretch of time in which the wall clock runs at one distance from UTC: `local = minute + offset`. */
export interface OffsetSegment {
  readonly from: number;
  readonly to: number;
  /** Minutes east of UTC, rounded down where the zone once had seconds. */
  readonly offset: number;
}

/** Wall-clock rules of one IANA zone, from the runtime's own copy of the database. */
export interface Zone {
  readonly name: string;
  /** Offset in force at a minute. */
  readonly offsetAt: (minute: EpochMinute) => number;
  /** The segments that cover `[from, to)`, in order, cut to it. */
  readonly segments: (from: EpochMinute, to: EpochMinute) => readonly OffsetSegment[];
}

/** Before this year every zone keeps its local mean time. */
const firstYearOfRules = 1800;
/**
 * From this year on every zone repeats the same rules for ever (the last table of dates, Morocco's, ends in 2087), and the calendar repeats
 * itself, weekdays included, every 400 years: what a zone does in 2512 it did in 2112.
 */
const firstYearOfCycle = 2100;
const cycleYears = 400;
const cycleMinutes = 146_097 * minutesADay;
const probeMinutes = 360;

function offsetReader(name: string): (minute: number) => number {
  const format = new Intl.DateTimeFormat("en-US", {
    timeZone: name,
    hourCycle: "h23",
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    hour: "2-digit",
    minute: "2-digit",
    second: "2-digit",
  });
  return (minute) => {
    const [month, day, year, hour, min, second] = format
      .format(minute * 60_000)
      .split(/\D+/)
      .map(Number) as [number, number, number, number, number, number];
    const localSeconds = civilDay(year, month, day) * 86400 + hour * 3600 + min * 60 + second;
    return Math.floor((localSeconds - minute * 60) / 60);
  };
}

/** Whether the runtime knows a zone by this name; offsets such as `+01:00` are no names of zones. */
export function isZoneName(name: string): boolean {
  if (!/^[A-Za-z]/.test(name)) return false;
  try {
    new Intl.DateTimeFormat("en-US", { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/** Offset changes of one year of UTC: `[minute, offset, minute, offset, …]`, the first at the start of the year. */
function changesOfYear(offsetAt: (minute: number) => number, year: number): readonly number[] {
  const start = civilDay(year, 1, 1) * minutesADay;
  const end = civilDay(year + 1, 1, 1) * minutesADay;
  let offset = offsetAt(start);
  const changes = [start, offset];
  for (let probe = start; probe < end - 1;) {
    const next = Math.min(probe + probeMinutes, end - 1);
    // Every turn of this loop finds a change that lies after the one before, so that there are at most as many as minutes between two probes.
    for (let low = probe; offsetAt(next) !== offset;) {
      let high = next;
      while (high - low > 1) {
        // No bit operation: minutes of far years do not fit into 32 bits.
        const middle = Math.floor((low + high) / 2);
        if (offsetAt(middle) === offset) low = middle;
        else high = middle;
      }
      offset = offsetAt(high);
      changes.push(high, offset);
      low = high;
    }
    probe = next;
  }
  return changes;
}

/** The changes of a year of the cycle, moved by so many minutes. */
const movedBy = (changes: readonly number[], minutes: number): readonly number[] => changes.map((bound, i) => (i % 2 === 0 ? bound + minutes : bound));

const zones = new Map<string, Zone>();

/** The zone of a name that `isZoneName` accepts; its rules are read once a year of UTC and kept. */
export function zoneOf(name: string): Zone {
  const known = zones.get(name);
  if (known) return known;
  const read = offsetReader(name);
  let meanTime: number | undefined;
  const years = new Map<number, readonly number[]>();
  const yearOf = (minute: number): number => yearMonthDay(Math.floor(minute / minutesADay) as CivilDay).year;
  const workOut = (year: number): readonly number[] => {
    if (year < firstYearOfRules) return [civilDay(year, 1, 1) * minutesADay, (meanTime ??= read(civilDay(firstYearOfRules, 1, 1) * minutesADay))];
    const cycles = Math.max(0, Math.floor((year - firstYearOfCycle) / cycleYears));
    return cycles === 0 ? changesOfYear(read, year) : movedBy(changes(year - cycles * cycleYears), cycles * cycleMinutes);
  };
  const changes = (year: number): readonly number[] => {
    let found = years.get(year);
    if (!found) years.set(year, (found = workOut(year)));
    return found;
  };
  const segments = (from: number, to: number): OffsetSegment[] => {
    const list: OffsetSegment[] = [];
    for (let year = yearOf(from); year <= yearOf(to - 1); year++) {
      const ofYear = changes(year);
      const yearEnd = civilDay(year + 1, 1, 1) * minutesADay;
      for (let i = 0; i < ofYear.length; i += 2) {
        const start = Math.max(from, ofYear[i] as number);
        const end = Math.min(to, ofYear[i + 2] ?? yearEnd);
        if (start >= end) continue;
        const offset = ofYear[i + 1] as number;
        const last = list[list.length - 1];
        if (last?.offset === offset) list[list.length - 1] = { ...last, to: end };
        else list.push({ from: start, to: end, offset });
      }
    }
    return list;
  };
  const zone: Zone = {
    name,
    segments,
    offsetAt: (minute) => {
      const ofYear = changes(yearOf(minute));
      let i = ofYear.length - 2;
      while (i > 0 && (ofYear[i] as number) > minute) i -= 2;
      return ofYear[i + 1] as number;
    },
  };
  zones.set(name, zone);
  return zone;
}

/** Date and minute of the day (0..1439) on the wall clock of a zone. */
export function localTime(zone: Zone, minute: EpochMinute): { date: CivilDay; minuteOfDay: number } {
  const local = minute + zone.offsetAt(minute);
  const date = Math.floor(local / minutesADay);
  return { date: date as CivilDay, minuteOfDay: local - date * minutesADay };
}

/** The date that a zone's clock shows at a minute, `YYYY-MM-DD`; the first of all dates where it would lie before that. */
export const localDateText = (zone: Zone, minute: EpochMinute): string =>
  formatCivilDay(Math.max(civilDay(firstYear, 1, 1), localTime(zone, minute).date) as CivilDay);

/** The last date of what ends at a minute, which itself does not belong to it. */
export const lastDateText = (zone: Zone, end: EpochMinute): string => localDateText(zone, (end - 1) as EpochMinute);

/** Wide enough around a local date to hold every minute that bears it, in any zone and past any clock change. */
const daysAround = 3;

/** The first minute whose local date is the given date or later. */
export function firstMinuteFrom(zone: Zone, date: CivilDay): EpochMinute {
  const local = date * minutesADay;
  const around = zone.segments((addDays(date, -daysAround) * minutesADay) as EpochMinute, (addDays(date, daysAround) * minutesADay) as EpochMinute);
  for (const segment of around) {
    const minute = Math.max(segment.from, local - segment.offset);
    if (minute < segment.to) return minute as EpochMinute;
  }
  return (local - required(around[around.length - 1], "a zone has an offset at every time").offset) as EpochMinute;
}

/** The end of the last minute whose local date is the given date or earlier. */
export function endOfMinutesThrough(zone: Zone, date: CivilDay): EpochMinute {
  const local = (date + 1) * minutesADay;
  const around = zone.segments((addDays(date, -daysAround) * minutesADay) as EpochMinute, (addDays(date, daysAround) * minutesADay) as EpochMinute);
  for (const segment of [...around].reverse()) {
    const end = Math.min(segment.to, local - segment.offset);
    if (end > segment.from) return end as EpochMinute;
  }
  return (local - required(around[0], "a zone has an offset at every time").offset) as EpochMinute;
}

/** The first minute at which the wall clock shows date and minute of the day, or, where it skips them, the first after them. */
export function minuteAtWallClock(zone: Zone, date: CivilDay, minuteOfDay: number): EpochMinute {
  const local = date * minutesADay + minuteOfDay;
  const from = ((date - daysAround) * minutesADay) as EpochMinute;
  for (const segment of zone.segments(from, ((date + daysAround) * minutesADay) as EpochMinute)) {
    const minute = Math.max(segment.from, local - segment.offset);
    if (minute < segment.to) return minute as EpochMinute;
  }
  return (local - zone.offsetAt(local as EpochMinute)) as EpochMinute;
}

/** The last minute at which the wall clock shows date and minute of the day (the second of two in autumn), or, where it skips them, the first after them. */
export function lastMinuteAtWallClock(zone: Zone, date: CivilDay, minuteOfDay: number): EpochMinute {
  const local = date * minutesADay + minuteOfDay;
  const from = ((date - daysAround) * minutesADay) as EpochMinute;
  for (const segment of [...zone.segments(from, ((date + daysAround) * minutesADay) as EpochMinute)].reverse()) {
    const minute = local - segment.offset;
    if (segment.from <= minute && minute < segment.to) return minute as EpochMinute;
  }
  return minuteAtWallClock(zone, date, minuteOfDay);
}
