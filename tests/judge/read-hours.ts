import { addDays, parseCivilDay, weekdayNumber } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { IntervalSet } from "@/core/time/intervals";
import { clip, fromRanges } from "@/core/time/intervals";

/** Reads hours in words back: what opens on each date, in minutes of the day. Written from the words alone, as a person would read them. */

const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const dayNames = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const datePattern = "\\d{1,2} (?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec) \\d{4}";

/** What a German reader would say in English of each phrase, one after the other. */
const fromGerman: readonly (readonly [RegExp, string])[] = [
  ...["Jänner", "Februar", "März", "April", "Mai", "Juni", "Juli", "August", "September", "Oktober", "November", "Dezember"].map(
    (month, i) => [new RegExp(`(\\d{1,2})\\. ${month} (\\d{4})`, "g"), `$1 ${months[i] ?? ""} $2`] as const,
  ),
  ...["Mo", "Di", "Mi", "Do", "Fr", "Sa", "So"].map((day, i) => [new RegExp(`\\b${day}\\b(?=[–, ])`, "g"), dayNames[i] ?? ""] as const),
  [/^Nie$/, "Never"],
  [/Zu jeder Zeit/g, "At all hours"],
  [/täglich/g, "every day"],
  [/Täglich/g, "Every day"],
  [/jede Nacht/g, "every night"],
  [/Jede Nacht/g, "Every night"],
  [/ganztägig/g, "all day"],
  [/ und /g, " and "],
  [/auch an Feiertagen/g, "holidays too"],
  [/ an Feiertagen \(/g, " on public holidays ("],
  [/ an Tagen „(.*?)“ \(/g, " on $1 days ("],
  [/ am (?=\d)/g, " on "],
  [/\((\d+) Tage\)/g, "($1 dates)"],
  [/\((\d+) Tag\)/g, "($1 date)"],
  [/\bnicht\b/g, "not"],
  [/\bNur\b/g, "Only"],
  [/ ab (?=\d)/g, " from "],
  [/ bis (?=\d)/g, " until "],
];

/** Hours in German words as they would be told in English, word for word. */
export const germanInEnglish = (words: string): string => fromGerman.reduce((text, [german, english]) => text.replace(german, english), words);

function readDate(text: string): CivilDay {
  const [day = "", month = "", year = ""] = text.split(" ");
  const date = parseCivilDay(`${year}-${String(months.indexOf(month) + 1).padStart(2, "0")}-${day.padStart(2, "0")}`);
  if (date === undefined) throw new Error(`no date: ${text}`);
  return date;
}

const readClock = (text: string): number => {
  const [hour = "", minute = "0"] = text.split(":");
  return Number(hour) * 60 + Number(minute);
};

/** "08–12 and 13–17" as pairs of minutes; an end at or before its start is on the next day. */
function readHours(text: string): [number, number][] {
  if (text === "all day") return [[0, 1440]];
  return text.split(" and ").map((pair) => {
    const [start = 0, end = 0] = pair.split("–").map(readClock);
    return [start, end <= start ? end + 1440 : end];
  });
}

function readDays(text: string): number[] {
  if (/^every (day|night)$/i.test(text)) return [0, 1, 2, 3, 4, 5, 6];
  return text.split(", ").flatMap((part) => {
    const [first = "", last = first] = part.split("–");
    const [a, b] = [dayNames.indexOf(first), dayNames.indexOf(last)];
    if (a < 0 || b < a) throw new Error(`no days: ${text}`);
    return Array.from({ length: b - a + 1 }, (_, i) => a + i);
  });
}

function readWeek(text: string): IntervalSet[] {
  if (text === "At all hours") return dayNames.map(() => [0, 1440]);
  const ranges: [number, number][][] = dayNames.map(() => []);
  for (const part of text.split(", and ")) {
    const found = /^(.*?) ((?:\d\d(?::\d\d)?–\d\d(?::\d\d)?(?: and )?)+|all day)$/.exec(part);
    if (!found) throw new Error(`no hours: ${part}`);
    for (const day of readDays(found[1] ?? ""))
      for (const [start, end] of readHours(found[2] ?? "")) {
        ranges[day]?.push([start, Math.min(end, 1440)]);
        if (end > 1440) ranges[(day + 1) % 7]?.push([0, end - 1440]);
      }
  }
  return ranges.map(fromRanges);
}

/** What the words say of each date from `first` to `last`. */
export function readHoursBack(words: string, first: CivilDay, last: CivilDay, dayTypeOn: (date: CivilDay) => string | undefined): Map<CivilDay, IntervalSet> {
  const opens = new Map<CivilDay, IntervalSet>();
  if (words === "Never") return opens;
  // A handful of single dates.
  const single = new RegExp(`(${datePattern}) ((?:\\d\\d(?::\\d\\d)?–\\d\\d(?::\\d\\d)?(?: and )?)+|all day)(?:, |$)`, "y");
  const singles: [CivilDay, IntervalSet][] = [];
  for (let found = single.exec(words); found; found = single.exec(words)) {
    singles.push([readDate(found[1] ?? ""), fromRanges(readHours(found[2] ?? ""))]);
    if (single.lastIndex === words.length) return new Map(singles);
  }
  for (const part of words.split("; ")) {
    const bounds = new RegExp(`^(.*?)(?: from (${datePattern}))?(?: until (${datePattern})(?: (\\d\\d:\\d\\d))?)?$`).exec(part);
    if (!bounds) throw new Error(`no part: ${part}`);
    const [, said = "", from, until, cut] = bounds;
    const [start, end] = [from === undefined ? first : readDate(from), until === undefined ? last : readDate(until)];
    const pieces = said.replace(/^Only /, "Only, ").split(/, (?=not on |(?:\d\d(?::\d\d)?–\d\d(?::\d\d)?(?: and )?)+ on |all day on )/);
    const usual = (pieces[0] ?? "").replace(/, holidays too$/, "").replace(/^Only$/, "");
    const week = usual === "" ? dayNames.map((): IntervalSet => []) : readWeek(usual);
    for (let date = start; date <= end; date = addDays(date, 1)) opens.set(date, week[weekdayNumber(date)] ?? []);
    for (const exception of pieces.slice(1)) {
      const [, hours = "", when = ""] = /^(.*?) ?on (.*)$/.exec(exception) ?? [];
      const set = hours === "not" ? [] : fromRanges(readHours(hours));
      const type = when.startsWith("public holidays (") ? "public" : /^(\S+) days \(/.exec(when)?.[1];
      if (type === undefined) for (const [date] of when.matchAll(new RegExp(datePattern, "g"))) opens.set(readDate(date), set);
      else for (let date = start; date <= end; date = addDays(date, 1)) if (dayTypeOn(date) === type) opens.set(date, set);
    }
    if (cut !== undefined) opens.set(end, clip(opens.get(end) ?? [], 0, readClock(cut)));
  }
  return opens;
}
