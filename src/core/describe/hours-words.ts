import { groupBy } from "../kernel/compare";
import { addDays, formatClock, weekdayNumber, yearMonthDay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { clip } from "../time/intervals";
import type { Zone } from "../time/zone";
import type { LocalDay } from "./local-days";
import { dayFollows, localDays } from "./local-days";
import { englishHours } from "./english-hours";
import type { HoursLanguage } from "./hours-language";
import { weekWords } from "./week-words";

function dateWords(date: CivilDay, language: HoursLanguage): string {
  const { year, month, day } = yearMonthDay(date);
  return language.date(day, language.months[month - 1] ?? "", year);
}

/** A stretch of dates that follows one week, but for its exceptions. */
export interface HoursStretch {
  readonly from: CivilDay;
  readonly to: CivilDay;
  /** Index 0 is Monday; minutes of the day. */
  readonly week: readonly IntervalSet[];
  readonly exceptions: readonly LocalDay[];
}

const key = (set: IntervalSet): string => set.join(" ");

/** Of each weekday the pattern that most of its dates follow; dates on which the clock skips an hour do not vote. */
function usualWeek(days: readonly LocalDay[]): IntervalSet[] {
  return Array.from({ length: 7 }, (_, weekday) => {
    const votes = new Map<string, { set: IntervalSet; count: number }>();
    for (const { date, open, skipped } of days) {
      if (weekdayNumber(date) !== weekday || skipped.length > 0) continue;
      const vote = votes.get(key(open));
      if (vote) vote.count++;
      else votes.set(key(open), { set: open, count: 1 });
    }
    return [...votes.values()].reduce((best, vote) => (vote.count > best.count ? vote : best), { set: [] as IntervalSet, count: 0 }).set;
  });
}

function stretchOf(days: readonly LocalDay[]): HoursStretch {
  const week = usualWeek(days);
  const exceptions = days.filter((day) => !dayFollows(day, week[weekdayNumber(day.date)] ?? []));
  const [first, last] = [days[0], days[days.length - 1]] as [LocalDay, LocalDay];
  return { from: first.date, to: last.date, week, exceptions };
}

/** A stretch of which more than this share are exceptions is cut where that explains more dates. */
const tolerated = 0.12;
const shortestStretchDays = 14;

/** Cuts dates into stretches of one week each: while too many are exceptions, at the cut that leaves the fewest of them. */
function stretches(days: readonly LocalDay[], cutsLeft: number): HoursStretch[] {
  const whole = stretchOf(days);
  if (cutsLeft === 0 || days.length < 2 * shortestStretchDays || whole.exceptions.length <= tolerated * days.length) return [whole];
  let best = { at: -1, left: whole.exceptions.length };
  for (let at = shortestStretchDays; at <= days.length - shortestStretchDays; at += 1) {
    // A new stretch begins where the day differs from the one a week before.
    if (key(days[at]?.open ?? []) === key(days[at - 7]?.open ?? [])) continue;
    const left = stretchOf(days.slice(0, at)).exceptions.length + stretchOf(days.slice(at)).exceptions.length;
    if (left < best.left) best = { at, left };
  }
  if (best.at < 0) return [whole];
  return [...stretches(days.slice(0, best.at), cutsLeft - 1), ...stretches(days.slice(best.at), cutsLeft - 1)];
}

/** "a, b and c". */
const listed = (texts: readonly string[], { and }: HoursLanguage): string =>
  texts.length < 2 ? texts.join("") : `${texts.slice(0, -1).join(", ")}${and}${texts[texts.length - 1] ?? ""}`;

/** The hours of one date. */
function hoursOn(open: IntervalSet, language: HoursLanguage): string {
  const words = weekWords([open], language);
  return words === language.atAllHours ? language.allDay : words.replace(`${language.days[0] ?? ""} `, "");
}

/**
 * Names the exceptions of a stretch, or counts them: by what they open, and by day type where that tells it all. In full, dates are
 * counted only where they are all dates of their day type and every one of these opens so; any other is named.
 */
function exceptionWords(
  stretch: HoursStretch,
  days: readonly LocalDay[],
  dayTypeOn: DescribedRange["dayTypeOn"],
  full: boolean,
  language: HoursLanguage,
): string[] {
  const byPattern = groupBy(stretch.exceptions, ({ open }) => key(open));
  return [...byPattern.values()].flatMap((dates) => {
    const open = dates[0]?.open ?? [];
    const hours = open.length === 0 ? language.not : hoursOn(open, language);
    const named = groupBy(dates, ({ date }) => dayTypeOn(date));
    return [...named].map(([dayType, on]) => {
      const names = listed(
        on.map(({ date }) => dateWords(date, language)),
        language,
      );
      const areFew = on.length <= 2;
      const tellsAll = dayType !== undefined && days.every((day) => dayTypeOn(day.date) !== dayType || dayFollows(day, open));
      if (dayType === undefined || (full && !tellsAll)) return `${hours} ${full || areFew ? language.onDates(names) : language.onCount(on.length)}`;
      // Some of them only: said so, that nobody takes it for all of them.
      if (!tellsAll) {
        const all = days.filter((day) => dayTypeOn(day.date) === dayType).length;
        return `${hours} ${language.onSome(on.length, all, dayType, areFew ? names : undefined)}`;
      }
      return `${hours} ${language.onDayType(dayType, areFew ? names : language.datesCounted(on.length))}`;
    });
  });
}

/** A last date that follows its pattern only up to some minute: where a window ends on another zone's midnight, say. */
function cutShort(day: LocalDay | undefined, week: readonly IntervalSet[]): number | undefined {
  const end = day?.open[day.open.length - 1];
  if (!day || end === undefined) return undefined;
  const pattern = week[weekdayNumber(day.date)] ?? [];
  return !dayFollows(day, pattern) && dayFollows(day, clip(pattern, 0, end)) ? end : undefined;
}

/** What a timetable says in words, exact over the stated range. */
export interface HoursInWords {
  readonly words: string;
  readonly stretches: readonly HoursStretch[];
}

export interface DescribedRange {
  readonly zone: Zone;
  readonly from: EpochMinute;
  readonly to: EpochMinute;
  /** Day type of a date in the calendar by which the schedules are read; names the exceptions. */
  readonly dayTypeOn: (date: CivilDay) => string | undefined;
}

const cutsAtMost = 2;

/**
 * Hours in words over a range; the first and last date on which anything opens are named where they lie inside it. In full they
 * can be read back: they say of every whole date in the range what opens on it. Otherwise long lists of dates are counted.
 */
export function hoursInWords(open: IntervalSet, described: DescribedRange, full = false, language: HoursLanguage = englishHours): HoursInWords {
  const days = localDays(open, described.zone, described.from, described.to);
  const firstOpen = days.findIndex((day) => day.open.length > 0);
  if (firstOpen < 0) return { words: language.never, stretches: [] };
  const lastOpen = days.findLastIndex((day) => day.open.length > 0);
  const begins = firstOpen > 7;
  const ends = lastOpen < days.length - 8;
  const span = days.slice(begins ? firstOpen : 1, ends ? lastOpen + 1 : -1);
  if (span.length < 8) {
    // Date by date, also the parts of dates with which the range begins and ends: there may be no others.
    const dates = days.filter((day) => day.open.length > 0);
    const texts = dates.slice(0, full ? dates.length : 3).map((day) => `${dateWords(day.date, language)} ${hoursOn(day.open, language)}`);
    return {
      words: texts.join(", ") + (!full && dates.length > 3 ? language.moreDates(dates.length - 3) : ""),
      stretches: [stretchOf(span.length > 0 ? span : dates)],
    };
  }
  const found = stretches(span, cutsAtMost).filter(
    ({ week, exceptions }) => week.some((day) => day.length > 0) || exceptions.some((day) => day.open.length > 0),
  );
  const parts = found.map((whole, i) => {
    let stretch = whole;
    const starts = stretch.from > addDays((span[0] as LocalDay).date, 0) || begins;
    const stops = stretch.to < (span[span.length - 1] as LocalDay).date || ends;
    const dates = [
      starts && (i === 0 || found.length > 1) ? language.from(dateWords(stretch.from, language)) : "",
      stops ? language.until(dateWords(stretch.to, language)) : "",
    ];
    const last = days.find(({ date }) => date === stretch.to);
    const cut = stops ? cutShort(last, stretch.week) : undefined;
    if (cut !== undefined) {
      dates[1] = language.until(`${dateWords(stretch.to, language)} ${formatClock(cut)}`);
      stretch = { ...stretch, exceptions: stretch.exceptions.filter((day) => day !== last) };
    }
    const exceptions = exceptionWords(
      stretch,
      days.filter(({ date }) => stretch.from <= date && date <= stretch.to),
      described.dayTypeOn,
      full,
      language,
    );
    const opensWeekly = stretch.week.some((day) => day.length > 0);
    const hours = opensWeekly
      ? [`${weekWords(stretch.week, language)}${holidayWords(stretch, described, language)}`, ...exceptions].join(", ")
      : `${language.only} ${exceptions.join(", ")}`;
    return hours + dates.join("");
  });
  return { words: parts.join("; "), stretches: found };
}

/** "holidays too", where public holidays fall on days that open and none of them changes anything. */
function holidayWords(stretch: HoursStretch, { dayTypeOn }: DescribedRange, language: HoursLanguage): string {
  let marked = false;
  for (let date = stretch.from; date <= stretch.to; date = addDays(date, 1)) {
    const pattern = stretch.week[weekdayNumber(date)] ?? [];
    if (dayTypeOn(date) === "public" && pattern.length > 0) marked = true;
  }
  return marked && !stretch.exceptions.some(({ date }) => dayTypeOn(date) === "public") ? language.holidaysToo : "";
}
