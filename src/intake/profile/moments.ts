import type { CivilDay } from "@/core/time/civil-day";
import { addDays, civilDay, daysInMonth, firstYear, formatCivilDay, lastYear, yearMonthDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { formatInstant, formatMinute, isWritable, parseInstant } from "@/core/time/instant";
import { endOfMinutesThrough, firstMinuteFrom, lastMinuteAtWallClock, minuteAtWallClock, zoneOf } from "@/core/time/zone";
import { monthNamed } from "./month-names";
import type { MomentForm, MomentFormName } from "./source-profile";

/** A text of a source as a date, with a time of the wall clock where it has one, or as an instant where it names its offset. */
export type ReadMoment =
  | { readonly kind: "date"; readonly date: CivilDay }
  | { readonly kind: "local"; readonly date: CivilDay; readonly minute: number; readonly seconds: string }
  | { readonly kind: "instant"; readonly text: string };

const spreadsheetEpoch = civilDay(1899, 12, 30);
const macintoshEpoch = civilDay(1904, 1, 1);

/** A time of day at the end of a text: hours, minutes, seconds with a fraction, half of the day, offset. */
const time = String.raw`(\d{1,2})(?::|(?<=\d)[.h](?=\d))(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)?\s*([ap]\.?m\.?)?\s*(z|utc|[+-]\d{2}:?\d{2}|[+-]\d{2})?`;
const timeAlone = new RegExp(`^${time}$`, "i");
const between = String.raw`(?:[T\s]|,\s*)\s*`;
const withTime = new RegExp(`^(.*?\\d)${between}(${time})$`, "i");

const isoDate = /^(\d{4})-(\d{2})-(\d{2})$/;
const ymdDate = /^(\d{4})([./\s-])\s*(\d{1,2})\2\s*(\d{1,2})\.?$/;
const numberedDate = /^(\d{1,2})([./\s-])\s*(\d{1,2})\2\s*(\d{4}|\d{2})$/;
const dayNameFirst = /^(\d{1,2})\.?[\s./-]*(\p{L}[\p{L}\p{M}]*)\.?[\s./,-]*(\d{4}|\d{2})$/u;
const monthNameFirst = /^(\p{L}[\p{L}\p{M}]*)\.?[\s./-]*(\d{1,2})[\s./,-]+(\d{4}|\d{2})$/u;

function dateOf(year: number, month: number, day: number): CivilDay | undefined {
  const exists = year >= firstYear && year <= lastYear && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month);
  return exists ? civilDay(year, month, day) : undefined;
}

/** A year of four digits, or of two by the stated pivot; NaN for two digits without one. */
const yearOf = (digits: string, pivot: number | undefined): number =>
  digits.length === 4 ? Number(digits) : pivot === undefined ? NaN : Number(digits) + (Number(digits) < pivot ? 2000 : 1900);

function readDate(text: string, form: MomentFormName, pivot: number | undefined): CivilDay | undefined {
  if (form === "iso") {
    const [, year = "", month = "", day = ""] = isoDate.exec(text) ?? [];
    return dateOf(Number(year), Number(month), Number(day));
  }
  if (form === "ymd") {
    const [, year = "", , month = "", day = ""] = ymdDate.exec(text) ?? [];
    return dateOf(Number(year), Number(month), Number(day));
  }
  const [, first = "", , second = "", year = ""] = numberedDate.exec(text) ?? [];
  if (first !== "") {
    const [day, month] = form === "dmy" ? [first, second] : [second, first];
    return dateOf(yearOf(year, pivot), Number(month), Number(day));
  }
  const [, day, name, ofDay] = dayNameFirst.exec(text) ?? [];
  if (form === "dmy" && day !== undefined) return dateOf(yearOf(ofDay ?? "", pivot), monthNamed(name ?? "") ?? 0, Number(day));
  const [, month, dayAfter, ofMonth] = monthNameFirst.exec(text) ?? [];
  if (form === "mdy" && month !== undefined) return dateOf(yearOf(ofMonth ?? "", pivot), monthNamed(month) ?? 0, Number(dayAfter));
  return undefined;
}

interface ReadTime {
  readonly minute: number;
  readonly seconds: string;
  /** `Z` or `+02:00`. */
  readonly offset: string | undefined;
}

