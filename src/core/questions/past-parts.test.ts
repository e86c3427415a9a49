import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { EpochMinute } from "../time/instant";
import { partsOfTime } from "./past-parts";

const minute = fc.integer({ min: -50, max: 50 }).map((at) => at as EpochMinute);
const snapshots = fc.uniqueArray(fc.record({ id: fc.integer({ min: 1, max: 9 }), asOf: minute }), { selector: ({ id }) => id, maxLength: 6 });

describe("the snapshots of a time", () => {
  it("tell of each minute of it just once: the last exported at or before it, of several at once the last, and of what was before all the first", () => {
    fc.assert(
      fc.property(snapshots, minute, minute, (all, from, to) => {
        const parts = partsOfTime(all, from, to);
        const earliest = Math.min(...all.map(({ asOf }) => asOf));
        const lastOf = (asOf: number): number => Math.max(...all.filter((one) => one.asOf === asOf).map(({ id }) => id));
        const minutes = Array.from({ length: 120 }, (_, i) => i - 60);
        const told = minutes.map((at) =>
          parts.filter((part) => part.from <= at && at < part.to).map(({ snapshot, isBeforeAll }) => `${snapshot} ${isBeforeAll}`),
        );
        const expected = minutes.map((at) => {
          if (all.length === 0 || at < from || at >= to) return [];
          const before = all.filter(({ asOf }) => asOf <= at).map(({ asOf }) => asOf);
          return before.length > 0 ? [`${lastOf(Math.max(...before))} false`] : [`${lastOf(earliest)} true`];
        });
        expect(told).toEqual(expected);
      }),
      { numRuns: 300 },
    );
  });
});
