import { civilDay, lastYear, parseCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { isZoneName, localTime, zoneOf } from "@/core/time/zone";
import type { Zone } from "@/core/time/zone";
import type { CalendarProperty } from "./event-properties";

/** An event that cannot be read as whole days, in words: what of it, and what was expected. */
export class UnreadEvent extends Error {}

/**
 * A time as an event states it: a date, or a time of day on some wall clock. `zone` is the name of the zone in which it is stated, "" for whichever the
 * reader's is; times of UTC are told on the clock of the calendar.
 */
interface StatedTime {
  readonly date: CivilDay;
  /** Undefined for a date as such. */
  readonly secondOfDay: number | undefined;
  readonly zone: string;
}

const timeForm = /^(\d{4}-\d\d-\d\d)T(\d\d):(\d\d):(\d\d)(Z)?$/;

/** A date or a time of a property, by its text as the library has it; throws where it is none that exists. */
function statedTime(text: string, { name, parameters, written }: CalendarProperty, clock: Zone): StatedTime {
  const what = name.toUpperCase();
  // Some write a date without saying that it is one; it can be nothing else.
  const bare = /^\d{8}$/.test(written) ? `${written.slice(0, 4)}-${written.slice(4, 6)}-${written.slice(6)}` : text;
  if (/^\d{4}-\d\d-\d\d$/.test(bare)) {
    const date = parseCivilDay(bare);
    if (date === undefined) throw new UnreadEvent(`its ${what} ${bare} is no date that exists`);
    return { date, secondOfDay: undefined, zone: "" };
  }
  const [, day = "", hour = "", minute = "", second = "", utc] = timeForm.exec(text) ?? [];
  const date = parseCivilDay(day);
  const [h, m, s] = [Number(hour), Number(minute), Number(second)];
  if (date === undefined || h > 23 || m > 59 || s > 60)
    throw new UnreadEvent(`its ${what} is ${written === "" ? "empty" : written}; expected a date such as 20261231, or a time such as 20261231T000000`);
  if (utc === undefined) return { date, secondOfDay: h * 3600 + m * 60 + s, zone: typeof parameters.tzid === "string" ? parameters.tzid : "" };
  const instant = parseInstant(`${day}T${hour}:${minute}:00Z`);
  if (!instant) throw new UnreadEvent(`its ${what} is ${written}, which is no time that exists`);
  const local = localTime(clock, minuteDown(instant));
  return { date: local.date, secondOfDay: local.minuteOfDay * 60 + s, zone: clock.name };
}

const isMidnight = ({ secondOfDay }: StatedTime): boolean => secondOfDay === 0 || secondOfDay === undefined;

const readAreWholeDays = "read are whole days: dates, or from midnight to midnight on one clock";

/** The days that a duration comes to; throws where it is no whole number of days. */
function daysOfDuration(text: string): number {
  const [, weeks = "0", days = "0", hours = "0", minutes = "0", seconds = "0"] =
    /^\+?P(?=.)(?:(\d{1,6})W)?(?:(\d{1,7})D)?(?:T(?:(\d{1,9})H)?(?:(\d{1,9})M)?(?:(\d{1,9})S)?)?$/.exec(text) ?? [];
  const rest = Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds);
  const whole = Number(weeks) * 7 + Number(days);
  if (rest !== 0 || whole === 0) throw new UnreadEvent(`its DURATION is ${text}; expected whole days such as P1D`);
  return whole;
}

/** The first day of an event, and how many days it takes. */
export interface EventSpan {
  readonly first: CivilDay;
  readonly days: number;
  /** Whether it is stated in dates, and not by midnights. */
  readonly isDated: boolean;
  /** The zone in which midnights are stated; "" for whichever the reader's is. */
  readonly zone: string;
}

const only = (properties: readonly CalendarProperty[], name: string): CalendarProperty | undefined => {
  const [first, second] = properties.filter((one) => one.name === name);
  if (second) throw new UnreadEvent(`it has ${name.toUpperCase()} twice, on lines ${first?.line ?? 0} and ${second.line}`);
  return first;
};

const firstText = ({ values }: CalendarProperty): string => (typeof values[0] === "string" ? values[0] : "");

/** Whole days from a start to an end that is not included; throws where there are none, or a time of day is in it. */
function daysBetween(start: StatedTime, end: StatedTime, [startText, endText]: readonly [string, string]): number {
  if (!isMidnight(start) || !isMidnight(end) || start.zone !== end.zone || (start.secondOfDay === undefined) !== (end.secondOfDay === undefined))
    throw new UnreadEvent(`it lasts from ${startText} to ${endText}, which has a time of day; ${readAreWholeDays}`);
  const days = end.date - start.date;
  if (days < 0) throw new UnreadEvent(`its DTEND ${endText} lies before its DTSTART ${startText}`);
  // RFC 5545, 3.6.1: DTEND is not included. An event of dates that ends where it begins is written by some for one of a day.
  if (days === 0 && start.secondOfDay !== undefined) throw new UnreadEvent(`it lasts from ${startText} to ${endText}, which is no time; ${readAreWholeDays}`);
  return Math.max(1, days);
}

