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

/** So many minutes are looked at before whole timelines are: as many as there are bits that stay a whole number. */
const samples = 30;

/** Minutes spread over the span so that every hour of the day and day of the week has its turn; of a short one some come twice. */
function sampleMinutes(span: IntervalSet): EpochMinute[] {
  const [from = 0, to = 0] = [span[0], span.at(-1)];
  // A step of 27 hours and a bit walks through the hours and the days alike.
  return Array.from({ length: samples }, (_, i) => (from + ((i * 1_661 + 11 * 60) % Math.max(1, to - from))) as EpochMinute);
}

/** At which of the sample minutes a timeline is open, a bit each. */
const samplesOf = ({ timelines, timeframe }: AccessTable): ((timeline: TimelineNumber) => number) => {
  const minutes = sampleMinutes(timeframe.span);
  return remembered((timeline: TimelineNumber) => {
    const set = timelines.set(timeline);
    return minutes.reduce((bits, minute, i) => (contains(set, minute) ? bits | (1 << i) : bits), 0);
  });
};

/**
 * At which of the sample minutes each place can be got to from outside, a bit each. Whoever gets there at one of them gets there at some minute; of others this
 * says nothing.
 */
function reachableAtSamples(leaving: ReadonlyMap<Position, readonly Passage[]>, takenAt: (door: Position) => number): ReadonlyMap<Position, number> {
  const bits = new Map<Position, number>([[outside, (1 << samples) - 1]]);
  const waiting = [outside];
  for (let place = waiting.pop(); place !== undefined; place = waiting.pop()) {
    const there = bits.get(place) ?? 0;
    for (const { door, to } of leaving.get(place) ?? []) {
      const before = bits.get(to) ?? 0;
      const after = before | (there & takenAt(door));
      if (after === before) continue;
      bits.set(to, after);
      waiting.push(to);
    }
  }
  return bits;
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
    const fromOf = new Map(passages.map(({ door, from }) => [door, from]));
    const span = timelines.number(timeframe.span);
    const places = new Set(passages.flatMap(({ from, to }) => [from, to]));
    const ever = reachable(judged.ahead, leaving, () => span, places);
    const bitsOf = samplesOf(judged.ahead);
    const freeOf = remembered((door: Position) => timelines.number(judged.freeAhead(door)));
    const stranded = remembered((row: number) => {
      const inside = judged.doorsInRow(row).filter((door) => fromOf.get(door) !== outside);
      if (inside.length === 0) return { doors: [], isUntold: false };
      const open = new Map<Position, TimelineNumber>();
      for (let i = rows.start(row); i < rows.end(row); i++) open.set(rows.doors[i] as Position, rows.times[i] as TimelineNumber);
      const takenAt = (door: Position): TimelineNumber => timelines.union(open.get(door) ?? never, freeOf(door));
      const wanted = new Set(inside.map((door) => fromOf.get(door) ?? outside));
      const atSamples = reachableAtSamples(leaving, (door) => bitsOf(open.get(door) ?? never) | bitsOf(freeOf(door)));
      const left = new Set([...wanted].filter((place) => (atSamples.get(place) ?? 0) === 0));
      if (left.size === 0) return { doors: [], isUntold: false };
      // What cannot be got to even if all that opens at some time opened always needs no clock.
      const atLeast = reachable(judged.ahead, leaving, (door) => (takenAt(door) === never ? never : span), left);
      const exactly = reachable(judged.ahead, leaving, takenAt, new Set([...left].filter((place) => atLeast.has(place))));
      const reached = new Map([...atSamples].flatMap(([place, bits]) => (bits === 0 ? [] : [[place, span] as const])));
      for (const [place, times] of exactly) if (!reached.has(place)) reached.set(place, times);
      const isThere = (places: ReadonlyMap<Position, TimelineNumber>, door: Position): boolean => (places.get(fromOf.get(door) ?? outside) ?? never) !== never;
      return {
        doors: inside.filter((door) => isThere(ever, door) && !isThere(reached, door)),
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
    const flags: Iterable<FlagOf<"stranded-right">> = {
      *[Symbol.iterator]() {
        for (const holder of judged.holders)
          for (const door of stranded(judged.rowOf(holder)).doors) yield { subject: { kind: holder.kind, id: holder.id }, ...toldOf(door) };
      },
    };
    return { flags, untold };
  },
});
