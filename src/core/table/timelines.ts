import type { NumberOf } from "../kernel/brand";
import { HashIndex } from "../kernel/hash-index";
import { invariant, required } from "../kernel/invariant";
import { PairTable } from "../kernel/pair-table";
import type { IntervalSet } from "../time/intervals";
import { firstRangeEndingAfter, intersect, nothing, subtract, union } from "../time/intervals";
import type { Cut } from "../time/running-minutes";

/** Number of a timeline in its book; equal sets of minutes have equal numbers. */
export type TimelineNumber = NumberOf<"timeline">;

/** The timeline without a minute has this number in every book. */
export const never: TimelineNumber = 0;

/** The bits of a bound, well mixed (the last step of MurmurHash3, from memory). */
function mix(bound: number): number {
  let hash = bound;
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return hash ^ (hash >>> 16);
}

/** Index i: what the bounds before i come to. The hash of a set is the sum over all of them, so that that of a cut is told from two sums. */
function hashSums(set: IntervalSet): Int32Array {
  const sums = new Int32Array(set.length + 1);
  for (let i = 0; i < set.length; i++) sums[i + 1] = (sums[i] as number) + mix(set[i] as number);
  return sums;
}

function hashOf(set: IntervalSet): number {
  let hash = 0;
  for (let i = 0; i < set.length; i++) hash = (hash + mix(set[i] as number)) | 0;
  return hash;
}

function equal(a: IntervalSet, b: IntervalSet): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/** Whether a set has the minutes of a cut of another one. */
function equalsCut(set: IntervalSet, whole: IntervalSet, { start, end, first, last }: Cut): boolean {
  const { length } = set;
  if (length !== end - start || set[0] !== first || set[length - 1] !== last) return false;
  for (let i = 1; i < length - 1; i++) if (set[i] !== whole[start + i]) return false;
  return true;
}

function cutOut(whole: IntervalSet, { start, end, first, last }: Cut): IntervalSet {
  const set = whole.slice(start, end);
  set[0] = first;
  set[set.length - 1] = last;
  return set;
}

/** A timeline that is what of another one lies in one range, such as somebody's schedule until they left. */
export interface TimelineCut extends Cut {
  readonly of: TimelineNumber;
}

/**
 * Timelines as they are kept outside: timeline n (from 1 on) stands from index `starts[n - 1]` to `starts[n]` of `steps`, as the minutes from each bound to
 * the next, the first from `origin`; a step of `longStep` or more is that mark and two halves, the lower first. `hashes[n]` is the hash of its bounds.
 */
export interface FrozenTimelines {
  readonly origin: number;
  readonly starts: Int32Array;
  readonly hashes: Int32Array;
  readonly steps: Uint16Array;
}

const longStep = 0xffff;
const half = 0x10000;

/**
 * Timelines by content: each set of minutes is kept once, and each union, intersection and difference of two of them is worked
 * out once, however many people and doors it stands for. Cost of an operation that was done before: one look-up. A cut of a timeline is
 * written out when somebody asks for its minutes: nearly everybody who came or left during a year has some of their own.
 */
export class Timelines {
  private readonly sets: (IntervalSet | undefined)[] = [nothing];
  private readonly cuts = new Map<TimelineNumber, TimelineCut>();
  /** Those that were kept outside. */
  private frozen: FrozenTimelines | undefined;
  private readonly index = new HashIndex();
  private readonly sums = new Map<TimelineNumber, Int32Array>();
  private readonly unions = new PairTable();
  private readonly intersections = new PairTable();
  private readonly differences = new PairTable();

  /** How many distinct timelines there are. */
  get size(): number {
    return this.sets.length;
  }

  /** All timelines, to be kept outside; they lie after `origin`, and not more than some thousand years. */
  freeze(origin: number): FrozenTimelines {
    const starts = new Int32Array(this.size);
    const hashes = new Int32Array(this.size);
    const steps: number[] = [];
    for (let n = 1; n < this.size; n++) {
      const set = this.set(n);
      let before = origin;
      for (const bound of set) {
        const step = bound - before;
        if (step < longStep) steps.push(step);
        else steps.push(longStep, step % half, Math.floor(step / half));
        before = bound;
      }
      starts[n] = steps.length;
      hashes[n] = hashOf(set);
    }
    return { origin, starts, hashes, steps: Uint16Array.from(steps) };
  }

  /** Takes timelines in that were kept outside, with the numbers that they had; each is written out when somebody asks for its minutes. */
  thaw(frozen: FrozenTimelines): void {
    invariant(this.size === 1, "timelines are thawed into an empty world");
    this.frozen = frozen;
    const { index, sets } = this;
    for (let n = 1; n < frozen.starts.length; n++) {
      sets.push(undefined);
      for (let other = index.first(frozen.hashes[n] as number); other !== 0; other = index.next());
      index.add(n);
    }
  }

