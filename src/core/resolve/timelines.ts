import type { IntervalSet } from "../time/intervals";
import { intersect, nothing, subtract, union } from "../time/intervals";

/** Number of a timeline in its book; equal sets of minutes have equal numbers. */
export type TimelineNumber = number;

/** The timeline without a minute has this number in every book. */
export const never: TimelineNumber = 0;

function hashOf(set: IntervalSet): number {
  let hash = set.length;
  for (let i = 0; i < set.length; i++) hash = Math.imul(hash, 0x01000193) ^ (set[i] as number);
  return hash;
}

function equal(a: IntervalSet, b: IntervalSet): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/** Pairs of numbers as one key; below 2^26 timelines the product stays an exact integer. */
const pairFactor = 0x4000000;

/**
 * Timelines by content: each set of minutes is kept once, and each union, intersection and difference of two of them is worked
 * out once, however many people and doors it stands for. Cost of an operation that was done before: one look-up.
 */
export class TimelineBook {
  private readonly sets: IntervalSet[] = [nothing];
  private readonly byHash = new Map<number, TimelineNumber[]>([[hashOf(nothing), [never]]]);
  private readonly unions = new Map<number, TimelineNumber>();
  private readonly intersections = new Map<number, TimelineNumber>();
  private readonly differences = new Map<number, TimelineNumber>();

  /** How many distinct timelines there are. */
  get size(): number {
    return this.sets.length;
  }

  set(number: TimelineNumber): IntervalSet {
    return this.sets[number] as IntervalSet;
  }

  number(set: IntervalSet): TimelineNumber {
    const hash = hashOf(set);
    const same = this.byHash.get(hash);
    if (same) for (const number of same) if (equal(this.set(number), set)) return number;
    const number = this.sets.push(set) - 1;
    if (same) same.push(number);
    else this.byHash.set(hash, [number]);
    return number;
  }

  union(a: TimelineNumber, b: TimelineNumber): TimelineNumber {
    if (a === b || b === never) return a;
    if (a === never) return b;
    const key = a < b ? a * pairFactor + b : b * pairFactor + a;
    let found = this.unions.get(key);
    if (found === undefined) {
      found = this.number(union(this.set(a), this.set(b)));
      this.unions.set(key, found);
    }
    return found;
  }

  intersect(a: TimelineNumber, b: TimelineNumber): TimelineNumber {
    if (a === b) return a;
    if (a === never || b === never) return never;
    const key = a < b ? a * pairFactor + b : b * pairFactor + a;
    let found = this.intersections.get(key);
    if (found === undefined) {
      found = this.number(intersect(this.set(a), this.set(b)));
      this.intersections.set(key, found);
    }
    return found;
  }

  subtract(a: TimelineNumber, b: TimelineNumber): TimelineNumber {
    if (a === b || a === never) return never;
    if (b === never) return a;
    const key = a * pairFactor + b;
    let found = this.differences.get(key);
    if (found === undefined) {
      found = this.number(subtract(this.set(a), this.set(b)));
      this.differences.set(key, found);
    }
    return found;
  }
}
