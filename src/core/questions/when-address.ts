import { formatCivilDay, formatClock, parseCivilDay, parseClock, weekdays } from "../time/civil-day";
import type { Weekday } from "../time/civil-day";
import { formatMinute, minuteDown, parseInstant } from "../time/instant";
import { unreachable } from "../kernel/invariant";
import type { DayFilter, HoursOfDay, LocalTime, SiteWhen, When, Within } from "./when";

/**
 * When, as an address holds it: resolved, so that it means the same tomorrow. `now`; `2026-11-28T22:30`; `2026-11-28`, `2026-11-28/2026-12-06` (both
 * included); `2026-11-28T22:00/2026-11-29T06:00`; what recurs as days, hours and how long: `weekends 22:00-04:00 in 2026-11-27T13:10Z/2027-12-27T13:10Z`.
 * Several sites: `garden=2026-11-28,vault=2026-11-27`, ids percent-encoded.
 */
const writtenTime = ({ date, minuteOfDay }: LocalTime): string => `${formatCivilDay(date)}T${formatClock(minuteOfDay)}`;

function writtenDays(days: DayFilter): string {
  switch (days.kind) {
    case "every-day":
      return "daily";
    case "weekdays":
      return days.weekdays.join("+");
    case "weekend":
      return "weekends";
    case "day-type":
      return `type=${encodeURIComponent(days.dayType)}`;
    case "holiday":
      return `holiday=${encodeURIComponent(days.name)}`;
    default:
      return unreachable(days);
  }
}

function writtenHours(hours: HoursOfDay): string {
  switch (hours.kind) {
    case "all-day":
      return "";
    case "clock":
      return ` ${formatClock(hours.minuteOfDay)}`;
    case "between":
      return ` ${formatClock(hours.start)}-${formatClock(hours.end)}`;
    case "business":
      return " business-hours";
    case "out-of-hours":
      return " out-of-hours";
    default:
      return unreachable(hours);
  }
}

const writtenWithin = (within: Within): string =>
  within.kind === "dates" ? `${formatCivilDay(within.from)}/${formatCivilDay(within.to)}` : `${formatMinute(within.from)}/${formatMinute(within.to)}`;

/** The text of a time in an address; undefined for one that is left open. */
export function writeWhen(when: When): string | undefined {
  switch (when.kind) {
    case "any":
      return undefined;
    case "now":
      return "now";
    case "moment":
      return writtenTime(when.at);
    case "dates":
      return when.from === when.to ? formatCivilDay(when.from) : `${formatCivilDay(when.from)}/${formatCivilDay(when.to)}`;
    case "span":
      return `${writtenTime(when.from)}/${writtenTime(when.to)}`;
    case "recurring":
      return `${writtenDays(when.days)}${writtenHours(when.hours)} in ${writtenWithin(when.within)}`;
    case "by-site":
      return when.sites.map(({ site, when: own }) => `${encodeURIComponent(site)}=${writeWhen(own) ?? "any"}`).join(",");
    default:
      return unreachable(when);
  }
}

function readTime(text: string): LocalTime | undefined {
  const [dateText = "", clockText = "", more] = text.split("T");
  const [date, minuteOfDay] = [parseCivilDay(dateText), parseClock(clockText, false)];
  return date === undefined || minuteOfDay === undefined || more !== undefined ? undefined : { date, minuteOfDay };
}

const decoded = (text: string): string | undefined => {
  try {
    return decodeURIComponent(text);
  } catch {
    return undefined;
  }
};

function readDays(text: string): DayFilter | undefined {
  if (text === "daily") return { kind: "every-day" };
  if (text === "weekends") return { kind: "weekend" };
  const [key, value] = [text.slice(0, text.indexOf("=")), decoded(text.slice(text.indexOf("=") + 1))];
  if (value !== undefined && value !== "" && key === "type") return { kind: "day-type", dayType: value };
  if (value !== undefined && value !== "" && key === "holiday") return { kind: "holiday", name: value };
  const days = text.split("+");
  const known = weekdays.filter((weekday) => days.includes(weekday));
  return known.length === days.length && known.length > 0 ? { kind: "weekdays", weekdays: known satisfies readonly Weekday[] } : undefined;
}

function readHours(text: string | undefined): HoursOfDay | undefined {
  if (text === undefined) return { kind: "all-day" };
  if (text === "business-hours") return { kind: "business" };
  if (text === "out-of-hours") return { kind: "out-of-hours" };
  const [startText = "", endText, more] = text.split("-");
  const start = parseClock(startText, false);
  if (start === undefined || more !== undefined) return undefined;
  if (endText === undefined) return { kind: "clock", minuteOfDay: start };
  const end = parseClock(endText, true);
  return end === undefined ? undefined : { kind: "between", start, end };
}

function readWithin(text: string): Within | undefined {
  const [fromText = "", toText = "", more] = text.split("/");
  if (more !== undefined) return undefined;
  const [fromDate, toDate] = [parseCivilDay(fromText), parseCivilDay(toText)];
  if (fromDate !== undefined && toDate !== undefined) return fromDate <= toDate ? { kind: "dates", from: fromDate, to: toDate } : undefined;
  const [from, to] = [parseInstant(fromText), parseInstant(toText)];
  if (!from || !to) return undefined;
  return minuteDown(from) < minuteDown(to) ? { kind: "instants", from: minuteDown(from), to: minuteDown(to) } : undefined;
}

/** Spans are worked out date by date, so they last no longer than this. */
export const longestSpanDays = 3660;

const isTooLong = (within: Within): boolean =>
  within.kind === "dates" ? within.to - within.from >= longestSpanDays : within.to - within.from > longestSpanDays * 1440;

function readSiteWhen(text: string): SiteWhen | undefined {
  if (text === "any") return { kind: "any" };
  if (text === "now") return { kind: "now" };
  const recurring = /^(\S+)(?: (\S+))? in (\S+)$/.exec(text);
  if (recurring) {
    const [days, hours, within] = [readDays(recurring[1] ?? ""), readHours(recurring[2]), readWithin(recurring[3] ?? "")];
    return days && hours && within && !isTooLong(within) ? { kind: "recurring", days, hours, within } : undefined;
  }
  const [start = "", end, more] = text.split("/");
  if (more !== undefined) return undefined;
  const [date, time] = [parseCivilDay(start), readTime(start)];
  if (end === undefined) return date !== undefined ? { kind: "dates", from: date, to: date } : time && { kind: "moment", at: time };
  const [endDate, endTime] = [parseCivilDay(end), readTime(end)];
  if (date !== undefined && endDate !== undefined)
    return date <= endDate && endDate - date < longestSpanDays ? { kind: "dates", from: date, to: endDate } : undefined;
  if (!time || !endTime) return undefined;
  const isForward = time.date < endTime.date || (time.date === endTime.date && time.minuteOfDay < endTime.minuteOfDay);
  return isForward && endTime.date - time.date < longestSpanDays ? { kind: "span", from: time, to: endTime } : undefined;
}

/** The time that an address holds; undefined where it is none that `writeWhen` writes. */
export function whenOfAddress(text: string): When | undefined {
  const whole = readSiteWhen(text);
  if (whole) return whole;
  const sites = text.split(",").map((part) => {
    const at = part.indexOf("=");
    const [site, when] = [decoded(part.slice(0, at)), readSiteWhen(part.slice(at + 1))];
    return at > 0 && site !== undefined && when ? { site, when } : undefined;
  });
  return sites.every((one) => one !== undefined) ? { kind: "by-site", sites } : undefined;
}
