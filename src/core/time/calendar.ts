import { unreachable } from "../kernel/invariant";
import { daysInMonth, weekdayNumber, weekdays, yearMonthDay } from "./civil-day";
import type { CivilDay, Weekday } from "./civil-day";
import { easterSunday } from "./easter";

/** Which dates an entry of a calendar covers. Month-days are month × 100 + day. */
export type DayRule =
  | { readonly rule: "on"; readonly date: CivilDay }
  | { readonly rule: "span"; readonly from: CivilDay; readonly to: CivilDay }
  | { readonly rule: "yearly"; readonly monthDay: number }
  | { readonly rule: "yearlySpan"; readonly from: number; readonly to: number }
  | { readonly rule: "easter"; readonly offset: number }
  | { readonly rule: "nth"; readonly month: number; readonly weekday: Weekday; readonly n: number };

export interface CalendarEntry {
  readonly name: string;
  readonly dayType: string;
  readonly priority: number;
  readonly when: DayRule;
}

/** What a calendar makes of a date: the entry that wins, and those that it beats in order of their strength. */
export interface DayReading {
  readonly winner: CalendarEntry;
  readonly beaten: readonly CalendarEntry[];
}

export interface HolidayCalendar {
  readonly entries: readonly CalendarEntry[];
  /** Timeframe of a date; undefined where no entry covers it: an ordinary date. Remembered per date. */
  readonly read: (date: CivilDay) => DayReading | undefined;
}

const sunday = 6;

/** Whether a rule covers a date; a calendar asks many rules about one, so that its year, month and day may be handed in. */
export function covers(when: DayRule, date: CivilDay, { year, month, day } = yearMonthDay(date)): boolean {
  switch (when.rule) {
    case "on":
      return date === when.date;
    case "span":
      return when.from <= date && date <= when.to;
    case "yearly":
      return month * 100 + day === when.monthDay;
    case "yearlySpan": {
      const monthDay = month * 100 + day;
      return when.from <= when.to
        ? when.from <= monthDay && monthDay <= when.to
        : monthDay >= when.from || monthDay <= when.to;
    }
    case "easter": {
      const easter = (date - when.offset) as CivilDay;
      // Six of seven dates need no computus.
      return weekdayNumber(easter) === sunday && easterSunday(yearMonthDay(easter).year) === easter;
    }
    case "nth": {
      if (month !== when.month || weekdays[weekdayNumber(date)] !== when.weekday) return false;
      return when.n === -1 ? day + 7 > daysInMonth(year, month) : Math.ceil(day / 7) === when.n;
    }
    default:
      return unreachable(when);
  }
}

/** A calendar that answers for a date with the entry of the highest priority, on a tie the first in the list. */
export function holidayCalendar(entries: readonly CalendarEntry[]): HolidayCalendar {
  const readings = new Map<CivilDay, DayReading | null>();
  const strongestFirst = entries
    .map((entry, position) => ({ entry, position }))
    .sort((a, b) => b.entry.priority - a.entry.priority || a.position - b.position)
    .map(({ entry }) => entry);
  const work = (date: CivilDay): DayReading | undefined => {
    const parts = yearMonthDay(date);
    let winner: CalendarEntry | undefined;
    const beaten: CalendarEntry[] = [];
    for (const entry of strongestFirst) {
      if (!covers(entry.when, date, parts)) continue;
      if (winner) beaten.push(entry);
      else winner = entry;
    }
    return winner && { winner, beaten };
  };
  return {
    entries,
    read: (date) => {
      // Most dates are ordinary, and are remembered as null.
      const known = readings.get(date);
      if (known !== undefined) return known ?? undefined;
      const reading = work(date);
      readings.set(date, reading ?? null);
      return reading;
    },
  };
}
