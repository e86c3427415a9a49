import type { Position } from "../../compile/position-index";
import { required } from "../../kernel/invariant";
import { freeIn } from "../../paths/timetable";
import type { RowNumber } from "../../table/access-rows";
import { timelineAt } from "../../table/access-rows";
import type { AccessTable } from "../../table/access-table";
import { never } from "../../table/timelines";
import type { TimelineNumber } from "../../table/timelines";
import type { CivilDay } from "../../time/civil-day";
import { addDays } from "../../time/civil-day";
import { range } from "../../time/intervals";
import { firstMinuteFrom } from "../../time/zone";

/** A local date at a site. */
export interface SiteDate {
  readonly site: string;
  readonly date: CivilDay;
}

/** What opens on a date at the doors of a site otherwise than it would. */
export interface DateChange extends SiteDate {
  /** Holders who open some door for fewer minutes than they would, and for more; and the doors. */
  readonly holdersLess: number;
  readonly holdersMore: number;
  readonly doorsLess: ReadonlySet<Position>;
  readonly doorsMore: ReadonlySet<Position>;
  /** Doors that stand free for less, and for more, of the date. */
  readonly freeLess: readonly Position[];
  readonly freeMore: readonly Position[];
}

const less = 1;
const more = 2;

/**
 * How dates at sites differ from what they would be: two tables over the same minutes in one world, of the same holders and doors. Cost: the entries of each
 * distinct pair of rows once.
 */
export function compareDates(
  is: AccessTable,
  wouldBe: AccessTable,
  holders: Iterable<readonly [is: RowNumber, wouldBe: RowNumber]>,
  dates: readonly SiteDate[],
): readonly DateChange[] {
  const { compiled, timelines, rows } = is;
  const sites = [...new Set(dates.map(({ site }) => site))];
  // Index d: the place of the site of door d among those with dates, -1 where it has none.
  const siteOfDoor = Int32Array.from(compiled.doors, ({ door }) => sites.indexOf(door.site));
  const zones = new Map(compiled.doors.map(({ door, zone }) => [door.site, zone]));
  const asked = sites.map((site) => {
    const zone = zones.get(site);
    return dates.flatMap((one, at) =>
      one.site === site && zone ? [{ at, window: timelines.number(range(firstMinuteFrom(zone, one.date), firstMinuteFrom(zone, addDays(one.date, 1)))) }] : [],
    );
  });
  const differs = (a: TimelineNumber, b: TimelineNumber, window: TimelineNumber): number => {
    const [here, there] = [timelines.intersect(a, window), timelines.intersect(b, window)];
    if (here === there) return 0;
    return (timelines.subtract(there, here) === never ? 0 : less) | (timelines.subtract(here, there) === never ? 0 : more);
  };
  // A pair of timelines as one number: there are never so many of them.
  const known = sites.map(() => new Map<number, readonly number[]>());
  /** For each date asked of a site, how a door there differs. */
  const differencesOf = (a: TimelineNumber, b: TimelineNumber, site: number): readonly number[] => {
    const key = a * 2 ** 26 + b;
    const before = known[site]?.get(key);
    if (before) return before;
    const found = (asked[site] ?? []).map(({ window }) => differs(a, b, window));
    known[site]?.set(key, found);
    return found;
  };
  const changes = dates.map((one) => ({
    ...one,
    holdersLess: 0,
    holdersMore: 0,
    doorsLess: new Set<Position>(),
    doorsMore: new Set<Position>(),
    freeLess: [] as Position[],
    freeMore: [] as Position[],
  }));
  const note = (door: Position, a: TimelineNumber, b: TimelineNumber, tell: (at: number, how: number) => void): void => {
    if (a === b) return;
    const site = siteOfDoor[door] as number;
    if (site < 0) return;
    const differences = differencesOf(a, b, site);
    for (let i = 0; i < differences.length; i++) if (differences[i] !== 0) tell(asked[site]?.[i]?.at ?? 0, differences[i] ?? 0);
  };
  const bitsOfPair = (row: RowNumber, other: RowNumber): Uint8Array => {
    const bits = new Uint8Array(dates.length);
    const tell = (door: Position) => (at: number, how: number) => {
      bits[at] = (bits[at] as number) | how;
      if ((how & less) !== 0) changes[at]?.doorsLess.add(door);
      if ((how & more) !== 0) changes[at]?.doorsMore.add(door);
    };
    for (let i = rows.start(row); i < rows.end(row); i++) {
      const door = rows.doors[i] as Position;
      note(door, rows.times[i] as TimelineNumber, timelineAt(wouldBe.rows, other, door), tell(door));
    }
    for (let i = wouldBe.rows.start(other); i < wouldBe.rows.end(other); i++) {
      const door = wouldBe.rows.doors[i] as Position;
      if (timelineAt(rows, row, door) === never) note(door, never, wouldBe.rows.times[i] as TimelineNumber, tell(door));
    }
    return bits;
  };
  const pairs = new Map<string, Uint8Array>();
  for (const [row, other] of holders) {
    if (row === other) continue;
    const key = `${row} ${other}`;
    let bits = pairs.get(key);
    if (!bits) pairs.set(key, (bits = bitsOfPair(row, other)));
    bits.forEach((how, at) => {
      const change = changes[at];
      if (!change) return;
      if ((how & less) !== 0) change.holdersLess++;
      if ((how & more) !== 0) change.holdersMore++;
    });
  }
  for (const { position } of compiled.doors) {
    const [at, other] = [required(compiled.doors[position], "positions are valid"), required(wouldBe.compiled.doors[position], "the same doors")];
    note(position, timelines.number(freeIn(is.timeframe, at)), timelines.number(freeIn(wouldBe.timeframe, other)), (date, how) => {
      if ((how & less) !== 0) changes[date]?.freeLess.push(position);
      if ((how & more) !== 0) changes[date]?.freeMore.push(position);
    });
  }
  return changes;
}
