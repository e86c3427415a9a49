import type { Position } from "../compile/position-index";
import { never } from "../table/timelines";
import type { Timelines, TimelineNumber } from "../table/timelines";
import type { Arcs, Place } from "./places";
import { outside } from "./places";

/** One way on foot: doors one after the other, and when all of them can be taken. */
export interface Way {
  readonly doors: readonly Position[];
  readonly times: TimelineNumber;
}

export interface Ways {
  /** The shortest first; of those as long, by the positions of their doors. */
  readonly ways: readonly Way[];
  /** Whether there is no other way than these. */
  readonly areAll: boolean;
}

/** So many beginnings of ways are gone on with at most: parallel doors multiply. */
const mostBeginnings = 20_000;

interface Beginning {
  readonly place: Place;
  readonly door: Position;
  readonly before: Beginning | undefined;
  readonly times: TimelineNumber;
}

function doorsOf(last: Beginning): Position[] {
  const doors: Position[] = [];
  for (let one: Beginning | undefined = last; one; one = one.before) doors.push(one.door);
  return doors.reverse();
}

const passed = (last: Beginning | undefined, place: Place): boolean => {
  for (let one = last; one; one = one.before) if (one.place === place) return true;
  return place === outside;
};

/** Where and when ways are looked for. */
export interface WaysAsked {
  readonly arcs: Arcs;
  readonly timelines: Timelines;
  /** Index d: when door d can be taken. */
  readonly taken: Int32Array;
  readonly span: TimelineNumber;
  /** Of the times at which a way has come through a door, those at which it has arrived. */
  readonly endsAt: (door: Position, times: TimelineNumber) => TimelineNumber;
  /** The places from which an end can be got to if every door is open. */
  readonly leading: ReadonlySet<Place>;
}

/** Ways from outside to an end, no place twice, at most `most` of them. A way that has arrived is not gone on with at the same times. */
export function waysThrough({ arcs, timelines, taken, span, endsAt, leading }: WaysAsked, most: number): Ways {
  const ways: Way[] = [];
  let edge: (Beginning | undefined)[] = [undefined];
  let count = 0;
  while (edge.length > 0) {
    const longer: Beginning[] = [];
    for (const before of edge) {
      const place = before?.place ?? outside;
      for (let i = arcs.starts[place] as number; i < (arcs.starts[place + 1] as number); i++) {
        const door = arcs.doors[i] as Position;
        const open = taken[door] as TimelineNumber;
        const through = open === never ? never : timelines.intersect(before?.times ?? span, open);
        if (through === never) continue;
        const next: Beginning = { place: arcs.to[i] as Place, door, before, times: through };
        const arriving = endsAt(door, through);
        if (arriving !== never) {
          if (ways.length >= most) return { ways, areAll: false };
          ways.push({ doors: doorsOf(next), times: arriving });
        }
        const times = arriving === never ? through : timelines.subtract(through, arriving);
        if (times === never || !leading.has(next.place) || passed(before, next.place)) continue;
        if (++count > mostBeginnings) return { ways, areAll: false };
        longer.push({ ...next, times });
      }
    }
    edge = longer;
  }
  return { ways, areAll: true };
}

/** A way that somebody could go if some of its doors were not shut. */
export interface ShutWay {
  readonly doors: readonly Position[];
  /** Those of them that stay shut. */
  readonly shut: readonly Position[];
}

interface Cost {
  readonly shut: number;
  readonly doors: readonly Position[];
}

const isLess = (a: Cost, b: Cost): boolean => a.shut < b.shut || (a.shut === b.shut && a.doors.length < b.doors.length);

/** The way through one of some doors with the fewest that stay shut, of these one of the shortest; undefined where no door leads there at all. */
export function leastShutWay(
  arcs: Arcs,
  isTaken: (door: Position) => boolean,
  last: ReadonlySet<Position>,
  endsOpen: (door: Position) => boolean,
): ShutWay | undefined {
  const known = new Map<Place, Cost>([[outside, { shut: 0, doors: [] }]]);
  const settled = new Set<Place>();
  let best: Cost | undefined;
  for (;;) {
    let nearest: readonly [Place, Cost] | undefined;
    for (const one of known) if (!settled.has(one[0]) && (!nearest || isLess(one[1], nearest[1]))) nearest = one;
    if (!nearest || (best && !isLess(nearest[1], best))) break;
    const [place, { shut, doors }] = nearest;
    settled.add(place);
    for (let i = arcs.starts[place] as number; i < (arcs.starts[place + 1] as number); i++) {
      const door = arcs.doors[i] as Position;
      if (last.has(door)) {
        const end = { shut: shut + (endsOpen(door) ? 0 : 1), doors: [...doors, door] };
        if (!best || isLess(end, best)) best = end;
      }
      const to = arcs.to[i] as Place;
      const cost = { shut: shut + (isTaken(door) ? 0 : 1), doors: [...doors, door] };
      const before = known.get(to);
      if (!before || isLess(cost, before)) known.set(to, cost);
    }
  }
  return best && { doors: best.doors, shut: best.doors.filter((door, i) => !(i === best.doors.length - 1 ? endsOpen(door) : isTaken(door))) };
}