/** When an event begins and how long it lasts, in whole days. Throws `UnreadEvent` where it is no event of whole days. Source: RFC 5545, 3.6.1. */
export function spanOf(properties: readonly CalendarProperty[], clock: Zone): EventSpan {
  const [stated, ended, lasts] = ["dtstart", "dtend", "duration"].map((name) => only(properties, name));
  if (!stated) throw new UnreadEvent("it has no DTSTART; expected a date");
  const start = statedTime(firstText(stated), stated, clock);
  if (ended && lasts) throw new UnreadEvent("it has both DTEND and DURATION; expected one of them");
  let days = 1;
  if (ended) days = daysBetween(start, statedTime(firstText(ended), ended, clock), [stated.written, ended.written]);
  else if (lasts) days = daysOfDuration(firstText(lasts));
  if (!isMidnight(start) || (start.secondOfDay !== undefined && !ended && !lasts))
    throw new UnreadEvent(`its DTSTART ${stated.written} has a time of day; ${readAreWholeDays}`);
  if (start.date + days - 1 >= civilDay(lastYear, 12, 31) + 1) throw new UnreadEvent(`it ends after the year ${lastYear}`);
  return { first: start.date, days, isDated: start.secondOfDay === undefined, zone: start.zone };
}

/** A date among those of a property must be one on which the event could begin: throws where it is not. */
function dateAmong(text: string, property: CalendarProperty, span: EventSpan, clock: Zone): CivilDay {
  const stated = statedTime(text, property, clock);
  const what = property.name.toUpperCase();
  if (!isMidnight(stated)) throw new UnreadEvent(`its ${what} ${text} has a time of day; ${readAreWholeDays}`);
  // An instant at midnight of UTC names no date of an event that is told in dates.
  if (span.isDated && stated.secondOfDay !== undefined && text.endsWith("Z"))
    throw new UnreadEvent(`its ${what} ${text} is a time of UTC, while it begins on a date; expected dates (VALUE=DATE)`);
  if (!span.isDated && stated.secondOfDay !== undefined && stated.zone !== span.zone)
    throw new UnreadEvent(`its ${what} ${text} is on another clock than its DTSTART`);
  return stated.date;
}

/** Dates that a property adds or takes away; a period has its own length. */
export interface NamedDate {
  readonly date: CivilDay;
  readonly days: number;
}

/** The dates of all properties of a name, periods among them. Throws where one is no whole day. */
export function datesNamed(properties: readonly CalendarProperty[], name: string, span: EventSpan, clock: Zone): NamedDate[] {
  return properties
    .filter((one) => one.name === name)
    .flatMap((property) =>
      property.values.map((value): NamedDate => {
        if (typeof value === "string") return { date: dateAmong(value, property, span, clock), days: span.days };
        const [from, to] = Array.isArray(value) ? (value as readonly unknown[]) : [];
        if (typeof from !== "string" || typeof to !== "string") throw new UnreadEvent(`its ${name.toUpperCase()} is ${property.written}; expected dates`);
        const start = statedTime(from, property, clock);
        if (to.includes("P")) {
          if (!isMidnight(start)) throw new UnreadEvent(`its ${name.toUpperCase()} ${from} has a time of day; ${readAreWholeDays}`);
          return { date: start.date, days: daysOfDuration(to) };
        }
        return { date: start.date, days: daysBetween(start, statedTime(to, property, clock), [from, to]) };
      }),
    );
}

/** The date of the instance that an event speaks of; undefined where it speaks of none. Throws where it speaks of those after it as well. */
export function instanceOf(properties: readonly CalendarProperty[], clock: Zone): CivilDay | undefined {
  const property = only(properties, "recurrence-id");
  if (!property) return undefined;
  if (property.parameters.range !== undefined) throw new UnreadEvent("its RECURRENCE-ID has RANGE, which is not read");
  const stated = statedTime(firstText(property), property, clock);
  if (!isMidnight(stated)) throw new UnreadEvent(`its RECURRENCE-ID ${property.written} has a time of day; ${readAreWholeDays}`);
  return stated.date;
}

/**
 * The last date that the UNTIL of a rule includes: a date is itself; of an instant of UTC it is the date there, since every instance begins at midnight. Throws
 * where the zone of the event is not known, so that nobody can tell.
 */
export function lastDateUntil(text: string, span: EventSpan, clock: Zone): CivilDay | undefined {
  const [, year = "", month = "", day = "", time, utc] = /^(\d{4})(\d\d)(\d\d)(T\d{6})?(Z)?$/.exec(text) ?? [];
  const date = parseCivilDay(`${year}-${month}-${day}`);
  // Of an event that is told in dates a time of day says nothing that could be told.
  if (date === undefined || time === undefined || utc === undefined || span.isDated) return date;
  if (span.zone !== "" && !isZoneName(span.zone))
    throw new UnreadEvent(`its RRULE ends at ${text}, an instant of UTC, and its zone ${JSON.stringify(span.zone)} is none of the IANA database`);
  const instant = parseInstant(`${year}-${month}-${day}T${time.slice(1, 3)}:${time.slice(3, 5)}:00Z`);
  if (!instant) return undefined;
  return localTime(span.zone === "" ? clock : zoneOf(span.zone), minuteDown(instant)).date;
}

/** The clock on which times of UTC are told: the zone that a calendar names for itself, else the one given. */
export const clockOf = (named: string | undefined, otherwise: string): Zone => zoneOf(named !== undefined && isZoneName(named) ? named : otherwise);
