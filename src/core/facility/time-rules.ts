import { required } from "../kernel/invariant";
import { holidayCalendar } from "../time/calendar";
import type { CalendarEntry, DayRule, HolidayCalendar } from "../time/calendar";
import { parseCivilDay, parseClock, parseMonthDay, weekdays } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { parseInstant, parseMoment } from "../time/instant";
import type { Instant } from "../time/instant";
import { weeklySchedule } from "../time/schedule";
import type { ClockInterval, Schedule } from "../time/schedule";
import { windowOf } from "../time/window";
import type { Rounding, Window } from "../time/window";
import type { Zone } from "../time/zone";
import type { DocumentDay, DocumentCalendar, ClockRange, DocumentSchedule } from "./document";

const dateOf = (text: string): CivilDay => required(parseCivilDay(text), "a well-formed document has possible dates");
const monthDayOf = (text: string): number => required(parseMonthDay(text), "a well-formed document has possible month-days");

/** An instant of a well-formed document. */
export const instantOf = (text: string): Instant => required(parseInstant(text), "a well-formed document has possible instants");

/** The rule of a calendar entry as a value; the document's keys say which one it is. */
export function dayRuleOf(day: DocumentDay): DayRule {
  if (day.on !== undefined) return { rule: "on", date: dateOf(day.on) };
  if (day.yearly !== undefined) return { rule: "yearly", monthDay: monthDayOf(day.yearly) };
  if (day.yearlyFrom !== undefined) return { rule: "yearlySpan", from: monthDayOf(day.yearlyFrom), to: monthDayOf(day.yearlyTo) };
  if (day.easter !== undefined) return { rule: "easter", offset: day.easter };
  if (day.nth !== undefined) return { rule: "nth", ...day.nth };
  return { rule: "span", from: dateOf(day.from), to: dateOf(day.to) };
}

export const calendarEntryOf = (day: DocumentDay): CalendarEntry => ({
  name: day.name,
  dayType: day.dayType,
  priority: day.priority ?? 0,
  when: dayRuleOf(day),
});

export const calendarOf = (draft: DocumentCalendar): HolidayCalendar => holidayCalendar((draft.days ?? []).map(calendarEntryOf));

export const clockIntervalOf = ([start, end]: ClockRange): ClockInterval => [
  required(parseClock(start, false), "a well-formed document has possible clock times"),
  required(parseClock(end, true), "a well-formed document has possible clock times"),
];

export function scheduleOf(draft: DocumentSchedule): Schedule {
  if (draft.always) return { kind: "always" };
  return weeklySchedule({
    week: weekdays.map((weekday) => (draft.week?.[weekday] ?? []).map(clockIntervalOf)),
    holidays: new Map(Object.entries(draft.holidays ?? {}).map(([dayType, row]) => [dayType, row.map(clockIntervalOf)])),
    onHoliday: draft.onHoliday ?? "closed",
    from: draft.from === undefined ? undefined : dateOf(draft.from),
    until: draft.until === undefined ? undefined : dateOf(draft.until),
  });
}

/** The window of an object with `from` and `until`, in minutes, dates read in `zone`. */
export function objectWindow(object: { readonly from?: string; readonly until?: string }, zone: Zone, rounding: Rounding): Window {
  const moment = (text: string | undefined) => (text === undefined ? undefined : required(parseMoment(text), "a well-formed document has possible moments"));
  return windowOf(moment(object.from), moment(object.until), zone, rounding);
}
