import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { askedDoors, isPlaceThere } from "../questions/asked-doors";
import { areThere, askedPeople } from "../questions/asked-people";
import type { HolderNumber } from "../questions/asked-people";
import { minutesOfWhen } from "../questions/minutes-of-when";
import { Openings } from "../questions/openings";
import type { Where, Who } from "../questions/question";
import type { SiteWhen, When } from "../questions/when";
import { whenAtSite } from "../questions/when";
import type { Weekday } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { clip, intersect, nothing, range, union } from "../time/intervals";
import { timelineAt } from "../table/access-rows";
import type { RowNumber } from "../table/access-rows";
import type { AccessTable } from "../table/access-table";
import { never } from "../table/timelines";
import type { TimelineNumber } from "../table/timelines";
import { remembered } from "../kernel/remembered";
import type { HouseQuestion, HouseRule } from "./house-rule";
import type { Judged } from "./judged";

/** The question of a house rule in a register that holds all that it speaks of; undefined where it does not. */
export function questionIn(compiled: CompiledFacility, { asks, demand }: HouseRule): HouseQuestion | undefined {
  if (!asks || (asks.who && !areThere(compiled, asks.who)) || !isPlaceThere(compiled, asks.where)) return undefined;
  return demand.must === "not-both" && !isPlaceThere(compiled, demand.other) ? undefined : asks;
}

/** A door that somebody opens and should not, and the first minute at which they do. */
export interface Counterexample {
  readonly door: Position;
  readonly at: EpochMinute;
}

const usualWeekend: readonly Weekday[] = ["sat", "sun"];

/** What recurs without dates of its own was written down for good: it holds from the export on, whenever it was written. */
const alwaysFrom = (when: SiteWhen, from: EpochMinute, to: EpochMinute): SiteWhen =>
  when.kind === "recurring" && when.within.kind === "instants" ? { ...when, within: { kind: "instants", from, to } } : when;

/** Who opens the doors of a place at the minutes that a house rule speaks of. */
export class PlaceAtTime {
  readonly doors: readonly Position[];
  private readonly openings: Openings;
  private readonly meant: (door: Position) => IntervalSet;

  constructor(
    private readonly judged: Judged,
    where: Where,
    when: When,
  ) {
    const { compiled, ahead, asOf, end } = judged;
    const ofSite = remembered((site: string): IntervalSet => {
      const at = whenAtSite(when, site);
      const clock = {
        zone: judged.zoneOfSite(site),
        calendar: judged.calendarOfSite(site),
        weekend: usualWeekend,
        business: judged.businessOf(site),
      };
      const minutes = at ? minutesOfWhen(alwaysFrom(at, asOf, end), clock, asOf) : nothing;
      return minutes ? clip(minutes, asOf, end) : range(asOf, end);
    });
    this.meant = (door) => ofSite(compiled.doors[door]?.door.site ?? "");
    this.doors = askedDoors(compiled, where) ?? compiled.doors.map(({ position }) => position);
    this.openings = new Openings(ahead, this.doors, this.meant);
  }

  rowOf = (holder: HolderNumber): RowNumber => this.openings.rowOf(holder);

  /** The doors that a row opens then. */
  doorsOf = (row: RowNumber): readonly Position[] => this.openings.doorsOf(row);

  /** The first door that a row opens then: by minute, then by the order of doors. */
  readonly first = remembered((row: RowNumber): Counterexample | undefined => {
    let found: Counterexample | undefined;
    for (const door of this.doorsOf(row)) {
      const at = this.firstAt(this.meant(door))(this.timelineAt(row, door));
      if (at !== undefined && (!found || at < found.at)) found = { door, at };
    }
    return found;
  });

  private readonly firstAt = remembered((meant: IntervalSet) =>
    remembered((timeline: TimelineNumber) => intersect(this.judged.ahead.timelines.set(timeline), meant)[0] as EpochMinute | undefined),
  );

  private timelineAt(row: RowNumber, door: Position): TimelineNumber {
    return timelineAt(this.judged.ahead.rows, row, door);
  }

  private readonly meantNumber = remembered((meant: IntervalSet) => this.judged.ahead.timelines.number(meant));

  /** The minutes then at which a row opens any of the doors. */
  times(row: RowNumber): TimelineNumber {
    const { timelines } = this.judged.ahead;
    let all = never;
    for (const door of this.doorsOf(row)) all = timelines.union(all, timelines.intersect(this.timelineAt(row, door), this.meantNumber(this.meant(door))));
    return all;
  }

  /** All minutes that are meant at any of the doors. */
  get minutes(): IntervalSet {
    return [...new Set(this.doors.map(this.meant))].reduce(union, nothing);
  }
}

/**
 * The minute at which the fewest of some holders open the doors, and how many do; the first on a tie. Undefined where so many do at every minute that is
 * meant. Cost: each distinct set of minutes once, until enough of them cover all.
 */
export function fewestAt(
  { timelines }: AccessTable,
  place: PlaceAtTime,
  holders: readonly HolderNumber[],
  fewerThan: number,
): { readonly at: EpochMinute; readonly found: number } | undefined {
  const minutes = timelines.number(place.minutes);
  if (minutes === never || fewerThan === 0) return undefined;
  const rows = new Map<RowNumber, number>();
  for (const holder of holders) rows.set(place.rowOf(holder), (rows.get(place.rowOf(holder)) ?? 0) + 1);
  // Level k: the minutes at which at least k of those looked at so far open.
  const levels: TimelineNumber[] = [minutes, ...Array.from({ length: fewerThan }, () => never)];
  const add = (open: TimelineNumber, count: number): void => {
    for (let level = fewerThan; level > 0; level--)
      levels[level] = timelines.union(levels[level] ?? never, timelines.intersect(levels[Math.max(0, level - count)] ?? never, open));
  };
  const counts = new Map<TimelineNumber, number>();
  for (const [row, count] of rows) {
    const open = place.times(row);
    if (open === never) continue;
    const before = counts.get(open) ?? 0;
    counts.set(open, before + count);
    // More than are asked for of one kind change nothing.
    if (before < fewerThan) add(open, count);
    if (levels[fewerThan] === minutes) return undefined;
  }
  for (let found = 0; found < fewerThan; found++) {
    const [at] = timelines.set(timelines.subtract(levels[found] ?? never, levels[found + 1] ?? never));
    if (at !== undefined) return { at: at as EpochMinute, found };
  }
  return undefined;
}

/** Of whom a house rule speaks, members and holders from the export on. */
export const peopleOfRule = ({ compiled, asOf }: Judged, who: Who | undefined): readonly HolderNumber[] => askedPeople(compiled, who, asOf);
