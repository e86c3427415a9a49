import type { Position } from "../compile/position-index";
import { remembered } from "../kernel/remembered";
import type { RowNumber } from "../table/access-rows";
import type { AccessTable } from "../table/access-table";
import type { TimelineNumber } from "../table/timelines";
import { never } from "../table/timelines";
import type { IntervalSet } from "../time/intervals";
import { subtract } from "../time/intervals";

const minutesAnHour = 60;
/** Hours of a week, from Monday 00:00. */
export const hoursAWeek = 168;

/** When the doors of a row that are asked about open in an ordinary week, taken together, and when outside the business hours of their sites. */
export interface ReachOfRow {
  readonly open: IntervalSet;
  readonly outside: IntervalSet;
}

/**
 * What rows of the table of an ordinary week open of some doors, all taken together. Cost: the entries of each distinct row once; equal timelines are put
 * together once.
 */
export function weeklyReach(
  { rows, timelines, compiled }: AccessTable,
  doors: readonly Position[] | undefined,
  businessWeekOf: (site: string) => IntervalSet,
): (row: RowNumber) => ReachOfRow {
  const sites = compiled.facility.sites.map(({ id }) => id);
  const places = new Map(sites.map((site, place) => [site, place]));
  // Index d: the place of the site of door d among the sites, -1 where the door is not asked about.
  const siteOfDoor = new Int32Array(compiled.doors.length).fill(doors ? -1 : 0);
  for (const door of doors ?? compiled.doors.map(({ position }) => position)) siteOfDoor[door] = places.get(compiled.doors[door]?.door.site ?? "") ?? 0;
  const outsideOf = sites.map((site) => remembered((timeline: TimelineNumber) => timelines.number(subtract(timelines.set(timeline), businessWeekOf(site)))));
  return remembered((row: RowNumber): ReachOfRow => {
    const bySite = new Int32Array(sites.length);
    for (let i = rows.start(row), end = rows.end(row); i < end; i++) {
      const site = siteOfDoor[rows.doors[i] as Position] as number;
      if (site >= 0) bySite[site] = timelines.union(bySite[site] as TimelineNumber, rows.times[i] as TimelineNumber);
    }
    let [all, outside] = [never, never];
    bySite.forEach((timeline, site) => {
      if (timeline === never) return;
      all = timelines.union(all, timeline);
      outside = timelines.union(outside, outsideOf[site]?.(timeline) ?? never);
    });
    return { open: timelines.set(all), outside: timelines.set(outside) };
  });
}

/** For each hour of a week how many open something at any minute of it: sets of minutes of the week, each with how many have it. */
export function countsByHour(sets: Iterable<readonly [set: IntervalSet, count: number]>): readonly number[] {
  const counts = new Array<number>(hoursAWeek).fill(0);
  for (const [set, count] of sets) {
    let next = 0;
    for (let i = 0; i < set.length; i += 2) {
      const last = Math.min(hoursAWeek - 1, Math.floor(((set[i + 1] as number) - 1) / minutesAnHour));
      for (let hour = Math.max(next, Math.floor((set[i] as number) / minutesAnHour)); hour <= last; hour++) counts[hour] = (counts[hour] as number) + count;
      next = last + 1;
    }
  }
  return counts;
}
