import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { clip, fromRanges, intersect, totalMinutes } from "./intervals";
import { MinuteCounter } from "./minute-counter";
import { RunningMinutes } from "./running-minutes";

/** Sets that begin before, in and after others, with ranges of minutes and of days. */
const set = fc
  .array(fc.tuple(fc.integer({ min: -20_000, max: 20_000 }), fc.oneof(fc.integer({ min: 1, max: 600 }), fc.integer({ min: 1, max: 9000 }))), { maxLength: 12 })
  .map((ranges) => fromRanges(ranges.map(([from, length]) => [from, from + length] as const)));

describe("a counter of minutes", () => {
  it("counts what the intersection has", () => {
    fc.assert(
      fc.property(set, set, (one, other) => expect(new MinuteCounter(one).common(other)).toBe(totalMinutes(intersect(one, other)))),
      { numRuns: 2000 },
    );
  });
});

describe("running minutes of a set", () => {
  it("count what of it lies in a range, and what of that another set has", () => {
    const bound = fc.integer({ min: -25_000, max: 30_000 });
    fc.assert(
      fc.property(set, set, bound, bound, (one, other, a, b) => {
        const part = clip(one, Math.min(a, b), Math.max(a, b));
        fc.pre(part.length > 0);
        const [first, last] = [part[0] as number, part[part.length - 1] as number];
        const start = one.findIndex((bound, i) => i % 2 === 0 && bound <= first && first < (one[i + 1] as number));
        expect(new RunningMinutes(one, new MinuteCounter(other)).ofPart({ start, end: start + part.length, first, last })).toEqual({
          minutes: totalMinutes(part),
          common: totalMinutes(intersect(part, other)),
        });
      }),
      { numRuns: 2000 },
    );
  });
});
