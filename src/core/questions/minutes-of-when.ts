import { unreachable } from "../kernel/invariant";
import type { HolidayCalendar } from "../time/calendar";
import { addDays, minutesADay, weekdayNumber, weekdays } from "../time/civil-day";
import type { CivilDay, Weekday } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { clip, fromRanges, range, subtract } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";
import { openDuring } from "../time/schedule";
import type { Schedule } from "../time/schedule";
import { localTime } from "../time/zone";
import type { Zone } from "../time/zone";
import type { DayFilter, LocalTime, SiteWhen } from "./when";

/** What of a site decides which minutes words mean there. */
export interface SiteClock {
  readonly zone: Zone;
  readonly calendar: HolidayCalendar | undefined;
  readonly weekend: readonly Weekday[];
  readonly business: Schedule;
}

type LocalRange = readonly [from: number, to: number];

const localMinute = ({ date, minuteOfDay }: LocalTime): number => date * minutesADay + minuteOfDay;

/**
 * The minutes at which a wall clock shows a time within one of some ranges (in minutes of local time since 1970-01-01, sorted): what the clock
 * skips never comes, what it shows twice comes twice.
 */
function minutesAt(zone: Zone, ranges: readonly LocalRange[]): IntervalSet {
  const found: LocalRange[] = [];
  const [first, last] = [ranges[0]?.[0], ranges[ranges.length - 1]?.[1]];
  if (first === undefined || last === undefined) return [];
  // A clock is never further from UTC than a day.
  const segments = zone.segments((first - minutesADay) as EpochMinute, (last + minutesADay) as EpochMinute);
  for (const { from, to, offset } of segments)
    for (const [start, end] of ranges) {
      if (start - offset >= to) break;
      const both: LocalRange = [Math.max(from, start - offset), Math.min(to, end - offset)];
      if (both[0] < both[1]) found.push(both);
    }
  return fromRanges(found);
}

function isMeant(filter: DayFilter, { calendar, weekend }: SiteClock, date: CivilDay): boolean {
  const weekday = weekdays[weekdayNumber(date)] as Weekday;
  switch (filter.kind) {
    case "every-day":
      return true;
    case "weekdays":
      return filter.weekdays.includes(weekday);
    case "weekend":
      return weekend.includes(weekday);
    case "day-type":
      return calendar?.read(date)?.winner.dayType === filter.dayType;
    case "holiday":
      return calendar?.read(date)?.winner.name === filter.name;
    default:
      return unreachable(filter);
  }
}

function recurring({ days, hours, within }: Extract<SiteWhen, { kind: "recurring" }>, site: SiteClock): IntervalSet {
  // Of instants, the night that began on the date before may still go on.
  const [first, last] =
    within.kind === "dates"
      ? [within.from, within.to]
      : [addDays(localTime(site.zone, within.from).date, -1), localTime(site.zone, (within.to - 1) as EpochMinute).date];
  const ranges: LocalRange[] = [];
  for (let date = first; date <= last; date = addDays(date, 1)) {
    if (!isMeant(days, site, date)) continue;
    const midnight = date * minutesADay;
    if (hours.kind === "clock") ranges.push([midnight + hours.minuteOfDay, midnight + hours.minuteOfDay + 1]);
    else if (hours.kind === "between") ranges.push([midnight + hours.start, midnight + hours.end + (hours.end <= hours.start ? minutesADay : 0)]);
    else ranges.push([midnight, midnight + minutesADay]);
  }
  const meant = minutesAt(site.zone, ranges);
  const inTime = within.kind === "dates" ? meant : clip(meant, within.from, within.to);
  if ((hours.kind !== "business" && hours.kind !== "out-of-hours") || inTime.length === 0) return inTime;
  const [from, to] = [inTime[0] as EpochMinute, inTime[inTime.length - 1] as EpochMinute];
  const business = openDuring(site.business, site.calendar, site.zone, from, to);
  return hours.kind === "business" ? subtract(inTime, subtract(range(from, to), business)) : subtract(inTime, business);
}

/** The minutes that are meant at a site, sorted; undefined where all are. `now` is the minute at which it is asked. */
export function minutesOfWhen(when: SiteWhen, site: SiteClock, now: EpochMinute): IntervalSet | undefined {
  switch (when.kind) {
    case "any":
      return undefined;
    case "now":
      return range(now, now + 1);
    case "moment":
      return minutesAt(site.zone, [[localMinute(when.at), localMinute(when.at) + 1]]);
    case "dates":
      return minutesAt(site.zone, [[when.from * minutesADay, (when.to + 1) * minutesADay]]);
    case "span":
      return minutesAt(site.zone, [[localMinute(when.from), localMinute(when.to)]]);
    case "recurring":
      return recurring(when, site);
    default:
      return unreachable(when);
  }
}
