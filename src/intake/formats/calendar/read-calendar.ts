import type { DocumentCalendar, DocumentDay, DocumentDayRule } from "@/core/facility/document";
import { required } from "@/core/kernel/invariant";
import { addDays, civilDay, firstYear, formatCivilDay, lastYear, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { Zone } from "@/core/time/zone";
import type { CalendarText, EventText } from "./calendar-text";
import { NoCalendar, calendarsIn } from "./calendar-text";
import type { EventSpan, NamedDate } from "./event-dates";
import { UnreadEvent, clockOf, datesNamed, instanceOf, lastDateUntil, spanOf } from "./event-dates";
import type { CalendarProperty } from "./event-properties";
import { UnreadLine, allNamed, propertiesOf, textOf } from "./event-properties";
import { calendarName, idName, priorityName, yearsSpelledOut, zoneName } from "./own-properties";
import { ownRuleOf } from "./own-rule";
import type { RecurrenceRule } from "./recurrence";
import type { IntakeLimits } from "../limits";
import { daysToRead, parseRecurrence, recurrenceDates } from "./recurrence";
import { repeating } from "./repeating-rule";

const defaultDayType = "public";

export class CalendarFileError extends Error {}

/** An event that cannot be taken in: which, on which line it begins, and what was expected. */
export interface RefusedEvent {
  /** Its place in the file, from 1. */
  readonly number: number;
  readonly line: number;
  readonly name: string;
  readonly reason: string;
}

/** An event that repeats by none of our rules, and so is taken in as its dates. */
export interface SpelledOut {
  readonly name: string;
  readonly entries: number;
  /** Whether it goes on after the last date that is read. */
  readonly goesOn: boolean;
}

export interface ReadCalendar {
  readonly calendar: DocumentCalendar;
  readonly spelledOut: readonly SpelledOut[];
}

export interface ReadCalendars {
  readonly calendars: readonly ReadCalendar[];
  readonly refused: readonly RefusedEvent[];
  /** What else the file holds, by the name of the component, and how many of each. */
  readonly others: ReadonlyMap<string, number>;
  /** The last date up to which events that are spelled out were read. */
  readonly readTo: CivilDay;
}

/** What a file is read against. */
export interface CalendarReading {
  /** What a calendar is called that does not say so itself. */
  readonly otherwise: { readonly id: string; readonly name: string };
  /** The year of the register. */
  readonly year: number;
  /** The zone in which times of UTC are told, where the calendar names none. */
  readonly timeZone: string;
  /** Day types by the summary of an event; they go before those of the file. */
  readonly dayTypes?: Readonly<Record<string, string>> | undefined;
  readonly limits: IntakeLimits;
}

const dated = (start: CivilDay, days: number): DocumentDayRule =>
  days === 1 ? { on: formatCivilDay(start) } : { from: formatCivilDay(start), to: formatCivilDay(addDays(start, days - 1)) };

/** What is read of one file: the stretch of dates for what has to be said as dates, and what may still be spent on it. */
interface EntryLimits {
  readonly from: CivilDay;
  readonly to: CivilDay;
  daysLeft: number;
  readonly most: IntakeLimits;
}

interface Entries {
  readonly rules: readonly DocumentDayRule[];
  readonly isSpelledOut: boolean;
  readonly goesOn: boolean;
}

const asOne = (rule: DocumentDayRule): Entries => ({ rules: [rule], isSpelledOut: false, goesOn: false });

function rulesOf(properties: readonly CalendarProperty[], span: EventSpan, clock: Zone): RecurrenceRule[] {
  return allNamed(properties, "rrule").map(({ written }) => {
    const rule = parseRecurrence(written, { until: (text) => lastDateUntil(text, span, clock), isDated: span.isDated });
    if (typeof rule === "string") throw new UnreadEvent(rule);
    return rule;
  });
}

/** The entries of an event; `moved` are the dates of its instances that other events speak of. Throws `UnreadEvent` where it is not read. */
function entriesOf(properties: readonly CalendarProperty[], moved: ReadonlySet<CivilDay>, clock: Zone, limits: EntryLimits): Entries {
  const span = spanOf(properties, clock);
  const { first, days } = span;
  // An event that was called off is no holiday.
  if (textOf(properties, "status")?.toUpperCase() === "CANCELLED") return { rules: [], isSpelledOut: false, goesOn: false };
  const own = moved.size === 0 ? ownRuleOf(properties, first) : undefined;
  if (own) return asOne(own);
  if (allNamed(properties, "exrule").length > 0) throw new UnreadEvent("it has EXRULE, which is not read");
  const [added, excepted] = [datesNamed(properties, "rdate", span, clock), datesNamed(properties, "exdate", span, clock)];
  const rules = rulesOf(properties, span, clock);
  if (allNamed(properties, "recurrence-id").length > 0 && rules.length + added.length > 0)
    throw new UnreadEvent("it has both RECURRENCE-ID and a recurrence of its own");
  const isPlain = added.length + excepted.length + moved.size === 0;
  if (isPlain && rules.length === 0) return asOne(dated(first, days));
  const [rule, second] = rules;
  // A rule of ours has no beginning, so one that begins later than what is read would come too early.
  const beginsEarly = yearMonthDay(first).year < yearMonthDay(limits.to).year - yearsSpelledOut + 1;
  const endless = isPlain && rule && !second && beginsEarly ? repeating(rule, first, addDays(first, days - 1)) : undefined;
  if (endless) return asOne(endless);
  const longest = Math.max(days, ...added.map((one) => one.days));
  const from = addDays(limits.from, 1 - longest);
  for (const one of rules) limits.daysLeft -= daysToRead(one, first, from, limits.to);
  if (limits.daysLeft < 0)
    throw new CalendarFileError(
      `Its recurrences take more than ${limits.most.calendarDays.toLocaleString("en-GB")} days to follow, which is the limit of a file. Bring fewer events, or let them begin later.`,
    );
  const starts = rules.length === 0 ? [first] : rules.flatMap((one) => recurrenceDates(one, first, from, limits.to));
  const found = new Map<string, NamedDate>();
  const add = (one: NamedDate): void => void found.set(`${one.date} ${one.days}`, one);
  for (const date of starts) add({ date, days });
  for (const one of added) if (addDays(one.date, one.days) > limits.from && one.date <= limits.to) add(one);
  const gone = new Set([...excepted.map(({ date }) => date), ...moved]);
  const left = [...found.values()].filter(({ date }) => !gone.has(date)).sort((a, b) => a.date - b.date || a.days - b.days);
  const goesOn = rules.some((one) =>
    one.count === undefined ? one.until === undefined || one.until > limits.to : recurrenceDates(one, first, first, limits.to).length < one.count,
  );
  return { rules: left.map(({ date, days: length }) => dated(date, length)), isSpelledOut: true, goesOn };
}

interface ParsedEvent {
  readonly number: number;
  readonly line: number;
  readonly name: string;
  readonly properties: readonly CalendarProperty[];
}

/** What an event is called, also where it cannot be read otherwise. */
const summaryOf = ({ lines }: EventText): string => {
  try {
    return textOf(propertiesOf(lines.filter(({ text }) => /^SUMMARY[;:]/i.test(text))), "summary") ?? "";
  } catch {
    return "";
  }
};

const readOfCalendar = new RegExp(`^(${[calendarName, zoneName, idName].join("|")})[;:]`, "i");

class FileReader {
  readonly refused: RefusedEvent[] = [];
  private number = 0;
  private entries = 0;

  constructor(
    private readonly reading: CalendarReading,
    private readonly limits: EntryLimits,
  ) {}

  private refuse(event: Pick<RefusedEvent, "number" | "line" | "name">, error: unknown): void {
    if (!(error instanceof UnreadEvent || error instanceof UnreadLine)) throw error;
    this.refused.push({ number: event.number, line: error instanceof UnreadLine ? error.line : event.line, name: event.name, reason: error.message });
  }

  private parsed(events: readonly EventText[]): ParsedEvent[] {
    return events.flatMap((event): ParsedEvent[] => {
      const head = { number: ++this.number, line: event.line, name: summaryOf(event) };
      try {
        if (!event.isWhole) throw new UnreadEvent("it has no END:VEVENT of its own; what belongs to it cannot be told");
        return [{ ...head, properties: propertiesOf(event.lines) }];
      } catch (error) {
        this.refuse(head, error);
        return [];
      }
    });
  }

  /** By UID the dates of instances that an event of their own speaks of (RFC 5545, 3.8.4.4). Those of events that cannot be read are not held at all. */
  private moved(
    events: readonly ParsedEvent[],
    clock: Zone,
  ): { readonly moved: ReadonlyMap<string, ReadonlySet<CivilDay>>; readonly read: readonly ParsedEvent[] } {
    const moved = new Map<string, Set<CivilDay>>();
    const read = events.filter((event) => {
      try {
        const date = instanceOf(event.properties, clock);
        if (date === undefined) return true;
        const uid = textOf(event.properties, "uid") ?? "";
        moved.set(uid, (moved.get(uid) ?? new Set()).add(date));
        return true;
      } catch (error) {
        this.refuse(event, error);
        return false;
      }
    });
    return { moved, read };
  }

  /** What a calendar says of itself, as far as it can be read; a line of it that cannot is told. */
  private headOfCalendar(lines: CalendarText["properties"]): readonly CalendarProperty[] {
    return lines
      .filter(({ text }) => readOfCalendar.test(text))
      .flatMap((one) => {
        try {
          return propertiesOf([one]);
        } catch (error) {
          this.refuse({ number: 0, line: one.line, name: "" }, error);
          return [];
        }
      });
  }

  calendar({ properties, events }: CalendarText): ReadCalendar {
    const head = this.headOfCalendar(properties);
    const clock = clockOf(textOf(head, zoneName), this.reading.timeZone);
    const { moved, read } = this.moved(this.parsed(events), clock);
    const days: DocumentDay[] = [];
    const spelledOut: SpelledOut[] = [];
    for (const event of read) {
      const isInstance = allNamed(event.properties, "recurrence-id").length > 0;
      try {
        const own = isInstance ? new Set<CivilDay>() : (moved.get(textOf(event.properties, "uid") ?? "") ?? new Set<CivilDay>());
        const { rules, isSpelledOut, goesOn } = entriesOf(event.properties, own, clock, this.limits);
        this.entries += rules.length;
        if (this.entries > this.limits.most.calendarEntries)
          throw new CalendarFileError(
            `Its events come to more than ${this.limits.most.calendarEntries.toLocaleString("en-GB")} entries, which is the limit of a calendar. Bring fewer events.`,
          );
        for (const rule of rules) days.push({ ...this.headOf(event), ...rule });
        if (isSpelledOut) spelledOut.push({ name: event.name, entries: rules.length, goesOn });
      } catch (error) {
        this.refuse(event, error);
      }
    }
    const { otherwise } = this.reading;
    return { calendar: { id: textOf(head, idName) ?? otherwise.id, name: textOf(head, calendarName) ?? otherwise.name, days }, spelledOut };
  }

  private headOf({ name, properties }: ParsedEvent): Pick<DocumentDay, "name" | "dayType" | "priority"> {
    const { dayTypes = {} } = this.reading;
    const priority = Number(textOf(properties, priorityName) ?? 0);
    const dayType = (Object.hasOwn(dayTypes, name) ? dayTypes[name] : undefined) ?? (textOf(properties, "categories") || defaultDayType);
    return { name, dayType, ...(Number.isInteger(priority) && priority !== 0 && { priority }) };
  }
}

const namedAtMost = 5;

function whyNothing(calendars: readonly CalendarText[], refused: readonly RefusedEvent[]): string {
  if (calendars.every(({ events }) => events.length === 0)) return "it has no VEVENT";
  if (refused.length === 0) return "its events were called off or have no date in the years that are read";
  const reasons = refused.slice(0, namedAtMost).map(({ number, name, line, reason }) => `event ${number} (${name}) on line ${line}: ${reason}`);
  return `${reasons.join("; ")}${refused.length > namedAtMost ? `; and ${refused.length - namedAtMost} more` : ""}`;
}

/** Calendars that have an id in common are told apart by a number after it. */
function withOwnIds(calendars: readonly ReadCalendar[]): ReadCalendar[] {
  const taken = new Set<string>();
  return calendars.map((read) => {
    const { id } = read.calendar;
    let own = id;
    for (let n = 2; taken.has(own); n++) own = `${id}-${n}`;
    taken.add(own);
    return own === id ? read : { ...read, calendar: { ...read.calendar, id: own } };
  });
}

function calendarsOf(text: string, { calendarCharacters: most }: IntakeLimits): CalendarText[] {
  if (text.length > most)
    throw new CalendarFileError(`It has ${text.length.toLocaleString("en-GB")} characters; the limit of a calendar file is ${most.toLocaleString("en-GB")}.`);
  const content = text.replace(/^\uFEFF/, "");
  if (content.trim() === "") throw new CalendarFileError("This file is empty; expected BEGIN:VCALENDAR (RFC 5545).");
  try {
    return calendarsIn(content);
  } catch (error) {
    if (error instanceof NoCalendar) throw new CalendarFileError(`This is no iCalendar (${error.message}); expected BEGIN:VCALENDAR (RFC 5545).`);
    throw error;
  }
}

/**
 * Reads an iCalendar file as holiday calendars. What repeats by none of our rules is read as its dates, from the year before the register's up to ten years
 * on, and named. Events that cannot be read are told, each with its line. Throws a `CalendarFileError` where the file is no calendar, goes beyond a limit, or
 * holds nothing: it would empty the calendar that it goes to.
 */
export function readCalendars(text: string, reading: CalendarReading): ReadCalendars {
  const calendars = calendarsOf(text, reading.limits);
  const { year } = reading;
  const limits: EntryLimits = {
    from: civilDay(Math.max(firstYear, year - 1), 1, 1),
    to: addDays(civilDay(Math.min(lastYear, year + yearsSpelledOut) + 1, 1, 1), -1),
    daysLeft: reading.limits.calendarDays,
    most: reading.limits,
  };
  const reader = new FileReader(reading, limits);
  const read = calendars.map((one) => reader.calendar(one));
  const cut = required(calendars[calendars.length - 1], "a file has a calendar");
  const { refused } = reader;
  if (!cut.isWhole && (cut.events[cut.events.length - 1]?.isWhole ?? true))
    refused.push({ number: 0, line: text.split(/\r\n|\n|\r/).length, name: "", reason: "the file ends before END:VCALENDAR; what came after it was cut off" });
  const others = new Map<string, number>();
  for (const one of calendars) for (const [name, count] of one.others) others.set(name, (others.get(name) ?? 0) + count);
  const filled = read.filter(({ calendar }) => (calendar.days ?? []).length > 0);
  if (filled.length === 0)
    throw new CalendarFileError(`No holiday could be read from this file, which would empty the calendar: ${whyNothing(calendars, refused)}.`);
  return { calendars: withOwnIds(filled), refused, others, readTo: limits.to };
}
