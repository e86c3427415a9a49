import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import { groupBy } from "../../kernel/compare";
import type { AccessTable } from "../../table/access-table";
import { never } from "../../table/timelines";
import type { TimelineNumber } from "../../table/timelines";
import { remembered } from "../../kernel/remembered";
import type { EpochMinute } from "../../time/instant";
import { contains } from "../../time/intervals";
import type { IntervalSet } from "../../time/intervals";
import type { Judged } from "../judged";
import { rule, standards } from "../rule";
import { lazily } from "../flag";
import type { FlagOf, Untold } from "../flag";

/** Outside, as a place beside the areas. */
const outside = -1;

interface Passage {
  readonly door: Position;
  readonly from: Position;
  readonly to: Position;
}

/**
 * When each place can be got to from outside, through passages that can be taken at some times. Grows until nothing is added to any place, or all that
 * are wanted can be got to at some time.
 */
function reachable(
  { timelines, timeframe }: AccessTable,
  leaving: ReadonlyMap<Position, readonly Passage[]>,
  takenAt: (door: Position) => TimelineNumber,
  wanted: ReadonlySet<Position>,
): ReadonlyMap<Position, TimelineNumber> {
  const span = timelines.number(timeframe.span);
  const times = new Map<Position, TimelineNumber>([[outside, span]]);
  const waiting = [outside];
  const missing = new Set(wanted);
  missing.delete(outside);
  for (let place = waiting.pop(); place !== undefined && missing.size > 0; place = waiting.pop()) {
    const there = times.get(place) ?? never;
    for (const { door, to } of leaving.get(place) ?? []) {
      const before = times.get(to) ?? never;
      const taken = takenAt(door);
      const after = taken === never || before === span ? before : timelines.union(before, there === span ? taken : timelines.intersect(there, taken));
      if (after === before) continue;
      missing.delete(to);
      times.set(to, after);
      waiting.push(to);
    }
  }
  return times;
}

/** So many minutes are looked at before whole timelines are; with one bit more, as many as there are bits that stay a whole number. */
const samples = 29;
/** Said of what opens at any minute at all: what cannot be got to even if all that opens at some time opened always needs no clock. */
const atSomeTime = 1 << samples;

/** Minutes spread over the span so that every hour of the day and day of the week has its turn; of a short one some come twice. */
function sampleMinutes(span: IntervalSet): EpochMinute[] {
  const [from = 0, to = 0] = [span[0], span.at(-1)];
  // A step of 27 hours and a bit walks through the hours and the days alike.
  return Array.from({ length: samples }, (_, i) => (from + ((i * 1_661 + 11 * 60) % Math.max(1, to - from))) as EpochMinute);
}

/** At which of the sample minutes a timeline is open, a bit each, and whether it ever is. */
const samplesOf = ({ timelines, timeframe }: AccessTable): ((timeline: TimelineNumber) => number) => {
  const minutes = sampleMinutes(timeframe.span);
  return remembered((timeline: TimelineNumber) => {
    const set = timelines.set(timeline);
    return minutes.reduce((bits, minute, i) => (contains(set, minute) ? bits | (1 << i) : bits), timeline === never ? 0 : atSomeTime);
  });
};

/**
 * At which of the sample minutes each place can be got to from outside, a bit each, by what somebody opens at them. Whoever gets there at one of them gets
 * there at some minute; who does not get there `atSomeTime` never does; of others this says nothing. Index `place + 1`: outside comes first. Good until it
 * is asked again.
 */
class SampledRoutes {
  private readonly bits: Int32Array;
  private readonly taken: Int32Array;
  private readonly waiting: Position[] = [];
  /** Doors that lead out of each place lie one behind the other in `leaving`; those of place p from index `starts[p + 1]` to `starts[p + 2]`. */
  private readonly starts: Int32Array;
  private readonly leaving: Int32Array;
  private readonly to: Int32Array;

  /** `free[d]`: at which of the sample minutes door d can be taken by anybody. */
  constructor(
    passages: readonly Passage[],
    places: number,
    private readonly free: Int32Array,
  ) {
    this.bits = new Int32Array(places + 1);
    this.taken = new Int32Array(passages.length);
    this.to = Int32Array.from(passages, ({ to }) => to);
    this.starts = new Int32Array(places + 2);
    for (const { from } of passages) this.starts[from + 2] = (this.starts[from + 2] as number) + 1;
    for (let i = 1; i < this.starts.length; i++) this.starts[i] = (this.starts[i] as number) + (this.starts[i - 1] as number);
    this.leaving = Int32Array.from(
      [...passages].sort((a, b) => a.from - b.from),
      ({ door }) => door,
    );
  }

