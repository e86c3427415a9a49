import { addDays, civilDay, daysInMonth, yearMonthDay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import type { Found } from "./when-piece";
import { isWord } from "./when-piece";
import type { Token } from "./when-tokens";

const months = ["january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december"];
/** 1..12; undefined for a word that is no month. Short forms have three letters, or "sept". */
export function monthOf(token: Token | undefined): number | undefined {
  if (token?.kind !== "word") return undefined;
  const text = token.text.replace(/\.$/, "");
  const found = months.findIndex((month) => month === text || month.slice(0, 3) === text || (text === "sept" && month === "september"));
  return found < 0 ? undefined : found + 1;
}

const isDate = (year: number, month: number, day: number): boolean =>
  year >= 1 && year <= 9999 && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month);

export const monthNames = months.map((month) => `${month.charAt(0).toUpperCase()}${month.slice(1)}`);
const written = (year: number, month: number, day: number): string => `${day} ${monthNames[month - 1] ?? ""} ${year}`;

/** The date of a day and month in the year given, else the present or the coming one. */
export function dateOf(today: CivilDay, day: number, month: number, year: number | undefined): CivilDay | undefined {
  if (year !== undefined) return isDate(year, month, day) ? civilDay(year, month, day) : undefined;
  const present = yearMonthDay(today).year;
  // 29 February comes within eight years.
  for (let next = present; next <= present + 8; next++) {
    if (!isDate(next, month, day)) continue;
    const date = civilDay(next, month, day);
    if (date >= today) return date;
  }
  return undefined;
}

export const yearAt = (tokens: readonly Token[], at: number): number | undefined => {
  const token = tokens[at];
  return token?.kind === "number" && /^\d{4}$/.test(token.text) ? token.value : undefined;
};

export const dayAt = (tokens: readonly Token[], at: number): number | undefined => {
  const token = tokens[at];
  return token?.kind === "number" && token.value >= 1 && token.value <= 31 ? token.value : undefined;
};

function numericDate(token: Extract<Token, { kind: "numeric-date" }>): Found {
  const [a, b, c] = token.parts;
  const one = (year: number, month: number, day: number): Found =>
    isDate(year, month, day)
      ? { piece: { says: "date", date: civilDay(year, month, day) }, used: 1 }
      : { obstacle: { why: "impossible-date", text: token.text }, used: 1 };
  if (token.form === "year-first") return one(a, b, c);
  if (token.form === "short-year")
    return {
      obstacle: {
        why: "two-readings",
        text: token.text,
        readings: [
          isDate(2000 + c, b, a) ? written(2000 + c, b, a) : `a year 20${String(c).padStart(2, "0")}`,
          isDate(2000 + a, b, c) ? written(2000 + a, b, c) : `a year 19${String(c).padStart(2, "0")}`,
        ],
      },
      used: 1,
    };
  // With dots the day comes first wherever dots are used.
  if (token.sign === "." || a === b) return one(c, b, a);
  const [dayFirst, monthFirst] = [isDate(c, b, a), isDate(c, a, b)];
  if (dayFirst && monthFirst) return { obstacle: { why: "two-readings", text: token.text, readings: [written(c, b, a), written(c, a, b)] }, used: 1 };
  return monthFirst ? one(c, a, b) : one(c, b, a);
}

function writtenDate(tokens: readonly Token[], at: number, today: CivilDay): Found {
  const text = (used: number): string =>
    tokens
      .slice(at, at + used)
      .map((token) => token.text)
      .join(" ");
  const of = (day: number, month: number, year: number | undefined, used: number): Found => {
    const date = dateOf(today, day, month, year);
    return date === undefined ? { obstacle: { why: "impossible-date", text: text(used) }, used } : { piece: { says: "date", date }, used };
  };
  const day = dayAt(tokens, at);
  const skipOf = isWord(tokens[at + 1], "of") ? 1 : 0;
  const month = monthOf(tokens[at + 1 + skipOf]);
  if (day !== undefined && month !== undefined) {
    const year = yearAt(tokens, at + 2 + skipOf);
    return of(day, month, year, 2 + skipOf + (year === undefined ? 0 : 1));
  }
  const first = monthOf(tokens[at]);
  const second = dayAt(tokens, at + 1);
  // "June 2027" is the month; "June 20 2027" and "June 20, 2027" are dates.
  if (first !== undefined && second !== undefined) {
    const comma = tokens[at + 2]?.kind === "comma" && yearAt(tokens, at + 3) !== undefined ? 1 : 0;
    const year = yearAt(tokens, at + 2 + comma);
    return of(second, first, year, 2 + (year === undefined ? 0 : 1 + comma));
  }
  return undefined;
}

/** A date as it is written, without a weekday: `28 November 2026`, `2026-11-28`, `24.12.`, `today`. */
export function plainDate(tokens: readonly Token[], at: number, today: CivilDay): Found {
  const token = tokens[at];
  if (token?.kind === "numeric-date") return numericDate(token);
  if (token?.kind === "dotted") {
    const [day, month] = token.parts;
    const date = month >= 1 && month <= 12 && day >= 1 ? dateOf(today, day, month, undefined) : undefined;
    if (token.isDate)
      return date === undefined ? { obstacle: { why: "impossible-date", text: token.text }, used: 1 } : { piece: { says: "date", date }, used: 1 };
    return undefined;
  }
  if (isWord(token, "today")) return { piece: { says: "date", date: today }, used: 1 };
  if (isWord(token, "tomorrow")) return { piece: { says: "date", date: addDays(today, 1) }, used: 1 };
  if (isWord(token, "yesterday")) return { piece: { says: "date", date: addDays(today, -1) }, used: 1 };
  if (isWord(token, "day") && isWord(tokens[at + 1], "after") && isWord(tokens[at + 2], "tomorrow"))
    return { piece: { says: "date", date: addDays(today, 2) }, used: 3 };
  if (isWord(token, "day") && isWord(tokens[at + 1], "before") && isWord(tokens[at + 2], "yesterday"))
    return { piece: { says: "date", date: addDays(today, -2) }, used: 3 };
  return writtenDate(tokens, at, today);
}
