import { civilDay, weekdayNumber, yearMonthDay, formatClock, parseCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { minuteDown, parseMoment } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { localTime, zoneOf } from "@/core/time/zone";

const weekdays = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** The date where the reader sits. */
export function dateHere(): CivilDay {
  const now = new Date();
  return civilDay(now.getFullYear(), now.getMonth() + 1, now.getDate());
}

/** "28 Nov 2026" */
export function dateText(date: CivilDay): string {
  const { year, month, day } = yearMonthDay(date);
  return `${day} ${months[month - 1] ?? ""} ${year}`;
}

/** A day of the year as people write it: "25 Dec" for `12-25`; what is none stays as it is. */
export function dayOfYearText(written: string): string {
  const [, month, day] = /^(\d\d)-(\d\d)$/.exec(written) ?? [];
  const name = months[Number(month) - 1];
  return name === undefined ? written : `${Number(day)} ${name}`;
}

/**
 * A moment of a document as people write it: "28 Nov 2026", or "28 Nov 2026, 22:30" on the clock of a zone. What is no moment, or lies in a year that would not
 * be written in full, stays as it is.
 */
export function momentOnClock(written: string, timeZone: string): string {
  const moment = parseMoment(written);
  if (!moment) return written;
  if (moment.kind === "date") return yearMonthDay(moment.date).year < 1000 ? written : dateText(moment.date);
  const { date, minuteOfDay } = localTime(zoneOf(timeZone), minuteDown(moment.instant));
  if (yearMonthDay(date).year < 1000 || moment.instant.fraction !== "") return written;
  const second = ((moment.instant.seconds % 60) + 60) % 60;
  return `${dateText(date)}, ${formatClock(minuteOfDay)}${second === 0 ? "" : `:${String(second).padStart(2, "0")}`}`;
}

/** "Nov", of a month 1 to 12 */
export const monthText = (month: number): string => months[month - 1] ?? "";

/** "Sat" */
export const weekdayText = (date: CivilDay): string => weekdays[weekdayNumber(date)] ?? "";

/** "Sat 28 Nov 2026, 22:30" */
export const momentText = (date: CivilDay, minuteOfDay: number): string =>
  `${weekdays[weekdayNumber(date)] ?? ""} ${dateText(date)}, ${formatClock(minuteOfDay)}`;

/** An instant on the wall clock of a zone: "Sat 28 Nov 2026, 22:30". */
export function localMomentText(minute: EpochMinute, zone: string): string {
  const { date, minuteOfDay } = localTime(zoneOf(zone), minute);
  return momentText(date, minuteOfDay);
}

/** The same without the year, where it is close to another: "Sun 29 Nov 06:00". */
export function nearMomentText(minute: EpochMinute, zone: string): string {
  const { date, minuteOfDay } = localTime(zoneOf(zone), minute);
  const { month, day } = yearMonthDay(date);
  return `${weekdays[weekdayNumber(date)] ?? ""} ${day} ${months[month - 1] ?? ""} ${formatClock(minuteOfDay)}`;
}

/** "UTC+2", "UTC−1", "UTC+5:30" */
export function offsetText(offset: number): string {
  const minutes = Math.abs(offset);
  const rest = minutes % 60;
  return `UTC${offset < 0 ? "−" : "+"}${Math.floor(minutes / 60)}${rest === 0 ? "" : `:${String(rest).padStart(2, "0")}`}`;
}

/** An ISO text of UTC as "24 Nov 2026, 06:10 UTC". */
export function clockText(iso: string): string {
  const date = Math.floor(Date.parse(iso) / 86_400_000) as CivilDay;
  return `${dateText(date)}, ${iso.slice(11, 16)} UTC`;
}

/** How long before another an instant was: "last night", "3 days ago". */
export function agoText(then: EpochMinute, now: EpochMinute): string {
  const days = Math.floor((now - then) / 1440);
  if (days <= 0) return "today";
  if (days === 1) return "yesterday";
  return `${days} days ago`;
}

/** A moment of the document as it is told: a date, or an instant of UTC. */
export function momentWords(text: string): string {
  const date = parseCivilDay(text.slice(0, 10));
  if (date === undefined) return text;
  return text.length === 10 ? dateText(date) : `${dateText(date)}, ${text.slice(11, 16)} UTC`;
}

/** A second on the wall clock of a zone: "28 Nov 2026, 22:30:07". */
export function secondOnClock(second: number, zone: string): string {
  const { date, minuteOfDay } = localTime(zoneOf(zone), Math.floor(second / 60) as EpochMinute);
  return `${dateText(date)}, ${formatClock(minuteOfDay)}:${String(((second % 60) + 60) % 60).padStart(2, "0")}`;
}
