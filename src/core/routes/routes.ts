import type { Position } from "../compile/position-index";
import { required } from "../kernel/invariant";
import { remembered } from "../kernel/remembered";
import { freeIn } from "../paths/timetable";
import type { RowNumber } from "../table/access-rows";
import type { AccessTable } from "../table/access-table";
import { never } from "../table/timelines";
import type { TimelineNumber } from "../table/timelines";
import type { IntervalSet } from "../time/intervals";
import { clip, nothing, subtract, union } from "../time/intervals";
import type { Arcs, Passage, Place } from "./places";
import { arcsOf, backwards, leadingTo, outside, passagesOf } from "./places";
import { DoorsTaken, Walker } from "./reach-on-foot";
import type { ShutWay, Ways } from "./ways";
import { leastShutWay, waysThrough } from "./ways";

/** What is asked about routes, beside whose they are. */
export interface AskedRoutes {
  /** The doors that are to be gone through at last; undefined where no end is asked about. */
  readonly through: readonly Position[] | undefined;
  /**
   * The minutes that are asked on the clock of a door's site, one and the same set for all doors of a site; undefined for all. Where an end is asked about,
   * the clocks of its doors count on the whole way: it is walked within one minute, whatever the clocks show that it comes past.
   */
  readonly meantAt: (door: Position) => IntervalSet | undefined;
  /** A door that nobody can take. */
  readonly outOfUse?: Position | undefined;
}

/** When somebody gets through one of the asked doors, by how many doors at least (the asked one counted), and which of them can be the first asked one. */
export interface Arrival {
  readonly times: TimelineNumber;
  readonly steps: number;
  readonly last: readonly Position[];
}

/** Somebody who got in and is shut in a minute later. */
export interface ShutIn {
  readonly place: Place;
  /** The minutes at which they can get there and, the minute after, no way leads outside. */
  readonly at: IntervalSet;
}

/** The minutes that are asked at doors on the way. */
function meantOnTheWay({ through, meantAt }: AskedRoutes): AskedRoutes["meantAt"] {
  if (!through) return meantAt;
  let all: IntervalSet | undefined = nothing;
  for (const minutes of new Set(through.map(meantAt))) all = all && minutes && union(all, minutes);
  return () => all;
}

/** The doors on ways that lead outside; with `ends` only those on ways from there. */
function outwardPassages(passages: readonly Passage[], places: number, recorded: ReadonlySet<Place>, ends: readonly Place[] | undefined): readonly Passage[] {
  const leadingOut = passages.filter(({ from, to }) => recorded.has(from) && recorded.has(to));
  if (!ends) return leadingOut;
  const onward = leadingOut.map(backwards);
  const passed = new Set(ends.flatMap((end) => [...leadingTo(onward, places, end)]));
  return leadingOut.filter(({ from }) => passed.has(from));
}

/**
 * Routes on foot from outside through the doors that holders of rows open, or that stand free, over the minutes of a table. A way can be gone at a minute at
 * which each of its doors can be taken; what is told of rows is true of everybody who has them.
 */
export class Routes {
  private readonly allPassages: readonly Passage[];
  /** The doors that are walked through: where an end is asked about, those that lead to it. */
  readonly passages: readonly Passage[];
  /** How many places there are: outside and the areas. */
  readonly places: number;
  private readonly arcs: Arcs;
  /** Index d: when door d stands free at the asked minutes. */
  private readonly free: Int32Array;
  private readonly taken: DoorsTaken;
  private readonly span: TimelineNumber;
  /** Cuts when a door can be taken to the minutes that are asked: on the way, and as the door at the end of it. */
  private readonly onTheWay: (door: Position, timeline: TimelineNumber) => TimelineNumber;
  private readonly atTheEnd: (door: Position, timeline: TimelineNumber) => TimelineNumber;
  private readonly walker: Walker;
  private readonly through: readonly Position[];
  private readonly leading: ReadonlySet<Place>;
  /** Working place of `arrival`. Index d: when door d can be taken by whoever has not arrived yet. */
  private readonly goneOn: Int32Array;
  private readonly outwards: Walker;
  /** The places from which recorded doors lead outside. */
  private readonly recorded: ReadonlySet<Place>;

