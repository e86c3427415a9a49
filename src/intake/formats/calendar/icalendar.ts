import ICAL from "ical.js";
import type { DocumentDay, DocumentDayRule, DocumentCalendar } from "@/core/facility/document";
import { covers } from "@/core/time/calendar";
import { addDays, civilDay, firstYear, formatCivilDay, lastYear, parseCivilDay, weekdays, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { dayRuleOf } from "@/core/facility/time-rules";
import { required } from "@/core/kernel/invariant";
import type { RecurrenceRule } from "./recurrence";
import { daysToRead, parseRecurrence, recurrenceDates } from "./recurrence";

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
/** Limits of a file, each named by the sentence that refuses what is beyond it. */
const charactersAtMost = 20_000_000;
const entriesAtMost = 50_000;
const daysReadAtMost = 2_000_000;
const secondsADay = 86_400;
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
  readonly calendar: DocumentCalendar;
  readonly refused: readonly RefusedEvent[];
}

const dayOf = (time: ICAL.Time): CivilDay => civilDay(time.year, time.month, time.day);

/** Dates of an entry from a year on, as runs of consecutive days. */
function runsOf(day: DocumentDay, year: number): [CivilDay, CivilDay][] {
  const when = dayRuleOf(day);
  const runs: [CivilDay, CivilDay][] = [];
  // Towards the last year as many are written as elsewhere, so that every rule has a date.
  const from = Math.max(firstYear, Math.min(year, lastYear - yearsWritten + 1));
  for (let date = civilDay(from, 1, 1); date < civilDay(from + yearsWritten, 1, 1); date = addDays(date, 1)) {
    if (!covers(when, date)) continue;
    const run = runs[runs.length - 1];
    if (run && addDays(run[1], 1) === date) run[1] = date;
    else runs.push([date, date]);
  }
  return runs;
}

/** Adds a date, or a date with its time, as it is written: the library would leave out the zeros of a year before 1000. */
function addWritten(event: ICAL.Component, name: string, type: "date" | "date-time", text: string): void {
  const property = new ICAL.Property(name);
  property.resetType(type);
  property.setValue(text);
  event.addProperty(property);
}

const addDate = (event: ICAL.Component, name: string, date: CivilDay): void => addWritten(event, name, "date", formatCivilDay(date));

function eventOf(day: DocumentDay, uid: string, year: number): ICAL.Component | undefined {
  const event = new ICAL.Component("vevent");
  event.updatePropertyWithValue("uid", uid);
  addWritten(event, "dtstamp", "date-time", `${formatCivilDay(civilDay(year, 1, 1))}T00:00:00Z`);
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
  const [first, ...others] =
    when.rule === "on" ? [[when.date, when.date] as const] : when.rule === "span" ? [[when.from, when.to] as const] : isCut ? runs.slice(1) : runs;
  if (!first || first[0] > first[1]) return undefined;
  addDate(event, "dtstart", first[0]);
  // The end is the date after the last; after the last that can be written there is none, but a duration.
  if (first[1] >= civilDay(lastYear, 12, 31)) event.updatePropertyWithValue("duration", ICAL.Duration.fromSeconds((first[1] - first[0] + 1) * secondsADay));
  else if (first[1] > first[0]) addDate(event, "dtend", addDays(first[1], 1));
  if (when.rule === "yearly") rrule("FREQ=YEARLY");
  else if (when.rule === "nth") rrule(`FREQ=YEARLY;BYMONTH=${when.month};BYDAY=${when.n}${icalWeekdays[weekdays.indexOf(when.weekday)] ?? ""}`);
  else if (when.rule === "yearlySpan") rrule("FREQ=YEARLY");
  else for (const [date] of others) addDate(event, "rdate", date);
  return event;
}

