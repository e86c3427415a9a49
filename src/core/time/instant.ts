import type { Brand } from "../kernel/brand";
import { civilDay, daysInMonth, firstYear, formatCivilDay, lastYear, minutesADay, parseCivilDay } from "./civil-day";
import type { CivilDay } from "./civil-day";

/** Minutes since 1970-01-01T00:00Z; the grain of the resolver. −Infinity and Infinity stand for "always" and "never". */
export type EpochMinute = Brand<number, "EpochMinute">;

export const always = -Infinity as EpochMinute;
export const never = Infinity as EpochMinute;

/** A moment of UTC as exactly as it was written. */
export interface Instant {
  /** Whole seconds since 1970-01-01T00:00Z, rounded down. */
  readonly seconds: number;
  /** Decimal digits of the fraction of the second without trailing zeros; "" for none. */
  readonly fraction: string;
}

const written = /^(\d{4})-(\d\d)-(\d\d)[Tt](\d\d):(\d\d)(?::(\d\d)(?:\.(\d+))?)?([Zz]|[+-]\d\d:\d\d)$/;
const firstSecond = civilDay(firstYear, 1, 1) * 86400;
const endOfSeconds = civilDay(lastYear + 1, 1, 1) * 86400;

/** The number that `count` digits of a text make, from an index on; NaN where one is no digit. */
function digits(text: string, from: number, count: number): number {
  let number = 0;
  for (let i = from; i < from + count; i++) {
    const digit = text.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return NaN;
    number = number * 10 + digit;
  }
  return number;
}

/**
 * Reads `YYYY-MM-DDTHH:MM:SSZ`, which nearly all instants are, without a pattern; undefined for all else, also for what is
 * no instant at all. Registers and events hold millions of them.
 */
function parsePlain(text: string): Instant | undefined {
  if (text.length !== 20 || text[4] !== "-" || text[7] !== "-" || text[10] !== "T" || text[13] !== ":" || text[16] !== ":" || text[19] !== "Z")
    return undefined;
  const [year, month, day] = [digits(text, 0, 4), digits(text, 5, 2), digits(text, 8, 2)];
  const [hour, minute, second] = [digits(text, 11, 2), digits(text, 14, 2), digits(text, 17, 2)];
  const isPossible =
    year >= firstYear && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month) && hour <= 23 && minute <= 59 && second <= 59;
  return isPossible ? { seconds: civilDay(year, month, day) * 86400 + hour * 3600 + minute * 60 + second, fraction: "" } : undefined;
}

/**
 * Reads an instant of RFC 3339 (seconds may be left out); undefined for anything else, for an impossible date, for a
 * leap second (`:60`), and for an instant whose UTC year is not 0001..9999, since it could not be written again.
 */
export function parseInstant(text: string): Instant | undefined {
  const plain = parsePlain(text);
  if (plain) return plain;
  const parts = written.exec(text);
  if (!parts) return undefined;
  const number = (i: number): number => Number(parts[i] ?? "0");
  const [year, month, day] = [number(1), number(2), number(3)];
  const [hour, minute, second] = [number(4), number(5), number(6)];
  if (month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) return undefined;
  if (hour > 23 || minute > 59 || second > 59) return undefined;
  const zone = parts[8] ?? "Z";
  let offset = 0;
  if (zone.length > 1) {
    const [hours, minutes] = [Number(zone.slice(1, 3)), Number(zone.slice(4, 6))];
    if (hours > 23 || minutes > 59) return undefined;
    offset = (zone.startsWith("-") ? -1 : 1) * (hours * 3600 + minutes * 60);
  }
  const seconds = civilDay(year, month, day) * 86400 + hour * 3600 + minute * 60 + second - offset;
  if (seconds < firstSecond || seconds >= endOfSeconds) return undefined;
  return { seconds, fraction: (parts[7] ?? "").replace(/0+$/, "") };
}

/** The minute in which the instant lies. */
export const minuteDown = (instant: Instant): EpochMinute => Math.floor(instant.seconds / 60) as EpochMinute;

/** The first full minute that is not before the instant. */
export const minuteUp = (instant: Instant): EpochMinute =>
  (Math.floor(instant.seconds / 60) + (instant.seconds % 60 === 0 && instant.fraction === "" ? 0 : 1)) as EpochMinute;

export const addSeconds = (instant: Instant, seconds: number): Instant => ({
  seconds: instant.seconds + seconds,
  fraction: instant.fraction,
});

const twoDigits = (value: number): string => String(value).padStart(2, "0");

/** Writes `YYYY-MM-DDTHH:MM:SSZ`, with a fraction of the second only if there is one: the normal form. */
export function formatInstant(instant: Instant): string {
  const day = Math.floor(instant.seconds / 86400);
  const second = instant.seconds - day * 86400;
  const clock = `${twoDigits(Math.floor(second / 3600))}:${twoDigits(Math.floor(second / 60) % 60)}:${twoDigits(second % 60)}`;
  return `${formatCivilDay(day as CivilDay)}T${clock}${instant.fraction === "" ? "" : `.${instant.fraction}`}Z`;
}

/** Whether a minute lies in the years that can be written; windows that end with 9999-12-31 end after them in zones west of Greenwich. */
export const isWritable = (minute: EpochMinute): boolean => minute * 60 >= firstSecond && minute * 60 < endOfSeconds;

/** Writes `YYYY-MM-DDTHH:MMZ`; a minute that cannot be written as the nearest that can. */
export function formatMinute(minute: EpochMinute): string {
  const writable = Math.min(Math.max(minute, firstSecond / 60), endOfSeconds / 60 - 1);
  const day = Math.floor(writable / minutesADay);
  const rest = writable - day * minutesADay;
  return `${formatCivilDay(day as CivilDay)}T${twoDigits(Math.floor(rest / 60))}:${twoDigits(rest % 60)}Z`;
}

/** A bound of a window: a date, read in the facility's zone, or an instant. */
export type Moment = { readonly kind: "date"; readonly date: CivilDay } | { readonly kind: "instant"; readonly instant: Instant };

/** Reads `YYYY-MM-DD` or an instant; undefined for anything else. */
export function parseMoment(text: string): Moment | undefined {
  const date = parseCivilDay(text);
  if (date !== undefined) return { kind: "date", date };
  const instant = parseInstant(text);
  return instant && { kind: "instant", instant };
}
