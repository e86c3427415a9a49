import type { DocumentSchedule } from "../facility/document";
import type { Facility } from "../facility/facility";
import { clockIntervalOf } from "../facility/time-rules";
import { weekdays } from "../time/civil-day";
import type { ClockInterval } from "../time/schedule";

/** A row of a schedule: `mon` to `sun`, or `holidays.` and a day type; with its intervals in minutes of the day, as written. */
export interface ScheduleRow {
  readonly name: string;
  readonly intervals: readonly ClockInterval[];
}

export const scheduleRows = ({ week = {}, holidays = {} }: DocumentSchedule): ScheduleRow[] => [
  ...weekdays.flatMap((day) => (week[day] ? [{ name: day, intervals: week[day].map(clockIntervalOf) }] : [])),
  ...Object.entries(holidays).map(([dayType, row]) => ({ name: `holidays.${dayType}`, intervals: row.map(clockIntervalOf) })),
];

/** The schedules that doors, levels, grants or cardholders name. */
export const schedulesNamed = ({ doors, levels, grants, cardholders }: Facility): ReadonlySet<string> =>
  new Set(
    [
      ...doors.flatMap(({ unlock, entryRows = [] }) => [unlock, ...entryRows.map(({ schedule }) => schedule)]),
      ...levels.flatMap(({ rows = [] }) => rows.map(({ schedule }) => schedule)),
      ...grants.map(({ schedule }) => schedule),
      ...cardholders.map(({ hours }) => hours),
    ].flatMap((id) => id ?? []),
  );
