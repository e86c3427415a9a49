import { englishHours } from "./english-hours";
import type { HoursLanguage } from "./hours-language";
import { groupBy } from "../kernel/compare";
import { minutesADay } from "../time/civil-day";
import type { IntervalSet } from "../time/intervals";
import { clip, totalMinutes } from "../time/intervals";

const noon = 720;

/** A minute of the day as people write it: whole hours in two digits, else with their minutes. */
function clockPair(start: number, end: number): string {
  const endOfDay = end > minutesADay ? end - minutesADay : end;
  const whole = start % 60 === 0 && endOfDay % 60 === 0;
  const write = (minute: number): string => {
    const hour = String(Math.floor(minute / 60)).padStart(2, "0");
    return whole ? hour : `${hour}:${String(minute % 60).padStart(2, "0")}`;
  };
  return `${write(start)}–${write(endOfDay)}`;
}

/** Weekday numbers (0 is Monday, sorted) in words: "Mon–Fri", "Sat, Sun", "every day". */
function dayWords(days: readonly number[], { days: dayNames, everyDay }: HoursLanguage): string {
  if (days.length === 7) return everyDay;
  const runs: [number, number][] = [];
  for (const day of days) {
    const last = runs[runs.length - 1];
    if (last?.[1] === day - 1) last[1] = day;
    else runs.push([day, day]);
  }
  return runs.map(([first, last]) => (first === last ? dayNames[first] : `${dayNames[first]}${last - first === 1 ? ", " : "–"}${dayNames[last]}`)).join(", ");
}

/**
 * Intervals of each day, an interval over midnight joined and kept on the day on which it starts (end up to 2880). One of more than
 * 24 hours is not joined: its end would read as earlier the same day.
 */
function intervalsByDay(week: readonly IntervalSet[]): (readonly [number, number])[][] {
  const runsOn = (day: number): boolean => {
    const tonight = week[day] ?? [];
    const tomorrow = week[(day + 1) % 7] ?? [];
    const start = tonight[tonight.length - 2] ?? 0;
    return tonight[tonight.length - 1] === minutesADay && start > 0 && tomorrow[0] === 0 && (tomorrow[1] ?? 0) <= Math.min(noon, start);
  };
  return week.map((set, day) => {
    const intervals: (readonly [number, number])[] = [];
    for (let i = 0; i < set.length; i += 2) {
      const [start, end] = [set[i] as number, set[i + 1] as number];
      if (start === 0 && i === 0 && runsOn((day + 6) % 7)) continue;
      const tail = end === minutesADay && runsOn(day) ? ((week[(day + 1) % 7] ?? [])[1] ?? 0) : 0;
      intervals.push([start, end + tail]);
    }
    return intervals;
  });
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** A week of seven daily patterns (index 0 is Monday) in words, such as "Mon–Fri 08–18, and every night 20–06". */
export function weekWords(week: readonly IntervalSet[], language: HoursLanguage = englishHours): string {
  const total = week.reduce((sum, day) => sum + totalMinutes(day), 0);
  if (total === 0) return language.neverInWeek;
  if (total === 7 * minutesADay) return language.atAllHours;
  const daysOf = new Map<string, { interval: readonly [number, number]; days: number[] }>();
  intervalsByDay(week).forEach((intervals, day) => {
    for (const interval of intervals) {
      const key = interval.join(" ");
      const known = daysOf.get(key);
      if (known) known.days.push(day);
      else daysOf.set(key, { interval, days: [day] });
    }
  });
  const byDays = groupBy(daysOf.values(), ({ days }) => days.join(" "));
  const parts = [...byDays.values()].map((together) => {
    const days = together[0]?.days ?? [];
    const intervals = together.map(({ interval }) => interval).sort((a, b) => a[0] - b[0]);
    const overnight = intervals.every(([, end]) => end > minutesADay);
    const hours = intervals.map(([start, end]) => (end - start === minutesADay && start === 0 ? language.allDay : clockPair(start, end))).join(language.and);
    return { days, words: `${overnight && days.length === 7 ? language.everyNight : dayWords(days, language)} ${hours}` };
  });
  parts.sort((a, b) => (a.days[0] ?? 0) - (b.days[0] ?? 0) || b.days.length - a.days.length);
  return capital(parts.map(({ words }) => words).join(parts.length > 1 ? language.andPart : ""));
}

/** The minutes of a week (0..10080 from Monday) as seven daily patterns. */
export const daysOfWeek = (week: IntervalSet): IntervalSet[] =>
  Array.from({ length: 7 }, (_, day) => clip(week, day * minutesADay, (day + 1) * minutesADay).map((minute) => minute - day * minutesADay));
