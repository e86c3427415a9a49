import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { contains, fromRanges } from "../time/intervals";
import { countsByHour, hoursAWeek } from "./weekly-reach";

const weeks = fc
  .array(fc.tuple(fc.nat(10_079), fc.integer({ min: 1, max: 700 })), { maxLength: 12 })
  .map((ranges) => fromRanges(ranges.map(([from, length]): [number, number] => [from, Math.min(10_080, from + length)])));

describe("hours of a week", () => {
  it("count whoever opens something at any minute of each, once however often it opens in it", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(weeks, fc.integer({ min: 1, max: 9 })), { maxLength: 5 }), (sets) => {
        const expected = Array.from({ length: hoursAWeek }, (_, hour) =>
          sets.reduce(
            (sum, [set, count]) => sum + (Array.from({ length: 60 }, (_m, minute) => hour * 60 + minute).some((at) => contains(set, at)) ? count : 0),
            0,
          ),
        );
        expect(countsByHour(sets)).toEqual(expected);
      }),
      { numRuns: 60 },
    );
  });
});
