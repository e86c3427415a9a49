import type { DocumentCalendar, ClockRange, DocumentSchedule } from "../../facility/document";
import { clockIntervalOf } from "../../facility/time-rules";
import { formatClock, minutesADay, weekdays } from "../../time/civil-day";
import { fromRanges, range, subtract } from "../../time/intervals";

/** Minutes of the day that a row opens; an overnight interval that ends at 00:00 reaches to the end of its day. */
const minutesOf = (row: readonly ClockRange[]) =>
  fromRanges(
    row
      .map(clockIntervalOf)
      .map(([start, end]) => [start, start > end ? minutesADay : end] as const)
      .filter(([start, end]) => start < end),
  );

/** What a row leaves of its day, in maximal intervals. */
function leftBy(row: readonly ClockRange[]): ClockRange[] {
  const left = subtract(range(0, minutesADay), minutesOf(row));
  return Array.from({ length: left.length / 2 }, (_, i) => [formatClock(left[2 * i] as number), formatClock(left[2 * i + 1] as number)] as const);
}

const endsAfterMidnight = (row: readonly ClockRange[]): boolean => row.map(clockIntervalOf).some(([start, end]) => start > end && end > 0);

/**
 * The schedule that is open when another one is not, without its id; undefined for one that is always open, that begins or ends by a date, or
 * of which a night runs into the next day, since no schedule of the format says the opposite of these.
 */
export function outsideOf(schedule: DocumentSchedule, calendars: readonly DocumentCalendar[]): Omit<DocumentSchedule, "id"> | undefined {
  const { always, week = {}, holidays = {}, onHoliday = "closed", from, until } = schedule;
  const rows = [...weekdays.map((weekday) => week[weekday] ?? []), ...Object.values(holidays)];
  if (always || from !== undefined || until !== undefined || rows.some(endsAfterMidnight)) return undefined;
  const dayTypes = onHoliday === "closed" ? calendars.flatMap(({ days = [] }) => days.map(({ dayType }) => dayType)) : [];
  const all = new Map<string, ClockRange[]>(dayTypes.map((dayType) => [dayType, leftBy([])]));
  for (const [dayType, row] of Object.entries(holidays)) all.set(dayType, leftBy(row));
  return {
    name: `outside ${schedule.name}`,
    week: Object.fromEntries(weekdays.map((weekday) => [weekday, leftBy(week[weekday] ?? [])] as const)),
    holidays: Object.fromEntries(all),
    onHoliday: "weekday",
  };
}