  private written({ origin, starts, steps }: FrozenTimelines, number: TimelineNumber): IntervalSet {
    const set: number[] = [];
    let bound = origin;
    for (let i = starts[number - 1] as number, end = starts[number] as number; i < end; i++) {
      const step = steps[i] as number;
      bound += step < longStep ? step : (steps[++i] as number) + (steps[++i] as number) * half;
      set.push(bound);
    }
    return set;
  }

  set(number: TimelineNumber): IntervalSet {
    const known = this.sets[number];
    if (known) return known;
    const { frozen } = this;
    if (frozen && number < frozen.starts.length) return (this.sets[number] = this.written(frozen, number));
    const cut = required(this.cuts.get(number), "timelines are numbered");
    return (this.sets[number] = cutOut(this.set(cut.of), cut));
  }

  /** The timeline of which this one is a cut, and which; undefined where it is none. */
  cutOf(number: TimelineNumber): TimelineCut | undefined {
    return this.cuts.get(number);
  }

  number(set: IntervalSet): TimelineNumber {
    if (set.length === 0) return never;
    const { index } = this;
    for (let n = index.first(hashOf(set)); n !== 0; n = index.next()) if (equal(this.set(n), set)) return n;
    const number = this.sets.push(set) - 1;
    index.add(number);
    return number;
  }

  /** What of a timeline lies in the one range `[from, to)`. Cost: a search, whatever its length. */
  private within(number: TimelineNumber, from: number, to: number): TimelineNumber {
    const before = this.cuts.get(number);
    const whole = before ? before.of : number;
    const set = this.set(whole);
    const lower = before ? Math.max(from, before.first) : from;
    const upper = before ? Math.min(to, before.last) : to;
    if (lower >= upper) return never;
    const start = firstRangeEndingAfter(set, lower);
    let end = firstRangeEndingAfter(set, upper);
    if (end < set.length && (set[end] as number) < upper) end += 2;
    if (start >= end) return never;
    const [begins, ends] = [set[start] as number, set[end - 1] as number];
    const cut = { of: whole, start, end, first: Math.max(begins, lower), last: Math.min(ends, upper) };
    if (start === 0 && end === set.length && cut.first === begins && cut.last === ends) return whole;
    let sums = this.sums.get(whole);
    if (!sums) this.sums.set(whole, (sums = hashSums(set)));
    const hash = ((sums[end] as number) - (sums[start] as number) - mix(begins) + mix(cut.first) - mix(ends) + mix(cut.last)) | 0;
    const { index } = this;
    for (let n = index.first(hash); n !== 0; n = index.next()) if (this.isCut(n, cut, set)) return n;
    const made = this.sets.push(undefined) - 1;
    this.cuts.set(made, cut);
    index.add(made);
    return made;
  }

  private isCut(number: TimelineNumber, cut: TimelineCut, set: IntervalSet): boolean {
    const other = this.cuts.get(number);
    if (other && other.of === cut.of) return other.start === cut.start && other.end === cut.end && other.first === cut.first && other.last === cut.last;
    return equalsCut(this.set(number), set, cut);
  }

  union(a: TimelineNumber, b: TimelineNumber): TimelineNumber {
    if (a === b || b === never) return a;
    if (a === never) return b;
    const [first, second] = a < b ? [a, b] : [b, a];
    let found = this.unions.get(first, second);
    if (found < 0) {
      found = this.number(union(this.set(a), this.set(b)));
      this.unions.set(first, second, found);
    }
    return found;
  }

  intersect(a: TimelineNumber, b: TimelineNumber): TimelineNumber {
    if (a === b) return a;
    if (a === never || b === never) return never;
    const [first, second] = a < b ? [a, b] : [b, a];
    let found = this.intersections.get(first, second);
    if (found < 0) {
      // Most of what is intersected is a window, which is one range; all else goes the general way.
      const [one, other] = [this.sets[a], this.sets[b]];
      if (other?.length === 2) found = this.within(a, other[0] as number, other[1] as number);
      else if (one?.length === 2) found = this.within(b, one[0] as number, one[1] as number);
      else found = this.number(intersect(this.set(a), this.set(b)));
      this.intersections.set(first, second, found);
    }
    return found;
  }

  subtract(a: TimelineNumber, b: TimelineNumber): TimelineNumber {
    if (a === b || a === never) return never;
    if (b === never) return a;
    let found = this.differences.get(a, b);
    if (found < 0) {
      found = this.number(subtract(this.set(a), this.set(b)));
      this.differences.set(a, b, found);
    }
    return found;
  }
}
