import ICAL from "ical.js";
import type { CalendarDayDraft, CalendarDraft } from "@/core/facility/draft";
import { covers } from "@/core/time/calendar";
import { addDays, civilDay, formatCivilDay, parseCivilDay, weekdays, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { dayRuleOf } from "@/core/facility/time-rules";
import { present } from "@/core/kernel/invariant";

/**
 * Holiday calendars as iCalendar (RFC 5545): an all-day VEVENT for each entry, its day type in CATEGORIES. What iCalendar cannot say
 * for good (days counted from Easter, and spans that a leap day makes longer) is written out as dates for others to read, and as a
 * rule of our own for ourselves.
 */

const ruleName = "x-nomade-rule";
const priorityName = "x-nomade-priority";
const idName = "x-nomade-calendar";
const calendarName = "x-wr-calname";
/** How many years are written out, or read, where a rule has to be said as dates. */
const yearsWritten = 10;
const defaultDayType = "public";
const icalWeekdays = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];

export class CalendarFileError extends Error {}

/** An event that cannot be taken in: which, and what was expected. */
export interface RefusedEvent {
  /** Its place in the file, from 1. */
  readonly number: number;
  readonly name: string;
  readonly reason: string;
}

export interface ReadCalendar {
  readonly calendar: CalendarDraft;
  readonly refused: readonly RefusedEvent[];
}

const icalDate = (date: CivilDay): ICAL.Time => ICAL.Time.fromDateString(formatCivilDay(date));
const dayOf = (time: ICAL.Time): CivilDay => civilDay(time.year, time.month, time.day);

/** Dates of an entry from a year on, as runs of consecutive days. */
function runsOf(day: CalendarDayDraft, year: number): [CivilDay, CivilDay][] {
  const when = dayRuleOf(day);
  const runs: [CivilDay, CivilDay][] = [];
  for (let date = civilDay(year, 1, 1); date < civilDay(year + yearsWritten, 1, 1); date = addDays(date, 1)) {
    if (!covers(when, date)) continue;
    const last = runs[runs.length - 1];
    if (last && addDays(last[1], 1) === date) last[1] = date;
    else runs.push([date, date]);
  }
  return runs;
}

function addDate(event: ICAL.Component, name: string, date: CivilDay): void {
  const property = new ICAL.Property(name);
  property.setValue(icalDate(date));
  event.addProperty(property);
}

function eventOf(day: CalendarDayDraft, uid: string, year: number): ICAL.Component | undefined {
  const event = new ICAL.Component("vevent");
  event.updatePropertyWithValue("uid", uid);
  event.updatePropertyWithValue("dtstamp", ICAL.Time.fromDateTimeString(`${year}-01-01T00:00:00Z`));
  event.updatePropertyWithValue("summary", day.name);
  event.updatePropertyWithValue("categories", day.dayType);
  event.updatePropertyWithValue("transp", "TRANSPARENT");
  const { name: _name, dayType: _dayType, priority, ...rule } = day;
  if (priority !== undefined) event.updatePropertyWithValue(priorityName, String(priority));
  event.updatePropertyWithValue(ruleName, JSON.stringify(rule));
  const rrule = (text: string): void => {
    const property = new ICAL.Property("rrule");
    property.setValue(ICAL.Recur.fromString(text));
    event.addProperty(property);
  };
  const when = dayRuleOf(day);
  const runs = when.rule === "yearlySpan" ? runsOf(day, year - 1) : runsOf(day, year);
  // A span over the turn of the year is half over at the beginning of what is written out.
  const isCut = when.rule === "yearlySpan" && when.from > when.to;
  const [first, ...others] = when.rule === "on" ? [[when.date, when.date] as const] : when.rule === "span" ? [[when.from, when.to] as const] : isCut ? runs.slice(1) : runs;
  if (!first || first[0] > first[1]) return undefined;
  addDate(event, "dtstart", first[0]);
  if (first[1] > first[0]) addDate(event, "dtend", addDays(first[1], 1));
  if (when.rule === "yearly") rrule("FREQ=YEARLY");
  else if (when.rule === "nth") rrule(`FREQ=YEARLY;BYMONTH=${when.month};BYDAY=${when.n}${icalWeekdays[weekdays.indexOf(when.weekday)] ?? ""}`);
  else if (when.rule === "yearlySpan") rrule("FREQ=YEARLY");
  else for (const [date] of others) addDate(event, "rdate", date);
  return event;
}

