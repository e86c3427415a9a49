import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { AccessTable } from "../table/access-table";
import { scheduleOf } from "../facility/time-rules";
import { remembered } from "../kernel/remembered";
import { calendarAt } from "../paths/paths";
import { addDays, minutesADay, weekdayNumber } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { append, nothing, subtract, union } from "../time/intervals";
import { openDuring, openOnDate, weeklySchedule } from "../time/schedule";
import type { ClockInterval, Schedule } from "../time/schedule";
import { localTime, zoneOf } from "../time/zone";
import { own } from "./settings";
import type { RuleSettings } from "./settings";

/** Business hours of an ordinary week where none are set: Mon–Fri 07–19, as minutes from Monday 00:00. */
export const usualBusinessWeek: IntervalSet = [0, 1, 2, 3, 4].flatMap((day) => [day * minutesADay + 7 * 60, day * minutesADay + 19 * 60]);

const day: readonly ClockInterval[] = [[7 * 60, 19 * 60]];

/** The same as a schedule; a public holiday counts as out of hours, other day types do not. */
export const usualBusinessHours = weeklySchedule({
  week: [day, day, day, day, day, [], []],
  holidays: new Map([["public", []]]),
  onHoliday: "weekday",
  from: undefined,
  until: undefined,
});

/** The business hours of each site: those that settings give it, else the usual ones. */
export const businessHoursOf = (settings: RuleSettings): ((site: string) => Schedule) =>
  remembered((site: string) => {
    const business = own(settings.sites, site)?.business;
    return business === undefined ? usualBusinessHours : scheduleOf({ ...business, id: "", name: "" });
  });

/** Ordinary weeks of a register held against the business hours of its sites, each as it stands at the week in which a minute lies there. */
export class BusinessWeeks {
  /** When business of a site is open in an ordinary week: minutes 0..10080 from its Monday, without day types. */
  readonly ofSite: (site: string) => IntervalSet;

  constructor(
    private readonly compiled: CompiledFacility,
    businessOf: (site: string) => Schedule,
    at: EpochMinute,
  ) {
    this.ofSite = remembered((id: string): IntervalSet => {
      const site = compiled.facility.sites[compiled.indexes.of("sites").get(id) ?? -1];
      const { date } = localTime(zoneOf(site?.timeZone ?? compiled.facility.timeZone), at);
      const monday = addDays(date, -weekdayNumber(date));
      const open: number[] = [];
      for (let weekday = 0; weekday < 7; weekday++) {
        const set = openOnDate(businessOf(id), undefined, addDays(monday, weekday));
        for (let i = 0; i < set.length; i += 2) append(open, weekday * minutesADay + (set[i] as number), weekday * minutesADay + (set[i + 1] as number));
      }
      return open;
    });
  }

  /** What of the week of a door lies outside the business hours of its site. */
  outsideAt(door: Position, week: IntervalSet): IntervalSet {
    return subtract(week, this.ofSite(required(this.compiled.doors[door], "positions are valid").door.site));
  }

  /** What of a week of some doors lies outside the business hours of any of their sites. */
  outside(doors: Iterable<Position>, week: IntervalSet): IntervalSet {
    const sites = new Set<string>();
    for (const door of doors) sites.add(required(this.compiled.doors[door], "positions are valid").door.site);
    return [...sites].reduce((outside, site) => union(outside, subtract(week, this.ofSite(site))), nothing);
  }
}

/** Timelines of business hours on the clock of each door's site, in a table's timelines. */
export function businessLines({ timelines, timeframe }: AccessTable, compiled: CompiledFacility): (door: Position) => number {
  const known = new Map<string, number>();
  const from = (timeframe.span[0] ?? 0) as EpochMinute;
  const to = (timeframe.span[1] ?? 0) as EpochMinute;
  return (door) => {
    const { zone, calendar } = required(compiled.doors[door], "positions are valid");
    const key = `${zone.name} ${calendar ?? ""}`;
    let line = known.get(key);
    if (line === undefined) {
      line = timelines.number(openDuring(usualBusinessHours, calendarAt(compiled, calendar), zone, from, to));
      known.set(key, line);
    }
    return line;
  };
}