  constructor(
    private readonly table: AccessTable,
    readonly asked: AskedRoutes,
  ) {
    const { compiled, timelines, rows, timeframe } = table;
    this.places = compiled.facility.areas.length + 1;
    const all = passagesOf(compiled);
    this.allPassages = all;
    this.passages = all;
    this.span = timelines.number(timeframe.span);
    const numberOf = remembered((minutes: IntervalSet) => timelines.number(minutes));
    const cutTo =
      (meantAt: AskedRoutes["meantAt"]) =>
      (door: Position, timeline: TimelineNumber): TimelineNumber => {
        const minutes = meantAt(door);
        return minutes ? timelines.intersect(timeline, numberOf(minutes)) : timeline;
      };
    this.onTheWay = cutTo(meantOnTheWay(asked));
    this.atTheEnd = cutTo(asked.meantAt);
    this.through = asked.through ?? [];
    this.leading = new Set(this.through.flatMap((door) => [...leadingTo(all, this.places, this.passage(door).from)]));
    const ends = new Set(this.through);
    if (asked.through)
      this.passages = all.filter(({ door, from, to }) => this.leading.has(from) && ((to !== outside && this.leading.has(to)) || ends.has(door)));
    this.recorded = leadingTo(all, this.places, outside);
    const outwards = outwardPassages(all, this.places, this.recorded, asked.through && this.endPlaces());
    const isConcerned = new Set([...this.passages, ...outwards].map(({ door }) => door));
    this.free = Int32Array.from(compiled.doors, (door) =>
      isConcerned.has(door.position) ? this.onTheWay(door.position, timelines.number(freeIn(timeframe, door))) : never,
    );
    this.taken = new DoorsTaken(rows, timelines, this.free, isConcerned, this.onTheWay, asked.outOfUse);
    this.goneOn = new Int32Array(this.free.length);
    this.arcs = arcsOf(this.passages, this.places);
    this.walker = new Walker(this.arcs, this.places, timelines);
    this.outwards = new Walker(arcsOf(outwards.map(backwards), this.places), this.places, timelines);
  }

  private passage(door: Position): Passage {
    return required(this.allPassages[door], "positions of doors are valid");
  }

  /** Whether all doors together lead from outside through one of the asked ones. */
  get isLedTo(): boolean {
    return this.leading.has(outside);
  }

  /** Whether a recorded way leads outside from any area, or, where an end is asked about, from there. */
  get hasWaysOut(): boolean {
    return this.asked.through ? this.endPlaces().some((place) => place !== outside && this.recorded.has(place)) : this.recorded.size > 1;
  }

  /** The places into which the asked doors lead. */
  endPlaces(): readonly Place[] {
    return [...new Set(this.through.map((door) => this.passage(door).to))];
  }

  /** The places from which an asked door can be got to if every door is open, the nearest to one first. */
  placesLeadingTo(): readonly Place[] {
    return [...this.leading];
  }

  /** The doors walked through that whoever has a row can take at some asked minute, out of some. */
  taking(row: RowNumber, doors: Iterable<Position>): readonly Position[] {
    const taken = this.taken.of(row);
    return [...doors].filter((door) => taken[door] !== never);
  }

  /** When whoever has a row gets to each place, and by how many doors at least; where an end is asked about, on the way to it. Good until the next is asked. */
  reached(row: RowNumber): { readonly times: Int32Array; readonly steps: Int32Array } {
    return this.walker.reached(this.taken.of(row), this.span);
  }

