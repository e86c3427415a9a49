import { formatClock, minutesADay, weekdays } from "@/core/time/civil-day";
import { weekdayNamed, plainWord } from "./month-names";
import type { FieldSource, HoursForm } from "./source-profile";

const clockForm = /^(\d{1,2})(?:[:.h](\d{2})(?::(\d{2}))?|\s*h)?\s*([ap]\.?m\.?)?$/i;
const longestClock = 40;
const fourDigits = /^(\d{2})(\d{2})$/;

/** A time of day in minutes: 7:00, 07:00:00, 0700, 7.00, 7h, 07:00 AM; 24:00 only where it ends something. Undefined for any other text. */
export function readClock(text: string, isEnd: boolean): number | undefined {
  if (text.length > longestClock) return undefined;
  const plain = text.trim();
  const [, h4, m4] = fourDigits.exec(plain) ?? [];
  const [, hour = h4 ?? "", minute = m4, second, half] = clockForm.exec(plain) ?? [];
  // A number alone is a time of day only with a half of the day or an h.
  if (hour === "" || (minute === undefined && half === undefined && !/h$/i.test(plain)) || (second !== undefined && second !== "00")) return undefined;
  const written = Number(hour);
  if (Number(minute ?? 0) > 59 || (half !== undefined && (written < 1 || written > 12))) return undefined;
  const value = (half === undefined ? written : (written % 12) + (/^p/i.test(half) ? 12 : 0)) * 60 + Number(minute ?? 0);
  return value < minutesADay || (isEnd && value === minutesADay && half === undefined) ? value : undefined;
}

/** A row of a day: an interval, or none for a day that stays shut. */
export type ReadInterval = readonly [start: string, end: string] | undefined;

/** An interval as the document writes it; a sentence where its ends do not make one, or it could mean two things. */
export function readInterval(start: string, end: string, form: HoursForm): { readonly interval: ReadInterval } | { readonly expected: string } {
  const from = readClock(start, false);
  const to = readClock(end, true);
  if (from === undefined || to === undefined)
    return { expected: `a time of day such as 07:00, 0700, 7.00 or 07:00 AM (found ${from === undefined ? start : end})` };
  const last = form.endsIncluded && to < minutesADay ? to + 1 : to;
  if (last > from) return { interval: [formatClock(from), formatClock(last)] };
  const text = `${start}-${end}`;
  const backwards = (form.backwardTexts && Object.hasOwn(form.backwardTexts, text) ? form.backwardTexts[text] : undefined) ?? form.backwards;
  if (backwards === "never") return { interval: undefined };
  if (backwards === "overnight") return { interval: [formatClock(from), formatClock(last)] };
  return { expected: "the profile to say whether an interval that ends before it begins means never or overnight" };
}

const separators = /\s*[;\n,/]\s*|\s+(?:and|und|et|y|en)\s+/i;
const ends = /\s*[–—−-]\s*|\s+(?:to|bis|a|à|tot|until)\s+/i;

/** Cells are cut by patterns, which are not let loose on more than any hours or weekdays need. */
const longestCell = 1000;

/** All intervals of a cell, such as `07:00-12:00, 13:00-18:00`. */
export function readHours(text: string, form: HoursForm): { readonly intervals: readonly ReadInterval[] } | { readonly expected: string } {
  if (text.length > longestCell) return { expected: `hours of at most ${longestCell} characters` };
  if (form.allDay?.includes(text)) return { intervals: [["00:00", "24:00"]] };
  if (form.never?.includes(text)) return { intervals: [undefined] };
  const intervals: ReadInterval[] = [];
  for (const part of text.split(separators)) {
    const sides = part.trim().split(ends);
    const [start, end] = sides;
    if (start === undefined || end === undefined || sides.length !== 2) return { expected: "hours such as 07:00-18:00, several with commas between them" };
    const read = readInterval(start, end, form);
    if ("expected" in read) return read;
    intervals.push(read.interval);
  }
  return { intervals };
}

/** Words for all seven days and for five of them: common practice, no source. */
const daysInWords: Readonly<Record<string, readonly number[]>> = {
  daily: [0, 1, 2, 3, 4, 5, 6],
  "every day": [0, 1, 2, 3, 4, 5, 6],
  taglich: [0, 1, 2, 3, 4, 5, 6],
  weekdays: [0, 1, 2, 3, 4],
  weekend: [5, 6],
  weekends: [5, 6],
};

function oneWeekday(text: string, numbers: FieldSource["weekdays"]): number | undefined {
  if (numbers && /^\d$/.test(text)) {
    const at = Number(text) - numbers.monday;
    const day = ((at % 7) + 7) % 7;
    // A number that is neither between Monday and Sunday, nor the Sunday before Monday, names no day.
    const isDay = Number(text) === numbers.sunday ? true : at >= 0 && at < 7 && (numbers.sunday > numbers.monday ? true : at < 6);
    return isDay ? day : undefined;
  }
  return weekdayNamed(text);
}

/** The weekdays of a cell: one, several, or a span such as Mon–Fri; undefined where it names none. */
export function readWeekdays(text: string, numbers: FieldSource["weekdays"]): readonly (typeof weekdays)[number][] | undefined {
  if (text.length > longestCell) return undefined;
  const words = plainWord(text);
  const known = Object.hasOwn(daysInWords, words) ? daysInWords[words] : undefined;
  const found = new Set<number>(known);
  if (!known)
    for (const part of words.split(/\s*[,;/+&]\s*/)) {
      const span = part.split(/\s*[–—-]\s*|\s+(?:to|bis|tot|a)\s+/);
      const [first, last] = [oneWeekday(span[0] ?? "", numbers), oneWeekday(span[span.length - 1] ?? "", numbers)];
      if (span.length > 2 || first === undefined || last === undefined) return undefined;
      for (let day = first; ; day = (day + 1) % 7) {
        found.add(day);
        if (day === last) break;
      }
    }
  return weekdays.filter((_day, at) => found.has(at));
}
