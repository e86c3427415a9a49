import type { Brand } from "../kernel/brand";

/** A date of the proleptic Gregorian calendar as the number of days since 1970-01-01; no zone. */
export type CivilDay = Brand<number, "CivilDay">;

export const weekdays = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const;
export type Weekday = (typeof weekdays)[number];

export interface YearMonthDay {
  readonly year: number;
  /** 1..12 */
  readonly month: number;
  /** 1..31 */
  readonly day: number;
}

export const minutesADay = 1440;

/** Dates run from 0001-01-01 to 9999-12-31. */
export const firstYear = 1;
export const lastYear = 9999;

export const isLeapYear = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;

/** Number of days of a month (1..12) of a year. */
export function daysInMonth(year: number, month: number): number {
  if (month === 2) return isLeapYear(year) ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

/** The date of a year, month (1..12) and day of the month, by counting days from 1 March of year 0. */
export function civilDay(year: number, month: number, day: number): CivilDay {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return (era * 146097 + dayOfEra - 719468) as CivilDay;
}

/** Year, month and day of a date; the inverse of `civilDay`. */
export function yearMonthDay(date: CivilDay): YearMonthDay {
  const shifted = date + 719468;
  const era = Math.floor(shifted / 146097);
  const dayOfEra = shifted - era * 146097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36524) - Math.floor(dayOfEra / 146096)) / 365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const shiftedMonth = Math.floor((5 * dayOfYear + 2) / 153);
  const day = dayOfYear - Math.floor((153 * shiftedMonth + 2) / 5) + 1;
  const month = shiftedMonth < 10 ? shiftedMonth + 3 : shiftedMonth - 9;
  return { year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0), month, day };
}

/** 0 for Monday to 6 for Sunday (ISO 8601 order). 1970-01-01 was a Thursday. */
export const weekdayNumber = (date: CivilDay): number => (((date + 3) % 7) + 7) % 7;

export const addDays = (date: CivilDay, days: number): CivilDay => (date + days) as CivilDay;

/** The same day of the month some months later, or the last day of that month where it has no such day. */
export function addMonths(date: CivilDay, months: number): CivilDay {
  const { year, month, day } = yearMonthDay(date);
  const index = year * 12 + (month - 1) + months;
  const y = Math.floor(index / 12);
  const m = index - y * 12 + 1;
  return civilDay(y, m, Math.min(day, daysInMonth(y, m)));
}

/** Reads `YYYY-MM-DD`; undefined for anything else, an impossible date and the year 0000 included. */
export function parseCivilDay(text: string): CivilDay | undefined {
  const parts = /^(\d{4})-(\d\d)-(\d\d)$/.exec(text);
  if (!parts) return undefined;
  const [year, month, day] = [Number(parts[1]), Number(parts[2]), Number(parts[3])];
  if (year < firstYear || month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) return undefined;
  return civilDay(year, month, day);
}

const digits = (value: number, length: number): string => String(value).padStart(length, "0");

/** Writes `YYYY-MM-DD`. */
export function formatCivilDay(date: CivilDay): string {
  const { year, month, day } = yearMonthDay(date);
  return `${digits(year, 4)}-${digits(month, 2)}-${digits(day, 2)}`;
}

/** Reads `MM-DD` as month × 100 + day; undefined where no year has that day. */
export function parseMonthDay(text: string): number | undefined {
  const parts = /^(\d\d)-(\d\d)$/.exec(text);
  if (!parts) return undefined;
  const [month, day] = [Number(parts[1]), Number(parts[2])];
  if (month < 1 || month > 12 || day < 1 || day > daysInMonth(2000, month)) return undefined;
  return month * 100 + day;
}

/** Reads a clock time `HH:MM` as a minute of the day, 0..1440; `24:00` only where it is asked for. */
export function parseClock(text: string, allowEndOfDay: boolean): number | undefined {
  const parts = /^(\d\d):(\d\d)$/.exec(text);
  if (!parts) return undefined;
  const [hour, minute] = [Number(parts[1]), Number(parts[2])];
  if (hour === 24 && minute === 0) return allowEndOfDay ? minutesADay : undefined;
  return hour < 24 && minute < 60 ? hour * 60 + minute : undefined;
}

/** Writes a minute of the day, 0..1440, as `HH:MM`. */
export const formatClock = (minute: number): string => `${digits(Math.floor(minute / 60), 2)}:${digits(minute % 60, 2)}`;