  /** When whoever has a row gets through one of the asked doors; undefined where they never do. */
  arrival(row: RowNumber): Arrival | undefined {
    const { timelines } = this.table;
    const taken = this.taken.of(row);
    // Most can take none of the asked doors: nobody has to go there for that to be known.
    if (this.through.every((door) => this.atTheEnd(door, taken[door] as TimelineNumber) === never)) return undefined;
    // Whoever has come through an asked door has arrived, and need not go on.
    const { goneOn } = this;
    goneOn.set(taken);
    for (const door of this.through) goneOn[door] = timelines.subtract(taken[door] as TimelineNumber, this.atTheEnd(door, taken[door] as TimelineNumber));
    const { times, rounds } = this.walker.reachedByRounds(goneOn, this.span);
    let all = never;
    let steps = Infinity;
    const last: Position[] = [];
    for (const door of this.through) {
      const open = this.atTheEnd(door, taken[door] as TimelineNumber);
      const { from } = this.passage(door);
      const arriving = timelines.intersect(times[from] as TimelineNumber, open);
      if (arriving === never) continue;
      last.push(door);
      all = timelines.union(all, arriving);
      steps = Math.min(steps, 1 + (rounds.get(from) ?? []).findIndex((there) => timelines.intersect(there, open) !== never));
    }
    return all === never ? undefined : { times: all, steps, last };
  }

  /** The ways that lead whoever has a row through one of the asked doors, the shortest first, at most so many. */
  ways(row: RowNumber, most: number): Ways {
    const taken = this.taken.of(row);
    const { arcs, leading, span } = this;
    const ends = new Set(this.through);
    const endsAt = (door: Position, times: TimelineNumber): TimelineNumber => (ends.has(door) ? this.atTheEnd(door, times) : never);
    return waysThrough({ arcs, timelines: this.table.timelines, taken, span, endsAt, leading }, most);
  }

  /** The way through an asked door on which the fewest doors never open for whoever has a row; undefined where no door leads there. */
  leastShut(row: RowNumber): ShutWay | undefined {
    const taken = this.taken.of(row);
    const isTaken = (door: Position): boolean => taken[door] !== never;
    const endsOpen = (door: Position): boolean => this.atTheEnd(door, taken[door] as TimelineNumber) !== never;
    return leastShutWay(this.arcs, isTaken, new Set(this.through), endsOpen);
  }

  /** Doors that a row opens at the asked minutes and whose holder never gets to them; not those to which no door leads. Only without an end. */
  stranded(row: RowNumber): readonly Position[] {
    const { rows } = this.table;
    const { times } = this.reached(row);
    const ever = this.everReached();
    const found: Position[] = [];
    for (let i = rows.start(row); i < rows.end(row); i++) {
      const door = rows.doors[i] as Position;
      const { from } = this.passage(door);
      if (ever.has(from) && times[from] === never && this.onTheWay(door, rows.times[i] as TimelineNumber) !== never) found.push(door);
    }
    return found;
  }

  private known: ReadonlySet<Place> | undefined;

  /** The places to which all doors together lead. */
  everReached(): ReadonlySet<Place> {
    return (this.known ??= leadingTo(this.allPassages.map(backwards), this.places, outside));
  }

  /**
   * Where whoever has a row can get in (through an asked door, where an end is asked about) and, a minute later, finds no way that leads outside; to be asked
   * of all minutes. Of places from which no recorded door
   * leads outside nothing is said: one leaves these by a handle. Nor is it of the last minute at which the row opens anything: that somebody's card ends while
   * they are inside is told by its end.
   */
  shutIn(row: RowNumber): readonly ShutIn[] {
    const { timelines, timeframe, rows } = this.table;
    const inwards = this.reached(row).times;
    const places = [...(this.asked.through ? this.endPlaces() : this.recorded)].filter(
      (place) => place !== outside && this.recorded.has(place) && inwards[place] !== never,
    );
    if (places.length === 0) return [];
    const out = this.outwards.reached(this.taken.of(row), this.span).times;
    let end = 0;
    for (let i = rows.start(row); i < rows.end(row); i++) end = Math.max(end, timelines.set(rows.times[i] as TimelineNumber).at(-1) ?? 0);
    const found: ShutIn[] = [];
    for (const place of places) {
      const there = inwards[place] as TimelineNumber;
      const leaves = timelines.set(out[place] as TimelineNumber);
      // What opens the minute after, told of the minute before.
      const leavesNext = leaves.map((bound) => bound - 1);
      const at = subtract(clip(timelines.set(there), timeframe.span[0] ?? 0, end - 1), leavesNext);
      if (at.length > 0) found.push({ place, at });
    }
    return found.sort((a, b) => a.place - b.place);
  }
}
