import { required } from "../../kernel/invariant";
import { remembered } from "../../kernel/remembered";
import type { Position } from "../../compile/position-index";
import type { Arcs, Place } from "../../routes/places";
import { arcsOf, backwards, leadingTo, outside, passagesOf } from "../../routes/places";
import { DoorsTaken, Walker } from "../../routes/reach-on-foot";
import type { AccessTable } from "../../table/access-table";
import { never } from "../../table/timelines";
import type { TimelineNumber } from "../../table/timelines";
import type { EpochMinute } from "../../time/instant";
import { contains } from "../../time/intervals";
import type { IntervalSet } from "../../time/intervals";
import { rule, standards } from "../rule";
import { lazily } from "../flag";
import type { FlagOf, Untold } from "../flag";

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
 * there at some minute; who does not get there `atSomeTime` never does; of others this says nothing. Index p: place p. Good until it is asked again.
 */
class SampledRoutes {
  private readonly bits: Int32Array;
  private readonly taken: Int32Array;
  private readonly waiting: Place[] = [];

  /** `free[d]`: at which of the sample minutes door d can be taken by anybody. */
  constructor(
    private readonly arcs: Arcs,
    places: number,
    private readonly free: Int32Array,
  ) {
    this.bits = new Int32Array(places);
    this.taken = new Int32Array(free.length);
  }

  from(opened: Iterable<readonly [door: Position, bits: number]>): Int32Array {
    const { bits, taken, waiting } = this;
    const { starts, doors, to } = this.arcs;
    taken.set(this.free);
    for (const [door, open] of opened) taken[door] = (taken[door] as number) | open;
    bits.fill(0);
    bits[outside] = (1 << (samples + 1)) - 1;
    waiting.push(outside);
    for (let place = waiting.pop(); place !== undefined; place = waiting.pop()) {
      const there = bits[place] as number;
      for (let i = starts[place] as number; i < (starts[place + 1] as number); i++) {
        const next = to[i] as Place;
        const before = bits[next] as number;
        const after = before | (there & (taken[doors[i] as number] as number));
        if (after === before) continue;
        bits[next] = after;
        waiting.push(next);
      }
    }
    return bits;
  }
}

/** A door that somebody opens and cannot get to. */
export const strandedRight = rule({
  key: "stranded-right",
  base: 6,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const { rows, timelines, timeframe } = judged.ahead;
    const { areas, doors } = judged.facility;
    const passages = passagesOf(judged.compiled);
    const places = areas.length + 1;
    const arcs = arcsOf(passages, places);
    const fromOf = (door: Position): Place => passages[door]?.from ?? outside;
    const span = timelines.number(timeframe.span);
    const ever = leadingTo(passages.map(backwards), places, outside);
    const bitsOf = samplesOf(judged.ahead);
    const free = Int32Array.from(doors, (_, door) => timelines.number(judged.freeAhead(door)));
    const sampled = new SampledRoutes(
      arcs,
      places,
      free.map((timeline) => bitsOf(timeline)),
    );
    const taken = new DoorsTaken(rows, timelines, free, new Set(doors.keys()), (_door, timeline) => timeline);
    const walker = new Walker(arcs, places, timelines);
    function* sampledRow(row: number): Generator<readonly [Position, number]> {
      for (let i = rows.start(row); i < rows.end(row); i++) yield [rows.doors[i] as Position, bitsOf(rows.times[i] as TimelineNumber)];
    }
    const stranded = remembered((row: number) => {
      const inside = judged.doorsInRow(row).filter((door) => fromOf(door) !== outside);
      if (inside.length === 0) return { doors: [], isUntold: false };
      const atSamples = sampled.from(sampledRow(row));
      const left = new Set(inside.map(fromOf).filter((place) => ((atSamples[place] as number) & ~atSomeTime) === 0));
      if (left.size === 0) return { doors: [], isUntold: false };
      const perhaps = new Set([...left].filter((place) => atSamples[place] !== 0));
      const { times } = walker.reached(taken.of(row), span, perhaps);
      return {
        doors: inside.filter((door) => left.has(fromOf(door)) && ever.has(fromOf(door)) && times[fromOf(door)] === never),
        isUntold: inside.some((door) => !ever.has(fromOf(door))),
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
