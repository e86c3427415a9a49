import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { AccessTable } from "../table/access-table";
import { calendarAt } from "../paths/paths";
import { minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { subtract } from "../time/intervals";
import { openDuring, weeklySchedule } from "../time/schedule";
import type { ClockInterval } from "../time/schedule";

/** Business hours of an ordinary week where none are set: Mon–Fri 07–19, as minutes from Monday 00:00. */
export const businessWeek: IntervalSet = [0, 1, 2, 3, 4].flatMap((day) => [day * minutesADay + 7 * 60, day * minutesADay + 19 * 60]);

/** What of a week (minutes 0..10080 from Monday) lies outside business hours. */
export const outOfHours = (week: IntervalSet): IntervalSet => subtract(week, businessWeek);

const day: readonly ClockInterval[] = [[7 * 60, 19 * 60]];

/** The same as a schedule; a public holiday counts as out of hours, other day types do not. */
export const businessHours = weeklySchedule({
  week: [day, day, day, day, day, [], []],
  holidays: new Map([["public", []]]),
  onHoliday: "weekday",
  from: undefined,
  until: undefined,
});

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
      line = timelines.number(openDuring(businessHours, calendarAt(compiled, calendar), zone, from, to));
      known.set(key, line);
    }
    return line;
  };
}