/** A calendar as iCalendar; rules that have to be written out as dates begin in `year`. */
export function writeCalendar(calendar: CalendarDraft, year: number): string {
  const file = new ICAL.Component("vcalendar");
  file.updatePropertyWithValue("prodid", "-//Nomade//Holiday calendar//EN");
  file.updatePropertyWithValue("version", "2.0");
  file.updatePropertyWithValue(calendarName, calendar.name);
  file.updatePropertyWithValue(idName, calendar.id);
  (calendar.days ?? []).forEach((day, i) => {
    const event = eventOf(day, `${i + 1}.${calendar.id}@nomade`, year);
    if (event) file.addSubcomponent(event);
  });
  return `${file.toString()}\r\n`;
}

const textOf = (component: ICAL.Component, name: string): string | undefined => {
  const value = component.getFirstPropertyValue(name);
  return value === null ? undefined : typeof value === "string" ? value : value.toString();
};

const pad = (number: number): string => String(number).padStart(2, "0");

/** The rule of an event that repeats by itself in a way that a calendar entry can say; undefined for any other. */
function repeating(recur: ICAL.Recur, start: CivilDay, end: CivilDay): Partial<CalendarDayDraft> | undefined {
  if (recur.freq !== "YEARLY" || recur.interval !== 1 || recur.count || recur.until) return undefined;
  const parts = recur.parts as Readonly<Record<string, readonly (string | number)[] | undefined>>;
  const known = Object.keys(parts);
  const { month, day } = yearMonthDay(start);
  if (known.every((part) => part === "BYMONTH" || part === "BYMONTHDAY")) {
    if ((parts.BYMONTH ?? [month]).join() !== String(month) || (parts.BYMONTHDAY ?? [day]).join() !== String(day)) return undefined;
    if (start === end) return { yearly: `${pad(month)}-${pad(day)}` };
    const to = yearMonthDay(end);
    return { yearlyFrom: `${pad(month)}-${pad(day)}`, yearlyTo: `${pad(to.month)}-${pad(to.day)}` };
  }
  const byDay = /^(-?\d+)(MO|TU|WE|TH|FR|SA|SU)$/.exec(String(parts.BYDAY?.[0] ?? ""));
  if (!byDay || start !== end || parts.BYDAY?.length !== 1 || !known.every((part) => part === "BYMONTH" || part === "BYDAY") || parts.BYMONTH?.length !== 1) return undefined;
  const [n, weekday] = [Number(byDay[1]), weekdays[icalWeekdays.indexOf(byDay[2] ?? "")]];
  return weekday && [1, 2, 3, 4, 5, -1].includes(n) ? { nth: { month: Number(parts.BYMONTH[0]), weekday, n } } : undefined;
}

const ruleKeys = new Set(["on", "from", "to", "yearly", "yearlyFrom", "yearlyTo", "easter", "nth"]);

function ownRule(event: ICAL.Component): Partial<CalendarDayDraft> | undefined {
  try {
    const value: unknown = JSON.parse(textOf(event, ruleName) ?? "");
    return typeof value === "object" && value !== null && Object.keys(value).length > 0 && Object.keys(value).every((key) => ruleKeys.has(key)) ? value : undefined;
  } catch {
    return undefined;
  }
}

const dated = (start: CivilDay, end: CivilDay): Partial<CalendarDayDraft> => (start === end ? { on: formatCivilDay(start) } : { from: formatCivilDay(start), to: formatCivilDay(end) });

