import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { clip, contains, contentKey, fromRanges, intersect, meet, nextChange, previousChange, subtract, totalMinutes, union } from "./intervals";
import type { EpochMinute } from "./instant";
import type { IntervalSet } from "./intervals";

const size = 48;
const anySet = fc
  .array(fc.tuple(fc.integer({ min: 0, max: size }), fc.integer({ min: 0, max: size })), { maxLength: 6 })
  .map((pairs) => fromRanges(pairs.map(([a, b]) => [Math.min(a, b), Math.max(a, b)] as const)));
const minutesOf = (set: IntervalSet): Set<number> => {
  const minutes = new Set<number>();
  for (let i = 0; i < set.length; i += 2) for (let m = set[i] as number; m < (set[i + 1] as number); m++) minutes.add(m);
  return minutes;
};
const all = Array.from({ length: size }, (_, i) => i);

/** Whether a set is sorted, disjoint and not touching: the one way in which a set is written. */
const isNormal = (set: IntervalSet): boolean => set.every((bound, i) => i === 0 || (set[i - 1] as number) < bound);

describe("the algebra of intervals", () => {
  it("does what sets of single minutes do, and writes each result in one way", () => {
    fc.assert(
      fc.property(anySet, anySet, fc.integer({ min: 0, max: size }), fc.integer({ min: 0, max: size }), (a, b, from, to) => {
        const [x, y] = [minutesOf(a), minutesOf(b)];
        const results: readonly (readonly [IntervalSet, (m: number) => boolean])[] = [
          [union(a, b), (m) => x.has(m) || y.has(m)],
          [intersect(a, b), (m) => x.has(m) && y.has(m)],
          [subtract(a, b), (m) => x.has(m) && !y.has(m)],
          [clip(a, from, to), (m) => x.has(m) && m >= from && m < to],
        ];
        for (const [set, holds] of results) {
          expect(isNormal(set)).toBe(true);
          expect([...minutesOf(set)].sort((p, q) => p - q)).toEqual(all.filter(holds));
          expect(totalMinutes(set)).toBe(all.filter(holds).length);
          for (const m of all) expect(contains(set, m)).toBe(holds(m));
        }
      }),
    );
  });

  it("finds the next bound after a minute, and the last one before it", () => {
    fc.assert(
      fc.property(anySet, fc.integer({ min: 0, max: size }), (set, minute) => {
        expect(nextChange(set, minute as EpochMinute)).toBe(set.find((bound) => bound > minute));
        // The minute before a bound is otherwise than the one after it.
        const minutes = minutesOf(set);
        const changes = [0, ...all, size].filter((m) => m < minute && minutes.has(m) !== minutes.has(m - 1));
        expect(previousChange(set, minute as EpochMinute)).toBe(changes.length === 0 ? undefined : Math.max(...changes));
      }),
    );
  });

  it("tells whether two sets have a minute in common", () => {
    fc.assert(fc.property(anySet, anySet, (a, b) => expect(meet(a, b)).toBe([...minutesOf(a)].some((m) => minutesOf(b).has(m)))));
  });

  it("gives equal sets one key and others another", () => {
    fc.assert(fc.property(anySet, anySet, (a, b) => expect(contentKey(a) === contentKey(b)).toBe(a.join() === b.join())));
  });
});
