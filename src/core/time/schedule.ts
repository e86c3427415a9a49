import { addDays, minutesADay, weekdayNumber } from "./civil-day";
import type { CivilDay } from "./civil-day";
import type { HolidayCalendar } from "./calendar";
import type { EpochMinute } from "./instant";
import type { IntervalSet } from "./intervals";
import { append, contains, range, union } from "./intervals";
import { localTime } from "./zone";
import type { Zone } from "./zone";

/** `[start, end]` in minutes of the day, 0..1440; start after end runs overnight. */
export type ClockInterval = readonly [start: number, end: number];

/** One row: what a day opens on its own date, and what its overnight intervals open on the next. Minutes of the day. */
interface Row {
  readonly ownDate: IntervalSet;
  readonly nextDate: IntervalSet;
}

export type Schedule = { readonly kind: "always" } | WeeklySchedule;

export interface WeeklySchedule {
  readonly kind: "weekly";
  /** Index 0 is Monday. */
  readonly week: readonly Row[];
  readonly holidays: ReadonlyMap<string, Row>;
  /** What a day type without a row of its own does. */
  readonly onHoliday: "closed" | "weekday";
  /** First and last date in use, both included; undefined for no bound. */
  readonly from: CivilDay | undefined;
  readonly until: CivilDay | undefined;
}

const emptyRow: Row = { ownDate: [], nextDate: [] };

/** A row from its intervals, which may overlap; `start == end` is empty. */
function rowOf(intervals: readonly ClockInterval[]): Row {
  let row = emptyRow;
  for (const [start, end] of intervals) {
    row =
      start <= end
        ? { ownDate: union(row.ownDate, range(start, end)), nextDate: row.nextDate }
        : {
            ownDate: union(row.ownDate, range(start, minutesADay)),
            nextDate: union(row.nextDate, range(0, end)),
          };
  }
  return row;
}

/** A weekly schedule from clock intervals; index 0 of `week` is Monday. */
export function weeklySchedule(parts: {
  week: readonly (readonly ClockInterval[])[];
  holidays: ReadonlyMap<string, readonly ClockInterval[]>;
  onHoliday: "closed" | "weekday";
  from: CivilDay | undefined;
  until: CivilDay | undefined;
}): Schedule {
  return {
    kind: "weekly",
    week: parts.week.map(rowOf),
    holidays: new Map([...parts.holidays].map(([dayType, intervals]) => [dayType, rowOf(intervals)])),
    onHoliday: parts.onHoliday,
    from: parts.from,
    until: parts.until,
  };
}

/** The row of a date, by the three rules in their order; without a calendar every date is an ordinary one. */
function rowOn(schedule: WeeklySchedule, calendar: HolidayCalendar | undefined, date: CivilDay): Row {
  if (schedule.from !== undefined && date < schedule.from) return emptyRow;
  if (schedule.until !== undefined && date > schedule.until) return emptyRow;
  const reading = calendar?.read(date);
  if (reading) {
    const own = schedule.holidays.get(reading.winner.dayType);
    if (own) return own;
    if (schedule.onHoliday === "closed") return emptyRow;
  }
  return schedule.week[weekdayNumber(date)] ?? emptyRow;
}

/** Minutes of the day at which a schedule is open on a local date, the tail of the night before included. */
export function openOnDate(schedule: Schedule, calendar: HolidayCalendar | undefined, date: CivilDay): IntervalSet {
  if (schedule.kind === "always") return [0, minutesADay];
  return union(rowOn(schedule, calendar, date).ownDate, rowOn(schedule, calendar, addDays(date, -1)).nextDate);
}

/** Whether a schedule is open at a minute on the wall clock of a zone, with a calendar or none. */
export function openAt(schedule: Schedule, calendar: HolidayCalendar | undefined, zone: Zone, minute: EpochMinute): boolean {
  if (schedule.kind === "always") return true;
  const { date, minuteOfDay } = localTime(zone, minute);
  return (
    contains(rowOn(schedule, calendar, date).ownDate, minuteOfDay) ||
    contains(rowOn(schedule, calendar, addDays(date, -1)).nextDate, minuteOfDay)
  );
}

/**
 * The minutes of `[from, to)` at which a schedule is open, as UTC minutes. Each stretch between two clock changes is laid out
 * on its own, so an hour that is skipped never comes and one that is repeated counts twice.
 */
export function openDuring(
  schedule: Schedule,
  calendar: HolidayCalendar | undefined,
  zone: Zone,
  from: EpochMinute,
  to: EpochMinute,
): IntervalSet {
  if (schedule.kind === "always" || from >= to) return range(from, to);
  const open: number[] = [];
  for (const segment of zone.segments(from, to)) {
    const firstDate = Math.floor((segment.from + segment.offset) / minutesADay);
    const lastDate = Math.floor((segment.to - 1 + segment.offset) / minutesADay);
    let before = rowOn(schedule, calendar, (firstDate - 1) as CivilDay);
    for (let date = firstDate; date <= lastDate; date++) {
      const midnight = date * minutesADay - segment.offset;
      const row = rowOn(schedule, calendar, date as CivilDay);
      const day = union(row.ownDate, before.nextDate);
      before = row;
      for (let i = 0; i < day.length; i += 2) {
        append(
          open,
          Math.max(segment.from, midnight + (day[i] as number)),
          Math.min(segment.to, midnight + (day[i + 1] as number)),
        );
      }
    }
  }
  return open;
}