function readTime(text: string): ReadTime | undefined {
  const [, hour = "", minute = "", second = "00", fraction, half, zone] = timeAlone.exec(text) ?? [];
  if (hour === "") return undefined;
  const written = Number(hour);
  if (Number(minute) > 59 || Number(second) > 59 || written > 23 || (half !== undefined && (written < 1 || written > 12))) return undefined;
  const hours = half === undefined ? written : (written % 12) + (/^p/i.test(half) ? 12 : 0);
  const offset = zone === undefined ? undefined : /^(z|utc)$/i.test(zone) ? "Z" : `${zone.slice(0, 3)}:${zone.replace(":", "").slice(3) || "00"}`;
  return { minute: hours * 60 + Number(minute), seconds: `:${second}${fraction === undefined ? "" : `.${fraction}`}`, offset };
}

const pad = (number: number): string => String(number).padStart(2, "0");
const clockOf = (minute: number): string => `${pad(Math.floor(minute / 60))}:${pad(minute % 60)}`;

function atTime(date: CivilDay, { minute, seconds, offset }: ReadTime): ReadMoment | undefined {
  if (offset === undefined) return { kind: "local", date, minute, seconds };
  const instant = parseInstant(`${formatCivilDay(date)}T${clockOf(minute)}${seconds}${offset}`);
  return instant && { kind: "instant", text: formatInstant(instant) };
}

/** A number of days since an epoch, with the time of day as its fraction; to the second, as spreadsheets show it. */
function fromSerial(text: string, epoch: CivilDay): ReadMoment | undefined {
  if (!/^\d{1,7}(\.\d{1,15})?$/.test(text)) return undefined;
  const [days = "0", fraction] = text.split(".");
  // Day 60 of the epoch of 1900 is a 29 February that never was; those before it are one off for the same reason (common practice, no source).
  if (epoch === spreadsheetEpoch && Number(days) <= 60) return undefined;
  const seconds = fraction === undefined ? 0 : Math.round(Number(`0.${fraction}`) * 86_400);
  const date = addDays(epoch, Number(days) + (seconds === 86_400 ? 1 : 0));
  if (yearMonthDay(date).year > lastYear) return undefined;
  if (fraction === undefined) return { kind: "date", date };
  return { kind: "local", date, minute: Math.floor((seconds % 86_400) / 60), seconds: `:${pad(seconds % 60)}` };
}

function fromEpoch(text: string, perSecond: number): ReadMoment | undefined {
  if (!/^-?\d{1,15}$/.test(text)) return undefined;
  const milliseconds = Number(text) * (1000 / perSecond);
  const minute = Math.floor(milliseconds / 60_000) as EpochMinute;
  if (!isWritable(minute)) return undefined;
  const seconds = (milliseconds - minute * 60_000) / 1000;
  const [whole = "0", fraction] = String(seconds).split(".");
  const instant = parseInstant(formatMinute(minute).replace("Z", `:${whole.padStart(2, "0")}${fraction === undefined ? "" : `.${fraction}`}Z`));
  return instant && { kind: "instant", text: formatInstant(instant) };
}

function fromCompact(text: string): ReadMoment | undefined {
  const [, year = "", month = "", day = "", hour, minute, second = "00", zone] =
    /^(\d{4})(\d{2})(\d{2})(?:T?(\d{2})(\d{2})(\d{2})?(Z|[+-]\d{4})?)?$/.exec(text) ?? [];
  const date = dateOf(Number(year), Number(month), Number(day));
  if (date === undefined || hour === undefined) return date === undefined ? undefined : { kind: "date", date };
  const read = readTime(`${hour}:${minute ?? ""}:${second}${zone ?? ""}`);
  return read && atTime(date, read);
}

const longestMoment = 100;

/** A text read in one form, as a whole; undefined where it is not of that form, or names no date that exists. */
export function readInForm(text: string, form: MomentFormName, pivot?: number): ReadMoment | undefined {
  if (text.length > longestMoment) return undefined;
  switch (form) {
    case "epoch-seconds":
      return fromEpoch(text, 1);
    case "epoch-milliseconds":
      return fromEpoch(text, 1000);
    case "serial-1900":
      return fromSerial(text, spreadsheetEpoch);
    case "serial-1904":
      return fromSerial(text, macintoshEpoch);
    case "compact":
      return fromCompact(text);
    default: {
      const date = readDate(text, form, pivot);
      if (date !== undefined) return { kind: "date", date };
      const [, day, clock] = withTime.exec(text) ?? [];
      const dayRead = day === undefined ? undefined : readDate(day, form, pivot);
      const read = clock === undefined ? undefined : readTime(clock.trim());
      return dayRead === undefined || !read ? undefined : atTime(dayRead, read);
    }
  }
}

