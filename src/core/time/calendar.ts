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
  /** Reading of a date; undefined where no entry covers it: an ordinary date. Remembered per date. */
  readonly read: (date: CivilDay) => DayReading | undefined;
}

/** Whether a rule covers a date. */
export function covers(when: DayRule, date: CivilDay): boolean {
  switch (when.rule) {
    case "on":
      return date === when.date;
    case "span":
      return when.from <= date && date <= when.to;
    case "yearly": {
      const { month, day } = yearMonthDay(date);
      return month * 100 + day === when.monthDay;
    }
    case "yearlySpan": {
      const { month, day } = yearMonthDay(date);
      const monthDay = month * 100 + day;
      return when.from <= when.to
        ? when.from <= monthDay && monthDay <= when.to
        : monthDay >= when.from || monthDay <= when.to;
    }
    case "easter": {
      const sunday = (date - when.offset) as CivilDay;
      return easterSunday(yearMonthDay(sunday).year) === sunday;
    }
    case "nth": {
      const { year, month, day } = yearMonthDay(date);
      if (month !== when.month || weekdays[weekdayNumber(date)] !== when.weekday) return false;
      return when.n === -1 ? day + 7 > daysInMonth(year, month) : Math.ceil(day / 7) === when.n;
    }
    default:
      return unreachable(when);
  }
}

/** A calendar that answers for a date with the entry of the highest priority, on a tie the first in the list. */
export function holidayCalendar(entries: readonly CalendarEntry[]): HolidayCalendar {
  const readings = new Map<CivilDay, DayReading | undefined>();
  const strongestFirst = entries
    .map((entry, position) => ({ entry, position }))
    .sort((a, b) => b.entry.priority - a.entry.priority || a.position - b.position)
    .map(({ entry }) => entry);
  const work = (date: CivilDay): DayReading | undefined => {
    const [winner, ...beaten] = strongestFirst.filter((entry) => covers(entry.when, date));
    return winner && { winner, beaten };
  };
  return {
    entries,
    read: (date) => {
      if (readings.has(date)) return readings.get(date);
      const reading = work(date);
      readings.set(date, reading);
      return reading;
    },
  };
}