  from(opened: Iterable<readonly [door: Position, bits: number]>): Int32Array {
    const { bits, taken, waiting, starts, leaving, to } = this;
    taken.set(this.free);
    for (const [door, open] of opened) taken[door] = (taken[door] as number) | open;
    bits.fill(0);
    bits[outside + 1] = (1 << (samples + 1)) - 1;
    waiting.push(outside);
    for (let place = waiting.pop(); place !== undefined; place = waiting.pop()) {
      const there = bits[place + 1] as number;
      for (let i = starts[place + 1] as number; i < (starts[place + 2] as number); i++) {
        const door = leaving[i] as number;
        const next = to[door] as number;
        const before = bits[next + 1] as number;
        const after = before | (there & (taken[door] as number));
        if (after === before) continue;
        bits[next + 1] = after;
        waiting.push(next);
      }
    }
    return bits;
  }
}

function passagesOf({ compiled }: Judged): Passage[] {
  const areas = compiled.indexes.of("areas");
  const place = (id: string | undefined): Position => (id === undefined ? outside : (areas.get(id) ?? outside));
  return compiled.doors.map(({ position, door }) => ({ door: position, from: place(door.from), to: place(door.area) }));
}

/** A door that somebody opens and cannot get to. */
export const strandedRight = rule({
  key: "stranded-right",
  base: 6,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const { rows, timelines, timeframe } = judged.ahead;
    const passages = passagesOf(judged);
    const leaving = groupBy(passages, ({ from }) => from);
    const fromOf = (door: Position): Position => passages[door]?.from ?? outside;
    const span = timelines.number(timeframe.span);
    const places = new Set(passages.flatMap(({ from, to }) => [from, to]));
    const ever = reachable(judged.ahead, leaving, () => span, places);
    const bitsOf = samplesOf(judged.ahead);
    const freeOf = remembered((door: Position) => timelines.number(judged.freeAhead(door)));
    const sampled = new SampledRoutes(
      passages,
      judged.facility.areas.length,
      Int32Array.from(passages, ({ door }) => bitsOf(freeOf(door))),
    );
    function* sampledRow(row: number): Generator<readonly [Position, number]> {
      for (let i = rows.start(row); i < rows.end(row); i++) yield [rows.doors[i] as Position, bitsOf(rows.times[i] as TimelineNumber)];
    }
    const stranded = remembered((row: number) => {
      const inside = judged.doorsInRow(row).filter((door) => fromOf(door) !== outside);
      if (inside.length === 0) return { doors: [], isUntold: false };
      const atSamples = sampled.from(sampledRow(row));
      const left = new Set(inside.map(fromOf).filter((place) => ((atSamples[place + 1] as number) & ~atSomeTime) === 0));
      if (left.size === 0) return { doors: [], isUntold: false };
      const perhaps = new Set([...left].filter((place) => atSamples[place + 1] !== 0));
      const open = new Map<Position, TimelineNumber>();
      if (perhaps.size > 0) for (let i = rows.start(row); i < rows.end(row); i++) open.set(rows.doors[i] as Position, rows.times[i] as TimelineNumber);
      const takenAt = (door: Position): TimelineNumber => timelines.union(open.get(door) ?? never, freeOf(door));
      const exactly = reachable(judged.ahead, leaving, takenAt, perhaps);
      const isThere = (places: ReadonlyMap<Position, TimelineNumber>, door: Position): boolean => (places.get(fromOf(door)) ?? never) !== never;
      return {
        doors: inside.filter((door) => left.has(fromOf(door)) && isThere(ever, door) && !isThere(exactly, door)),
        isUntold: inside.some((door) => !isThere(ever, door)),
      };
    });
    const untold: Untold[] = [];
    for (const holder of judged.holders) if (stranded(judged.rowOf(holder)).isUntold) untold.push({ id: holder.id });
    // What is told of a door is the same for everybody.
    const toldOf = remembered((door: Position) => ({
      distinct: judged.doorIds([door]),
      proof: { from: required(judged.door(door).door.from, "only doors that lead out of an area are looked at") },
    }));
    return {
      flags: lazily(function* (): Generator<FlagOf<"stranded-right">> {
        for (const holder of judged.holders)
          for (const door of stranded(judged.rowOf(holder)).doors) {
            const { distinct, proof } = toldOf(door);
            yield { subject: holder, distinct, proof };
          }
      }),
      untold,
    };
  },
});