/** The entries of an event; a text where it cannot be one. Recurrence that no rule of ours says is read as dates, from `year` on. */
function entriesOf(component: ICAL.Component, year: number): readonly Partial<CalendarDayDraft>[] | string {
  const property = component.getFirstProperty("dtstart");
  const stated = property?.getFirstValue();
  if (!(stated instanceof ICAL.Time)) return "it has no DTSTART; expected a date";
  if (!stated.isDate) return `its DTSTART ${stated.toString()} has a time of day; expected an all-day event (VALUE=DATE)`;
  const event = new ICAL.Event(component);
  const first = dayOf(event.startDate);
  // RFC 5545, 3.6.1: DTEND is not included; without one an all-day event takes one day.
  const length = Math.max(1, dayOf(event.endDate) - first);
  const last = addDays(first, length - 1);
  if (parseCivilDay(formatCivilDay(first)) === undefined) return "its DTSTART is no date that exists";
  const own = ownRule(component);
  if (own) return [own];
  if (!event.isRecurring()) return [dated(first, last)];
  const recur = component.getFirstPropertyValue("rrule");
  const hasDates = component.hasProperty("rdate") || component.hasProperty("exdate");
  const rule = recur instanceof ICAL.Recur && !hasDates && component.getAllProperties("rrule").length === 1 ? repeating(recur, first, last) : undefined;
  if (rule) return [rule];
  const starts = new Set<CivilDay>();
  // RFC 5545, 3.8.5.2: DTSTART is the first instance of the recurrence set; the library leaves it out where there are only RDATEs.
  const excepted = component.getAllProperties("exdate").some((one) => one.getValues().some((value) => value instanceof ICAL.Time && dayOf(value) === first));
  if (!excepted) starts.add(first);
  const each = event.iterator();
  const end = civilDay(year + yearsWritten, 1, 1);
  for (let next = each.next() as ICAL.Time | null; next && dayOf(next) < end; next = each.next() as ICAL.Time | null) starts.add(dayOf(next));
  return [...starts].sort((a, b) => a - b).map((start) => dated(start, addDays(start, length - 1)));
}

/**
 * Reads an iCalendar file as one holiday calendar. Throws where it is none; events that cannot be read are told. Day types given
 * here, by the summary of an event, go before those of the file.
 */
export function readCalendar(text: string, otherwise: { readonly id: string; readonly name: string }, year: number, dayTypes: Readonly<Record<string, string>> = {}): ReadCalendar {
  let file: ICAL.Component;
  try {
    file = new ICAL.Component(ICAL.parse(text) as string);
  } catch (error) {
    throw new CalendarFileError(`This is no iCalendar (${(error as Error).message}); expected BEGIN:VCALENDAR (RFC 5545).`);
  }
  if (file.name !== "vcalendar") throw new CalendarFileError(`This begins with ${file.name.toUpperCase()}; expected one VCALENDAR (RFC 5545).`);
  const refused: RefusedEvent[] = [];
  const days: CalendarDayDraft[] = [];
  file.getAllSubcomponents("vevent").forEach((event, i) => {
    const name = textOf(event, "summary") ?? "";
    let entries: ReturnType<typeof entriesOf>;
    try {
      entries = entriesOf(event, year);
    } catch (error) {
      entries = `it cannot be read (${(error as Error).message})`;
    }
    if (typeof entries === "string") refused.push({ number: i + 1, name, reason: entries });
    else {
      const priority = Number(textOf(event, priorityName) ?? 0);
      const dayType = (Object.hasOwn(dayTypes, name) ? dayTypes[name] : undefined) ?? textOf(event, "categories") ?? defaultDayType;
      for (const entry of entries) days.push({ name, dayType, ...(Number.isInteger(priority) && priority !== 0 && { priority }), ...entry });
    }
  });
  return { calendar: { id: present(textOf(file, idName) ?? otherwise.id, "a file has a name"), name: textOf(file, calendarName) ?? otherwise.name, days }, refused };
}
