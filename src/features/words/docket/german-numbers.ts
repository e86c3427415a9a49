import { germanHours } from "@/core/describe/german-hours";
import { yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";

const small = ["keine", "eine", "zwei", "drei", "vier", "fünf", "sechs", "sieben", "acht", "neun", "zehn", "elf", "zwölf"];

/** A count in a German sentence, of something feminine: small ones in words. */
export const germanNumber = (n: number): string => small[n] ?? n.toLocaleString("de-AT");

export const germanCount = (n: number, one: string, many: string): string => (n === 1 ? one : `${germanNumber(n)} ${many}`);

/** "einmal", "zweimal", "14-mal". */
export const germanTimes = (n: number): string => (n === 1 ? "einmal" : n <= 12 ? `${germanNumber(n)}mal` : `${n.toLocaleString("de-AT")}-mal`);

/** "a, b und c" */
export const germanList = (items: readonly string[]): string =>
  items.length < 2 ? items.join("") : `${items.slice(0, -1).join(", ")} und ${items[items.length - 1] ?? ""}`;

const shown = 3;

/** The first few of a list, and how many more there are. */
export const germanSome = (items: readonly string[]): string =>
  items.length <= shown + 1 ? germanList(items) : `${items.slice(0, shown).join(", ")} und ${items.length - shown} weitere`;

/** "28. November 2026" */
export function germanDate(date: CivilDay): string {
  const { year, month, day } = yearMonthDay(date);
  return germanHours.date(day, germanHours.months[month - 1] ?? "", year);
}

export const germanCapital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
