import { localDays } from "../describe/local-days";
import type { HolidayCalendar } from "../time/calendar";
import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { subtract, totalMinutes } from "../time/intervals";
import type { Zone } from "../time/zone";
import { localTime } from "../time/zone";

/** One local date: minutes of its wall clock, 0..1440, at which something opens, and those of them outside business hours. */
export interface AccessDay {
  readonly date: CivilDay;
  readonly open: IntervalSet;
  readonly outside: IntervalSet;
}

/** A date on which the calendar has its say, with the entry that wins. */
export interface NamedDate {
  readonly date: CivilDay;
  readonly name: string;
  readonly dayType: string;
}

/** A date on which the clock is changed: by so many minutes, forward where more than 0. */
export interface ClockChange {
  readonly date: CivilDay;
  readonly minutes: number;
}

/** When something opens over a span of dates, date by date. */
export interface YearOfAccess {
  readonly zone: string;
  readonly days: readonly AccessDay[];
  readonly named: readonly NamedDate[];
  readonly clockChanges: readonly ClockChange[];
  /** The first minute at which it opens, and the end of the last one; undefined where it never does. */
  readonly first: EpochMinute | undefined;
  readonly end: EpochMinute | undefined;
  readonly minutes: number;
  readonly outsideMinutes: number;
}

/** By what the dates of a span are read. */
export interface YearClock {
  readonly zone: Zone;
  /** The calendar that counts for whoever opens; none where there is none. */
  readonly calendar: HolidayCalendar | undefined;
  /** When business is open in the span. */
  readonly business: IntervalSet;
}

/**
 * What opens in `[from, to)` (minutes of UTC) on the local dates of a clock. A minute that the clock skips is on no date; one that comes twice is open
 * if either is, while it counts twice among the minutes.
 */
export function yearOfAccess(open: IntervalSet, { zone, calendar, business }: YearClock, from: EpochMinute, to: EpochMinute): YearOfAccess {
  const beyond = subtract(open, business);
  const outside = localDays(beyond, zone, from, to);
  const days = localDays(open, zone, from, to).map(({ date, open: minutes }, i) => ({ date, open: minutes, outside: outside[i]?.open ?? [] }));
  const segments = zone.segments(from, to);
  return {
    zone: zone.name,
    days,
    named: days.flatMap(({ date }) => {
      const winner = calendar?.read(date)?.winner;
      return winner ? [{ date, name: winner.name, dayType: winner.dayType }] : [];
    }),
    clockChanges: segments.slice(1).flatMap((segment, i) => {
      const minutes = segment.offset - (segments[i]?.offset ?? segment.offset);
      return minutes === 0 ? [] : [{ date: localTime(zone, segment.from as EpochMinute).date, minutes }];
    }),
    first: open[0] as EpochMinute | undefined,
    end: open[open.length - 1] as EpochMinute | undefined,
    minutes: totalMinutes(open),
    outsideMinutes: totalMinutes(beyond),
  };
}
