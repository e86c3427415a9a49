import type { EpochMinute } from "./instant";

/**
 * A set of minutes as half-open ranges: `[s0, e0, s1, e1, …]` with s0 < e0 < s1 < e1 …; sorted, disjoint, not touching,
 * so that equal sets are written equally. Bounds are EpochMinutes.
 */
export type IntervalSet = readonly number[];

export const nothing: IntervalSet = [];

/** The one range `[from, to)`; empty where from is not before to. */
export const range = (from: number, to: number): IntervalSet => (from < to ? [from, to] : nothing);

/** Appends `[from, to)` to a set under construction; ranges must come in order of their start. */
export function append(set: number[], from: number, to: number): void {
  if (from >= to) return;
  const last = set.length - 1;
  if (last >= 0 && from <= (set[last] as number)) {
    if (to > (set[last] as number)) set[last] = to;
  } else set.push(from, to);
}

/** Sorts and joins ranges given in any order as pairs. */
export function fromRanges(ranges: readonly (readonly [number, number])[]): IntervalSet {
  const set: number[] = [];
  for (const [from, to] of [...ranges].sort((a, b) => a[0] - b[0])) append(set, from, to);
  return set;
}

export function union(a: IntervalSet, b: IntervalSet): IntervalSet {
  if (a === b || b.length === 0) return a;
  if (a.length === 0) return b;
  const set: number[] = [];
  let i = 0;
  let j = 0;
  while (i < a.length || j < b.length) {
    if (j >= b.length || (i < a.length && (a[i] as number) <= (b[j] as number))) {
      append(set, a[i] as number, a[i + 1] as number);
      i += 2;
    } else {
      append(set, b[j] as number, b[j + 1] as number);
      j += 2;
    }
  }
  return set;
}

export function intersect(a: IntervalSet, b: IntervalSet): IntervalSet {
  if (a === b) return a;
  if (b.length <= 2) return within(a, b);
  if (a.length <= 2) return within(b, a);
  const set: number[] = [];
  let i = 0;
  let j = 0;
  while (i < a.length && j < b.length) {
    const from = Math.max(a[i] as number, b[j] as number);
    const to = Math.min(a[i + 1] as number, b[j + 1] as number);
    if (from < to) set.push(from, to);
    if ((a[i + 1] as number) < (b[j + 1] as number)) i += 2;
    else j += 2;
  }
  return set;
}

/** The minutes of a set that lie in the one range, or none, of another. Cost: a search, and the copy of what lies in it. */
function within(set: IntervalSet, bounds: IntervalSet): IntervalSet {
  if (bounds.length === 0) return nothing;
  const [from, to] = bounds as readonly [number, number];
  const start = firstRangeEndingAfter(set, from);
  let end = firstRangeEndingAfter(set, to);
  if (end < set.length && (set[end] as number) < to) end += 2;
  if (start === 0 && end === set.length && (end === 0 || ((set[0] as number) >= from && (set[end - 1] as number) <= to))) return set;
  const inside = set.slice(start, end);
  if (inside.length > 0) {
    if ((inside[0] as number) < from) inside[0] = from;
    if ((inside[inside.length - 1] as number) > to) inside[inside.length - 1] = to;
  }
  return inside;
}

/** The minutes of a that are not in b. */
/** Whether two sets have a minute in common: their intersection is not made, and what lies behind the first common minute is not looked at. */
export function meet(a: IntervalSet, b: IntervalSet): boolean {
  let [i, j] = [0, 0];
  while (i < a.length && j < b.length) {
    if ((a[i + 1] as number) <= (b[j] as number)) i += 2;
    else if ((b[j + 1] as number) <= (a[i] as number)) j += 2;
    else return true;
  }
  return false;
}

export function subtract(a: IntervalSet, b: IntervalSet): IntervalSet {
  if (a.length === 0 || b.length === 0) return a;
  if (a === b) return nothing;
  const set: number[] = [];
  let j = 0;
  for (let i = 0; i < a.length; i += 2) {
    let from = a[i] as number;
    const to = a[i + 1] as number;
    while (j < b.length && (b[j + 1] as number) <= from) j += 2;
    for (let k = j; k < b.length && (b[k] as number) < to; k += 2) {
      if ((b[k] as number) > from) set.push(from, b[k] as number);
      from = Math.max(from, b[k + 1] as number);
    }
    if (from < to) set.push(from, to);
  }
  return set;
}

export const clip = (set: IntervalSet, from: number, to: number): IntervalSet => intersect(set, range(from, to));

/** Index of the start of the range that holds the minute, or of the first one after it; the length of the set where there is none. */
export function firstRangeEndingAfter(set: IntervalSet, minute: number): number {
  let low = 0;
  let high = set.length / 2;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((set[2 * middle + 1] as number) > minute) high = middle;
    else low = middle + 1;
  }
  return 2 * low;
}

export function contains(set: IntervalSet, minute: number): boolean {
  const i = firstRangeEndingAfter(set, minute);
  return i < set.length && (set[i] as number) <= minute;
}

/** The first minute after the given one at which membership in the set changes; undefined if it never does. */
export function nextChange(set: IntervalSet, minute: EpochMinute): EpochMinute | undefined {
  const i = firstRangeEndingAfter(set, minute);
  if (i >= set.length) return undefined;
  const bound = ((set[i] as number) > minute ? set[i] : set[i + 1]) as EpochMinute;
  return Number.isFinite(bound) ? bound : undefined;
}

/** The last minute before the given one at which membership in the set changed; undefined if it never did. */
export function previousChange(set: IntervalSet, minute: EpochMinute): EpochMinute | undefined {
  let [low, high] = [0, set.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((set[middle] as number) < minute) low = middle + 1;
    else high = middle;
  }
  const bound = set[low - 1] as EpochMinute | undefined;
  return bound !== undefined && Number.isFinite(bound) ? bound : undefined;
}

/** How many minutes the set has. */
export function totalMinutes(set: IntervalSet): number {
  let total = 0;
  for (let i = 0; i < set.length; i += 2) total += (set[i + 1] as number) - (set[i] as number);
  return total;
}

const writtenSets = new WeakMap<IntervalSet, string>();

/** A text that equal sets have in common; worked out once for each array, so keep arrays and share them. */
export function contentKey(set: IntervalSet): string {
  let written = writtenSets.get(set);
  if (written === undefined) {
    written = set.join(" ");
    writtenSets.set(set, written);
  }
  return written;
}
