import type { Position } from "../compile/position-index";
import type { AccessRows, RowNumber } from "../table/access-rows";
import { never } from "../table/timelines";
import type { Timelines, TimelineNumber } from "../table/timelines";
import type { Arcs, Place } from "./places";
import { outside } from "./places";

/** When each door can be taken by whoever has a row: they open it, or it stands free. Index d: door d. Good until the next row is asked for. */
export class DoorsTaken {
  private readonly taken: Int32Array;
  private readonly isConcerned: Uint8Array;
  private row: RowNumber = 0;

  /**
   * `free[d]`: when door d stands free at the asked minutes. Only doors concerned are looked at. `asked` cuts a timeline at a door to the minutes that are
   * asked there. A door out of use is taken by nobody.
   */
  constructor(
    private readonly rows: AccessRows,
    private readonly timelines: Timelines,
    private readonly free: Int32Array,
    concerned: ReadonlySet<Position>,
    private readonly asked: (door: Position, timeline: TimelineNumber) => TimelineNumber,
    private readonly outOfUse?: Position,
  ) {
    this.taken = Int32Array.from(free);
    this.isConcerned = new Uint8Array(free.length);
    for (const door of concerned) this.isConcerned[door] = 1;
    if (outOfUse !== undefined) this.taken[outOfUse] = never;
  }

  of(row: RowNumber): Int32Array {
    const { taken, rows, free, timelines, isConcerned } = this;
    // The row before it is what is asked of the most: once more costs nothing.
    if (row === this.row) return taken;
    for (let i = rows.start(this.row); i < rows.end(this.row); i++) taken[rows.doors[i] as Position] = free[rows.doors[i] as Position] as number;
    for (let i = rows.start(row); i < rows.end(row); i++) {
      const door = rows.doors[i] as Position;
      if (isConcerned[door] === 0) continue;
      taken[door] = timelines.union(free[door] as number, this.asked(door, rows.times[i] as TimelineNumber));
    }
    if (this.outOfUse !== undefined) taken[this.outOfUse] = never;
    this.row = row;
    return taken;
  }
}

/** When each place is got to, and by how many doors at least. Index p: place p; `steps` is -1 where it is never got to. Good until it is asked again. */
export interface Reached {
  readonly times: Int32Array;
  readonly steps: Int32Array;
}

/**
 * Goes through doors from one place, all on foot within a minute: a way can be gone at a minute at which each of its doors can be taken. Round k adds the
 * ways of k doors, so that a place is first met with the fewest that ever do. Ends since times only grow, and no way needs a place twice.
 */
export class Walker {
  private readonly times: Int32Array;
  private readonly steps: Int32Array;

  constructor(
    private readonly arcs: Arcs,
    places: number,
    private readonly timelines: Timelines,
    private readonly start: Place = outside,
  ) {
    this.times = new Int32Array(places);
    this.steps = new Int32Array(places);
  }

  /** `span` is the timeline of all minutes that are asked; with `wanted` it ends once all of these are met, whatever more could be got to, and when. */
  reached(taken: Int32Array, span: TimelineNumber, wanted?: ReadonlySet<Place>): Reached {
    return this.walk(taken, span, wanted, () => undefined);
  }

  /** The same with what each round added: of a place met, index k is when it is got to by k doors or fewer; those after the last are as the last. */
  reachedByRounds(taken: Int32Array, span: TimelineNumber): Reached & { readonly rounds: ReadonlyMap<Place, readonly TimelineNumber[]> } {
    const rounds = new Map<Place, TimelineNumber[]>([[this.start, [span]]]);
    const reached = this.walk(taken, span, undefined, (place, round, timeline) => {
      let known = rounds.get(place);
      if (!known) rounds.set(place, (known = []));
      while (known.length < round) known.push(known.at(-1) ?? never);
      known.push(timeline);
    });
    return { ...reached, rounds };
  }

  private walk(
    taken: Int32Array,
    span: TimelineNumber,
    wanted: ReadonlySet<Place> | undefined,
    note: (place: Place, round: number, timeline: TimelineNumber) => void,
  ): Reached {
    const { times, steps, timelines, start } = this;
    const { starts, doors, to } = this.arcs;
    times.fill(never);
    steps.fill(-1);
    times[start] = span;
    steps[start] = 0;
    const missing = wanted && new Set(wanted);
    missing?.delete(start);
    const grown = new Map<Place, TimelineNumber>();
    let edge: Place[] = [start];
    for (let round = 1; edge.length > 0 && missing?.size !== 0; round++) {
      grown.clear();
      for (const place of edge) {
        const there = times[place] as TimelineNumber;
        for (let i = starts[place] as number; i < (starts[place + 1] as number); i++) {
          const open = taken[doors[i] as number] as TimelineNumber;
          if (open === never) continue;
          const next = to[i] as Place;
          const before = grown.get(next) ?? times[next];
          if (before === span) continue;
          const after = timelines.union(before ?? never, there === span ? open : timelines.intersect(there, open));
          if (after !== before) grown.set(next, after);
        }
      }
      edge = [];
      for (const [place, timeline] of grown) {
        if (times[place] === never) steps[place] = round;
        times[place] = timeline;
        note(place, round, timeline);
        missing?.delete(place);
        edge.push(place);
      }
    }
    return { times, steps };
  }
}