/** A calendar as iCalendar; rules that have to be written out as dates begin in `year`. */
export function writeCalendar(calendar: DocumentCalendar, year: number): string {
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

/** The same rule as one of a calendar entry; undefined where no such rule comes on the same dates. */
function repeating(rule: RecurrenceRule, start: CivilDay, end: CivilDay): DocumentDayRule | undefined {
  const { year: _year, month, day } = yearMonthDay(start);
  if (
    rule.frequency !== "YEARLY" ||
    rule.interval !== 1 ||
    rule.count !== undefined ||
    rule.until !== undefined ||
    rule.positions.length + rule.yearDays.length > 0
  )
    return undefined;
  const [byDay, ...otherDays] = rule.days;
  if (!byDay) {
    if ((rule.months.length > 0 && rule.months.join() !== String(month)) || (rule.monthDays.length > 0 && rule.monthDays.join() !== String(day)))
      return undefined;
    if (start === end) return { yearly: `${pad(month)}-${pad(day)}` };
    // A span that a leap day makes longer, or that runs longer than a year, is no span from one date of the year to another.
    const to = yearMonthDay(end);
    return end - start < 300 && !(month === 2 && day === 29) && !holdsLeapDay(start, end)
      ? { yearlyFrom: `${pad(month)}-${pad(day)}`, yearlyTo: `${pad(to.month)}-${pad(to.day)}` }
      : undefined;
  }
  const [n, weekday] = [byDay.n, weekdays[byDay.weekday]];
  if (n === undefined || weekday === undefined || start !== end || otherDays.length > 0 || rule.months.length !== 1 || rule.monthDays.length > 0)
    return undefined;
  // The first instance is the event's own date; a rule of ours has none of its own.
  return [1, 2, 3, 4, 5, -1].includes(n) && recurrenceDates(rule, addDays(start, -366), start, start).includes(start)
    ? { nth: { month: rule.months[0] ?? month, weekday, n } }
    : undefined;
}

/** Whether a span of every year passes the end of February, where its length differs in leap years. */
function holdsLeapDay(start: CivilDay, end: CivilDay): boolean {
  const { year } = yearMonthDay(start);
  return [year, year + 1].some((one) => {
    const march = civilDay(one, 3, 1);
    return start < march && march <= end;
  });
}

/** The keys of each rule of a calendar entry, sorted. */
const ruleKeys = new Set(["on", "from to", "yearly", "yearlyFrom yearlyTo", "easter", "nth"]);

function ownRule(event: ICAL.Component): DocumentDayRule | undefined {
  try {
    const value: unknown = JSON.parse(textOf(event, ruleName) ?? "");
    return typeof value === "object" && value !== null && ruleKeys.has(Object.keys(value).sort().join(" ")) ? (value as DocumentDayRule) : undefined;
  } catch {
    return undefined;
  }
}

const dated = (start: CivilDay, end: CivilDay): DocumentDayRule =>
  start === end ? { on: formatCivilDay(start) } : { from: formatCivilDay(start), to: formatCivilDay(end) };

/** The rule that we wrote into an event, where the event still says what it said then: what somebody edited is read as edited. */
function ownRuleOf(component: ICAL.Component, start: CivilDay): DocumentDayRule | undefined {
  const rule = ownRule(component);
  if (!rule) return undefined;
  const whenOf = (event: ICAL.Component): string =>
    JSON.stringify(
      ["dtstart", "dtend", "rrule", "rdate", "exdate", "recurrence-id", "duration"].map((name) =>
        event.getAllProperties(name).map((one) => one.toICALString()),
      ),
    );
  const { year } = yearMonthDay(start);
  const written = whenOf(component);
  return [year, year + 1].some((one) => {
    const event = eventOf({ name: "", dayType: "", ...rule }, "", one);
    return event !== undefined && whenOf(event) === written;
  })
    ? rule
    : undefined;
}

/** The dates of a property as they are written: the library makes 2 March of 30 February. */
const writtenDates = (property: ICAL.Property): string[] => (property.type === "date" ? (property.toJSON() as readonly unknown[]).slice(3).map(String) : []);

/** The dates of a property that names dates; a text where it holds anything else. */
function datesIn(component: ICAL.Component, name: string): readonly CivilDay[] | string {
  const dates: CivilDay[] = [];
  for (const property of component.getAllProperties(name))
    for (const value of property.getValues()) {
      if (!(value instanceof ICAL.Time) || !value.isDate) return `its ${name.toUpperCase()} is ${String(value)}; read are dates (VALUE=DATE)`;
      dates.push(dayOf(value));
    }
  return dates;
}

/** What is read of one file: the stretch of dates for what has to be said as dates, and what may still be spent on it. */
interface EntryLimits {
  readonly from: CivilDay;
  readonly to: CivilDay;
  daysLeft: number;
}

/** The entries of an event; a text where it cannot be read. `moved` are the dates of its instances that other events speak of. */
function entriesOf(component: ICAL.Component, moved: ReadonlySet<CivilDay>, limits: EntryLimits): readonly DocumentDayRule[] | string {
  const stated = component.getFirstProperty("dtstart")?.getFirstValue();
  if (!(stated instanceof ICAL.Time)) return "it has no DTSTART; expected a date";
  if (!stated.isDate) return `its DTSTART ${stated.toString()} has a time of day; expected an all-day event (VALUE=DATE)`;
  const event = new ICAL.Event(component);
  const first = dayOf(event.startDate);
  const misdated = ["dtstart", "dtend", "rdate", "exdate", "recurrence-id"]
    .flatMap((name) => component.getAllProperties(name).flatMap((property) => writtenDates(property).map((text) => [name, text] as const)))
    .find(([, text]) => parseCivilDay(text) === undefined);
  if (misdated) return `its ${misdated[0].toUpperCase()} ${misdated[1]} is no date that exists`;
  // RFC 5545, 3.6.1: DTEND is not included; without one an all-day event takes one day.
  if (event.endDate.compare(event.startDate) < 0) return `its DTEND ${event.endDate.toString()} lies before its DTSTART ${stated.toString()}`;
  const length = Math.max(1, dayOf(event.endDate) - first);
  const last = addDays(first, length - 1);
  if (last >= civilDay(lastYear + 1, 1, 1)) return `it ends after the year ${lastYear}`;
  // An event that was called off is no holiday.
  if (textOf(component, "status")?.toUpperCase() === "CANCELLED") return [];
  const own = moved.size === 0 ? ownRuleOf(component, first) : undefined;
  if (own) return [own];
  const unread = ["exrule"].find((name) => component.hasProperty(name));
  if (unread) return `it has ${unread.toUpperCase()}, which is not read`;
  const [added, excepted] = [datesIn(component, "rdate"), datesIn(component, "exdate")];
  if (typeof added === "string") return added;
  if (typeof excepted === "string") return excepted;
  const rules = component.getAllProperties("rrule");
  if (rules.length > 1) return `it has ${rules.length} RRULEs; read is one`;
  if (component.hasProperty("recurrence-id") && rules.length + added.length > 0) return "it has both RECURRENCE-ID and a recurrence of its own";
  const rule = rules[0] && parseRecurrence(String(rules[0].getFirstValue()));
  if (typeof rule === "string") return rule;
  const isPlain = added.length + excepted.length + moved.size === 0;
  if (isPlain && !rule) return [dated(first, last)];
  // A rule of ours has no beginning, so one that begins later than what is read would come too early.
  const endless = isPlain && rule && yearMonthDay(first).year < yearMonthDay(limits.to).year - yearsWritten + 1 ? repeating(rule, first, last) : undefined;
  if (endless) return [endless];
  const from = addDays(limits.from, 1 - length);
  if (rule) limits.daysLeft -= daysToRead(rule, first, from, limits.to);
  if (limits.daysLeft < 0)
    throw new CalendarFileError(
      `Its recurrences take more than ${daysReadAtMost.toLocaleString("en-GB")} days to follow, which is the limit of a file. Bring fewer events, or let them begin later.`,
    );
  const starts = new Set(rule ? recurrenceDates(rule, first, from, limits.to) : [first]);
  for (const date of added) if (date >= from && date <= limits.to) starts.add(date);
  for (const date of [...excepted, ...moved]) starts.delete(date);
  return [...starts].sort((a, b) => a - b).map((start) => dated(start, addDays(start, length - 1)));
}

/** The one calendar of a text. Throws a `CalendarFileError` where there is none, or more. */
function calendarIn(text: string): ICAL.Component {
  if (text.length > charactersAtMost)
    throw new CalendarFileError(
      `It has ${text.length.toLocaleString("en-GB")} characters; the limit of a calendar file is ${charactersAtMost.toLocaleString("en-GB")}.`,
    );
  const content = text.replace(/^\uFEFF/, "");
  if (content.trim() === "") throw new CalendarFileError("This file is empty; expected BEGIN:VCALENDAR (RFC 5545).");
  let parsed: unknown;
  try {
    parsed = ICAL.parse(content);
  } catch (error) {
    throw new CalendarFileError(`This is no iCalendar (${(error as Error).message}); expected BEGIN:VCALENDAR (RFC 5545).`);
  }
  if (!Array.isArray(parsed) || parsed.length === 0) throw new CalendarFileError("This is no iCalendar; expected BEGIN:VCALENDAR (RFC 5545).");
  if (Array.isArray(parsed[0])) throw new CalendarFileError(`This file holds ${parsed.length} calendars; expected one. Bring each in a file of its own.`);
  const file = new ICAL.Component(parsed as ConstructorParameters<typeof ICAL.Component>[0]);
  if (file.name !== "vcalendar") throw new CalendarFileError(`This begins with ${file.name.toUpperCase()}; expected one VCALENDAR (RFC 5545).`);
  return file;
}

/** By UID, the dates of instances that an event of their own speaks of (RFC 5545, 3.8.4.4); a text, by event, where that is not read. */
function movedInstances(events: readonly ICAL.Component[]): {
  readonly moved: ReadonlyMap<string, ReadonlySet<CivilDay>>;
  readonly unread: ReadonlyMap<ICAL.Component, string>;
} {
  const moved = new Map<string, Set<CivilDay>>();
  const unread = new Map<ICAL.Component, string>();
  for (const event of events) {
    const property = event.getFirstProperty("recurrence-id");
    if (!property) continue;
    const value = property.getFirstValue();
    if (!(value instanceof ICAL.Time) || !value.isDate) unread.set(event, `its RECURRENCE-ID is ${String(value)}; read is a date (VALUE=DATE)`);
    else if (property.getFirstParameter("range")) unread.set(event, "its RECURRENCE-ID has RANGE, which is not read");
    const uid = textOf(event, "uid") ?? "";
    if (value instanceof ICAL.Time) moved.set(uid, (moved.get(uid) ?? new Set()).add(dayOf(value)));
  }
  return { moved, unread };
}

const namedAtMost = 5;

/**
 * Reads an iCalendar file as one holiday calendar; `year` is the one of the register. What repeats by none of our rules is read as its
 * dates, from the year before up to ten years on. Events that cannot be read are told. Throws a `CalendarFileError` where the file is no
 * calendar, goes beyond a limit, or holds nothing: it would empty the calendar that it goes to. Day types given here, by the summary of
 * an event, go before those of the file.
 */
export function readCalendar(
  text: string,
  otherwise: { readonly id: string; readonly name: string },
  year: number,
  dayTypes: Readonly<Record<string, string>> = {},
): ReadCalendar {
  const file = calendarIn(text);
  const events = file.getAllSubcomponents("vevent");
  const { moved, unread } = movedInstances(events);
  const limits: EntryLimits = {
    from: civilDay(Math.max(firstYear, year - 1), 1, 1),
    to: addDays(civilDay(Math.min(lastYear, year + yearsWritten) + 1, 1, 1), -1),
    daysLeft: daysReadAtMost,
  };
  const refused: RefusedEvent[] = [];
  const days: DocumentDay[] = [];
  events.forEach((event, i) => {
    const name = textOf(event, "summary") ?? "";
    let entries: ReturnType<typeof entriesOf>;
    try {
      entries =
        unread.get(event) ?? entriesOf(event, event.hasProperty("recurrence-id") ? new Set() : (moved.get(textOf(event, "uid") ?? "") ?? new Set()), limits);
    } catch (error) {
      if (error instanceof CalendarFileError) throw error;
      entries = `it cannot be read (${(error as Error).message})`;
    }
    if (typeof entries === "string") refused.push({ number: i + 1, name, reason: entries });
    else {
      const priority = Number(textOf(event, priorityName) ?? 0);
      const dayType = (Object.hasOwn(dayTypes, name) ? dayTypes[name] : undefined) ?? textOf(event, "categories") ?? defaultDayType;
      if (days.length + entries.length > entriesAtMost)
        throw new CalendarFileError(
          `Its events come to more than ${entriesAtMost.toLocaleString("en-GB")} entries, which is the limit of a calendar. Bring fewer events.`,
        );
      for (const entry of entries) days.push({ name, dayType, ...(Number.isInteger(priority) && priority !== 0 && { priority }), ...entry });
    }
  });
  if (days.length === 0) {
    const reasons = refused.slice(0, namedAtMost).map(({ number, name, reason }) => `event ${number} (${name}): ${reason}`);
    const why =
      events.length === 0
        ? "it has no VEVENT"
        : refused.length === 0
          ? "its events were called off or have no date in the years that are read"
          : `${reasons.join("; ")}${refused.length > namedAtMost ? `; and ${refused.length - namedAtMost} more` : ""}`;
    throw new CalendarFileError(`No holiday could be read from this file, which would empty the calendar: ${why}.`);
  }
  return {
    calendar: { id: required(textOf(file, idName) ?? otherwise.id, "a file has a name"), name: textOf(file, calendarName) ?? otherwise.name, days },
    refused,
  };
}
