import { addDays, civilDay, daysInMonth, parseCivilDay, weekdayNumber, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";

/**
 * Recurrence rules of all-day events (RFC 5545, 3.3.10), reckoned date by date: whether a date belongs to a rule is asked of the date
 * itself, so that no rule costs more than the days between its beginning and the end of what is wanted.
 */

const frequencies = ["DAILY", "WEEKLY", "MONTHLY", "YEARLY"] as const;
const weekdayCodes = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
const daysAWeek = 7;

export interface RecurrenceRule {
  readonly frequency: (typeof frequencies)[number];
  readonly interval: number;
  /** How many instances there are, the first one included. */
  readonly count?: number;
  /** The last date that may be one. */
  readonly until?: CivilDay;
  /** The first day of a week, 0 for Monday. */
  readonly weekStart: number;
  readonly months: readonly number[];
  readonly monthDays: readonly number[];
  readonly yearDays: readonly number[];
  /** Weeks of the year, the first being that with at least four days in it; from its end where negative. */
  readonly weeks: readonly number[];
  /** Weekdays, 0 for Monday; `n` counts them in the month or the year, from its end where negative. */
  readonly days: readonly { readonly weekday: number; readonly n?: number }[];
  readonly positions: readonly number[];
}

/** How the end of a rule is read, and whether its event is told in dates; otherwise in midnights, so that a rule may say the time of day. */
export interface RuleReading {
  readonly until: (text: string) => CivilDay | undefined;
  readonly isDated: boolean;
}

const inDates: RuleReading = {
  until: (text) => {
    const [, year = "", month = "", day = ""] = /^(\d{4})(\d\d)(\d\d)(?:T\d{6}Z?)?$/.exec(text) ?? [];
    return parseCivilDay(`${year}-${month}-${day}`);
  },
  isDated: true,
};

const timesOfDay = ["BYHOUR", "BYMINUTE", "BYSECOND"];

/** Reads the text of an RRULE. Gives a text that says what is not read where it is not read whole. */
export function parseRecurrence(text: string, reading: RuleReading = inDates): RecurrenceRule | string {
  const parts = new Map<string, string>();
  for (const part of text.toUpperCase().split(";")) {
    const [, name = "", value = ""] = /^([A-Z]+)=(.+)$/.exec(part.trim()) ?? [];
    if (name === "") return `its RRULE has ${JSON.stringify(part)}; expected NAME=value`;
    if (parts.has(name)) return `its RRULE says ${name} twice`;
    parts.set(name, value);
  }
  let refused: string | undefined;
  const numbers = (name: string, most: number, isSigned: boolean): readonly number[] => {
    const found = (parts.get(name)?.split(",") ?? []).map((value) => (/^[+-]?\d{1,4}$/.test(value) ? Number(value) : NaN));
    if (found.some((value) => Number.isNaN(value) || value === 0 || Math.abs(value) > most || (value < 0 && !isSigned)))
      refused ??= `its RRULE has ${name}=${parts.get(name)}; expected whole numbers ${isSigned ? `from 1 to ${most} or -1 to -${most}` : `from 1 to ${most}`}`;
    return found;
  };
  const whole = (name: string): number | undefined => {
    const value = parts.get(name);
    if (value === undefined) return undefined;
    if (!/^\d{1,9}$/.test(value) || Number(value) < 1) refused ??= `its RRULE has ${name}=${value}; expected a whole number from 1`;
    return Number(value);
  };
  const frequency = frequencies.find((one) => one === parts.get("FREQ"));
  if (!frequency) return `its RRULE has FREQ=${parts.get("FREQ") ?? "nothing"}; read are ${frequencies.join(", ")}`;
  const known = new Set(["FREQ", "INTERVAL", "COUNT", "UNTIL", "WKST", "BYMONTH", "BYMONTHDAY", "BYYEARDAY", "BYWEEKNO", "BYDAY", "BYSETPOS", ...timesOfDay]);
  const unknown = [...parts.keys()].find((name) => !known.has(name));
  if (unknown) return `its RRULE has ${unknown}, which is not read`;
  // RFC 5545, 3.3.10: of an event that is told in dates they are passed over.
  const timed = reading.isDated ? undefined : timesOfDay.find((name) => parts.has(name) && !/^0{1,2}$/.test(parts.get(name) ?? ""));
  if (timed !== undefined) return `its RRULE has ${timed}=${parts.get(timed) ?? ""}; read are events that begin at midnight`;
  const months = numbers("BYMONTH", 12, false);
  const days = (parts.get("BYDAY")?.split(",") ?? []).map((value) => {
    const [, n = "", code = ""] = /^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/.exec(value) ?? [];
    const isCounted = n !== "";
    const isInMonths = frequency === "MONTHLY" || months.length > 0;
    if (code === "" || (isCounted && (Number(n) === 0 || Math.abs(Number(n)) > (isInMonths ? 5 : 53) || frequency === "DAILY" || frequency === "WEEKLY")))
      refused ??= `its RRULE has BYDAY=${parts.get("BYDAY")}; expected weekdays${frequency === "DAILY" || frequency === "WEEKLY" ? "" : `, counted at most ${isInMonths ? "5th in a month" : "53rd in a year"}`}`;
    return { weekday: weekdayCodes.indexOf(code), ...(isCounted && { n: Number(n) }) };
  });
  const untilText = parts.get("UNTIL");
  const until = untilText === undefined ? undefined : reading.until(untilText);
  if (untilText !== undefined && until === undefined) refused ??= `its RRULE has UNTIL=${untilText}; expected a date such as 20261231`;
  const weekStart = weekdayCodes.indexOf(parts.get("WKST") ?? "MO");
  if (weekStart < 0) refused ??= `its RRULE has WKST=${parts.get("WKST")}; expected a weekday such as MO`;
  const [interval, count] = [whole("INTERVAL") ?? 1, whole("COUNT")];
  if (count !== undefined && until !== undefined) refused ??= "its RRULE has both COUNT and UNTIL; expected one of them";
  const rule: RecurrenceRule = {
    frequency,
    interval,
    weekStart,
    months,
    days,
    ...(count !== undefined && { count }),
    ...(until !== undefined && { until }),
    monthDays: numbers("BYMONTHDAY", 31, true),
    yearDays: numbers("BYYEARDAY", 366, true),
    weeks: numbers("BYWEEKNO", 53, true),
    positions: numbers("BYSETPOS", 366, true),
  };
  if (rule.yearDays.length > 0 && frequency !== "YEARLY") refused ??= `its RRULE has BYYEARDAY with FREQ=${frequency}, which RFC 5545 does not allow`;
  if (rule.weeks.length > 0 && frequency !== "YEARLY") refused ??= `its RRULE has BYWEEKNO with FREQ=${frequency}, which RFC 5545 does not allow`;
  if (rule.weeks.length > 0 && days.some(({ n }) => n !== undefined)) refused ??= "its RRULE has BYWEEKNO with counted weekdays, which RFC 5545 does not allow";
  // A week over the turn of the year belongs to one year by its number and has days in two: which of them is the rule's then is read in two ways.
  if (rule.weeks.some((week) => Math.abs(week) === 1 || Math.abs(week) >= 52) && (interval > 1 || rule.positions.length > 0))
    refused ??= `its RRULE counts years, or days in them, by weeks that lie over the turn of a year (BYWEEKNO=${parts.get("BYWEEKNO") ?? ""}), which is read in two ways`;
  if (rule.monthDays.length > 0 && frequency === "WEEKLY") refused ??= "its RRULE has BYMONTHDAY with FREQ=WEEKLY, which RFC 5545 does not allow";
  if (rule.positions.length > 0 && months.length + days.length + rule.monthDays.length + rule.yearDays.length + rule.weeks.length === 0)
    refused ??= "its RRULE has BYSETPOS without another BY part, which RFC 5545 does not allow";
  return refused ?? rule;
}

/** Whether a date counts as one of the wanted, from the beginning of a stretch or, where negative, from its end. */
const isAt = (wanted: readonly number[], fromStart: number, length: number): boolean =>
  wanted.some((n) => (n > 0 ? n === fromStart : length + n + 1 === fromStart));

/** The first day of the first week of a year: of that which has at least four days in it. */
function firstWeekOf(year: number, weekStart: number): CivilDay {
  const fourth = civilDay(year, 1, 4);
  return addDays(fourth, -((weekdayNumber(fourth) - weekStart + daysAWeek) % daysAWeek));
}

/** Whether a date lies in one of some weeks of the year to which its week belongs. Source: RFC 5545, 3.3.10; ISO 8601 where weeks begin on Monday. */
function isInWeeks({ weeks, weekStart }: RecurrenceRule, date: CivilDay): boolean {
  const begin = addDays(date, -((weekdayNumber(date) - weekStart + daysAWeek) % daysAWeek));
  const { year } = yearMonthDay(addDays(begin, 3));
  const first = firstWeekOf(year, weekStart);
  return isAt(weeks, (begin - first) / daysAWeek + 1, (firstWeekOf(year + 1, weekStart) - first) / daysAWeek);
}

/** The period of a rule that a date lies in, counted from anywhere; periods of one rule differ by whole numbers. */
function periodOf({ frequency, weekStart }: RecurrenceRule, date: CivilDay): number {
  if (frequency === "DAILY") return date;
  if (frequency === "WEEKLY") return Math.floor((date - ((weekdayNumber(date) - weekStart + daysAWeek) % daysAWeek)) / daysAWeek);
  const { year, month } = yearMonthDay(date);
  return frequency === "MONTHLY" ? year * 12 + month - 1 : year;
}

/** Whether a date belongs to a rule that begins on `start`, leaving aside its interval, positions and end. */
function isOfRule(rule: RecurrenceRule, start: CivilDay, date: CivilDay): boolean {
  const { frequency, months, monthDays, yearDays, days } = rule;
  const { year, month, day } = yearMonthDay(date);
  const first = yearMonthDay(start);
  const weekday = weekdayNumber(date);
  if (months.length > 0 && !months.includes(month)) return false;
  const lengthOfMonth = daysInMonth(year, month);
  if (monthDays.length > 0 && !isAt(monthDays, day, lengthOfMonth)) return false;
  if (yearDays.length > 0 && !isAt(yearDays, date - civilDay(year, 1, 1) + 1, civilDay(year + 1, 1, 1) - civilDay(year, 1, 1))) return false;
  if (rule.weeks.length > 0 && !isInWeeks(rule, date)) return false;
  if (days.length > 0) {
    const isInMonth = frequency === "MONTHLY" || months.length > 0;
    const [from, to] = isInMonth ? [date - day + 1, date - day + lengthOfMonth] : [civilDay(year, 1, 1), civilDay(year + 1, 1, 1) - 1];
    const [ordinal, ordinalFromEnd] = [Math.floor((date - from) / daysAWeek) + 1, Math.floor((to - date) / daysAWeek) + 1];
    if (!days.some((one) => one.weekday === weekday && (one.n === undefined || one.n === ordinal || -one.n === ordinalFromEnd))) return false;
  }
  const namesNoDay = monthDays.length + yearDays.length + days.length === 0;
  if (!namesNoDay || frequency === "DAILY") return true;
  if (frequency === "WEEKLY" || rule.weeks.length > 0) return weekday === weekdayNumber(start);
  return day === first.day && (frequency === "MONTHLY" || months.length > 0 || month === first.month);
}

/** Where reading a rule begins: at its own beginning where instances are counted, else with the period that `from` lies in. */
function firstRead(rule: RecurrenceRule, start: CivilDay, from: CivilDay): CivilDay {
  let date = rule.count === undefined && from > start ? from : start;
  const period = periodOf(rule, date);
  while (periodOf(rule, addDays(date, -1)) === period) date = addDays(date, -1);
  return date;
}

/** How many days `recurrenceDates` looks at, at most: what a rule costs. */
export const daysToRead = (rule: RecurrenceRule, start: CivilDay, from: CivilDay, to: CivilDay): number =>
  Math.max(0, to - firstRead(rule, start, from)) + 2 * 366;

/**
 * The dates from `from` up to and including `to` on which a rule begins an instance, ascending. Its first instance is `start`, whatever
 * the rule says (RFC 5545, 3.8.5.3).
 */
export function recurrenceDates(rule: RecurrenceRule, start: CivilDay, from: CivilDay, to: CivilDay): CivilDay[] {
  const end = rule.until === undefined || rule.until > to ? to : rule.until;
  const found: CivilDay[] = [];
  let counted = 0;
  const take = (date: CivilDay): void => {
    counted += 1;
    if (date >= from && date <= end) found.push(date);
  };
  const isOver = (): boolean => rule.count !== undefined && counted >= rule.count;
  take(start);
  const firstPeriod = periodOf(rule, start);
  // A period is read whole before any of it is taken: positions are counted from both of its ends.
  let ofPeriod: CivilDay[] = [];
  let date = firstRead(rule, start, from);
  let period = periodOf(rule, date);
  while (!isOver()) {
    if ((period - firstPeriod) % rule.interval === 0 && isOfRule(rule, start, date)) ofPeriod.push(date);
    date = addDays(date, 1);
    const next = periodOf(rule, date);
    if (next === period) continue;
    const { length } = ofPeriod;
    const chosen = rule.positions.length === 0 ? ofPeriod : ofPeriod.filter((_date, i) => isAt(rule.positions, i + 1, length));
    for (const one of chosen) if (one > start && !isOver()) take(one);
    ofPeriod = [];
    period = next;
    if (date > end) break;
  }
  return found;
}