export interface MomentTarget {
  readonly kind: "date" | "moment" | "instant";
  readonly side: "from" | "until";
  /** Of what shuts: the shorter reading opens more. */
  readonly blocks: boolean;
}

/** An instant of a wall clock as RFC 3339. Of a time that comes twice, or is skipped, the side decides. */
function instantText(zone: string, date: CivilDay, minute: number, seconds: string, later: boolean): string {
  const at = (later ? lastMinuteAtWallClock : minuteAtWallClock)(zoneOf(zone), date, minute);
  const instant = parseInstant(formatMinute(at).replace("Z", `${seconds}Z`));
  return instant ? formatInstant(instant) : "";
}

/** The instant at which a date begins, or the last second of it. */
function sideOfDate(zone: string, date: CivilDay, side: "from" | "until"): string {
  if (side === "from") return formatMinute(firstMinuteFrom(zoneOf(zone), date));
  return formatMinute((endOfMinutesThrough(zoneOf(zone), date) - 1) as EpochMinute).replace("Z", ":59Z");
}

const yearIn = (moment: ReadMoment): number => (moment.kind === "instant" ? Number(moment.text.slice(0, 4)) : yearMonthDay(moment.date).year);

/**
 * What a text says of a moment, as the document writes it: a date, an instant, or null for none ever. A sentence with what was expected where it is of none of
 * the column's forms, or could mean two things that the profile does not tell apart.
 */
export function momentText(
  text: string,
  { forms, zone, pivot, midnight, never = [], neverFrom }: MomentForm,
  target: MomentTarget,
  zoneOtherwise: string,
): { readonly value: string | null } | { readonly expected: string } {
  if (never.includes(text)) return { value: null };
  let read: ReadMoment | undefined;
  for (const form of forms) if ((read = readInForm(text, form, pivot))) break;
  if (!read) return { expected: `a moment in a form of its column: ${forms.map((form) => momentFormExamples[form]).join(", or ")}` };
  if (neverFrom !== undefined && yearIn(read) >= neverFrom) return { value: null };
  // What means never is compared as a moment, however it is written.
  const found = JSON.stringify(read);
  for (const one of never) for (const form of forms) if (JSON.stringify(readInForm(one, form, pivot)) === found) return { value: null };
  const inZone = zone ?? zoneOtherwise;
  if (target.kind === "date") {
    if (read.kind === "date" || (read.kind === "local" && read.minute === 0 && /^:00/.test(read.seconds))) return { value: formatCivilDay(read.date) };
    return { expected: "a date without a time of day" };
  }
  if (read.kind === "instant") return { value: read.text };
  if (read.kind === "date") return { value: target.kind === "moment" ? formatCivilDay(read.date) : sideOfDate(inZone, read.date, target.side) };
  const isMidnight = read.minute === 0 && /^:00(\.0+)?$/.test(read.seconds);
  if (isMidnight && target.side === "until" && target.kind === "moment") {
    if (midnight === undefined) return { expected: "the profile to say whether midnight in this column means the date or the instant" };
    if (midnight === "date") return { value: formatCivilDay(read.date) };
  }
  const later = (target.side === "until") !== target.blocks;
  const value = instantText(inZone, read.date, read.minute, read.seconds, later);
  return value === "" ? { expected: "a moment between the years 0001 and 9999" } : { value };
}

/** How each form looks, by one moment. */
export const momentFormExamples: Readonly<Record<MomentFormName, string>> = {
  iso: "2026-12-31 18:00",
  dmy: "31.12.2026 18:00",
  mdy: "12/31/2026 6:00 PM",
  ymd: "2026/12/31 18:00",
  compact: "20261231T1800",
  "epoch-seconds": "1798740000",
  "epoch-milliseconds": "1798740000000",
  "serial-1900": "46387.75",
  "serial-1904": "44925.75",
};

/** The forms, if any, in which every one of some texts can be read. */
export const formsThatFit = (texts: readonly string[], pivot?: number): MomentFormName[] =>
  (["iso", "dmy", "mdy", "ymd", "compact", "epoch-seconds", "epoch-milliseconds", "serial-1900"] as const).filter(
    (form) => texts.length > 0 && texts.every((text) => readInForm(text, form, pivot) !== undefined),
  );
