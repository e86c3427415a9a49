import ICAL from "ical.js";
import type { DocumentCalendar, DocumentDay } from "@/core/facility/document";
import { dayRuleOf } from "@/core/facility/time-rules";
import { covers } from "@/core/time/calendar";
import { addDays, civilDay, firstYear, formatCivilDay, lastYear, weekdays } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { calendarName, idName, priorityName, ruleName, yearsSpelledOut } from "./own-properties";

/**
 * Holiday calendars as iCalendar (RFC 5545): an all-day VEVENT for each entry, its day type in CATEGORIES. What iCalendar cannot say
 * for good (days counted from Easter, and spans that a leap day makes longer) is written out as dates for others to read, and as a
 * rule of our own for ourselves.
 */

const secondsADay = 86_400;
const icalWeekdays = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];

/** Dates of an entry from a year on, as runs of consecutive days. */
function runsOf(day: DocumentDay, year: number): [CivilDay, CivilDay][] {
  const when = dayRuleOf(day);
  const runs: [CivilDay, CivilDay][] = [];
  // Towards the last year as many are written as elsewhere, so that every rule has a date.
  const from = Math.max(firstYear, Math.min(year, lastYear - yearsSpelledOut + 1));
  for (let date = civilDay(from, 1, 1); date < civilDay(from + yearsSpelledOut, 1, 1); date = addDays(date, 1)) {
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

/** An entry as an event; undefined for one that covers no date. What has to be written out as dates begins in `year`. */
export function eventOf(day: DocumentDay, uid: string, year: number): ICAL.Component | undefined {
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
