import { PairTable } from "../kernel/pair-table";
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

/**
 * Timelines by content: each set of minutes is kept once, and each union, intersection and difference of two of them is worked
 * out once, however many people and doors it stands for. Cost of an operation that was done before: one look-up.
 */
export class TimelineBook {
  private readonly sets: IntervalSet[] = [nothing];
  private readonly byHash = new Map<number, TimelineNumber[]>([[hashOf(nothing), [never]]]);
  private readonly whole = new Map<TimelineNumber, TimelineNumber>();
  private readonly unions = new PairTable();
  private readonly intersections = new PairTable();
  private readonly differences = new PairTable();

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

  /** A timeline of which this one is what lies in one range, such as somebody's schedule until they left; undefined where none is known. */
  wholeOf(number: TimelineNumber): TimelineNumber | undefined {
    return this.whole.get(number);
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
      const [one, other] = [this.set(a), this.set(b)];
      const known = this.size;
      found = this.number(intersect(one, other));
      if (found === known) {
        const [cut] = other.length === 2 ? [a] : one.length === 2 ? [b] : [];
        if (cut !== undefined) this.whole.set(found, this.whole.get(cut) ?? cut);
      }
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
