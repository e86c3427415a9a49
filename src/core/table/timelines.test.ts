import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { fromRanges, intersect, range, subtract, union } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";
import { Timelines, never } from "./timelines";

/** Minutes 0 .. 40 in a few ranges: so few that the same set comes about in many ways. */
const set: fc.Arbitrary<IntervalSet> = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 1, max: 8 })), { maxLength: 5 })
  .map((ranges) => fromRanges(ranges.map(([from, length]) => [from, from + length] as const)));

const window = fc.tuple(fc.integer({ min: 0, max: 45 }), fc.integer({ min: 0, max: 45 })).map(([a, b]) => range(Math.min(a, b), Math.max(a, b)));

type Operation = "union" | "intersect" | "subtract";
const step = fc.tuple(fc.constantFrom<Operation>("union", "intersect", "intersect", "subtract"), fc.nat({ max: 30 }), fc.nat({ max: 30 }));

const plain = { union, intersect, subtract };

describe("a timelines of timelines", () => {
  it("gives equal sets of minutes one number, and others others, however they came about", () => {
    fc.assert(
      fc.property(
        fc.array(set, { minLength: 1, maxLength: 6 }),
        fc.array(window, { minLength: 1, maxLength: 6 }),
        fc.array(step, { maxLength: 40, size: "max" }),
        (sets, windows, steps) => {
          const timelines = new Timelines();
          const known: { readonly number: number; readonly set: IntervalSet }[] = [...sets, ...windows].map((one) => ({
            number: timelines.number(one),
            set: one,
          }));
          for (const [operation, i, j] of steps) {
            const [a, b] = [known[i % known.length], known[j % known.length]];
            if (a && b) known.push({ number: timelines[operation](a.number, b.number), set: plain[operation](a.set, b.set) });
          }
          const byText = new Map<string, number>([["", never]]);
          for (const { number, set: expected } of known) {
            const text = expected.join();
            const first = byText.get(text) ?? number;
            byText.set(text, first);
            expect([text, number]).toEqual([text, first]);
          }
          expect(new Set(byText.values()).size).toBe(byText.size);
          // What was never asked for is written out last, after all numbers are given.
          for (const { number, set: expected } of known) expect(timelines.set(number)).toEqual(expected);
        },
      ),
      { numRuns: 400 },
    );
  });

  it("tells of what a timeline is a part, and of which", () => {
    fc.assert(
      fc.property(set, window, window, (whole, first, second) => {
        const timelines = new Timelines();
        const cut = timelines.intersect(timelines.intersect(timelines.number(whole), timelines.number(first)), timelines.number(second));
        const part = timelines.cutOf(cut);
        if (!part) return;
        const of = timelines.set(part.of);
        expect([part.first, ...of.slice(part.start + 1, part.end - 1), part.last]).toEqual(intersect(intersect(whole, first), second));
      }),
      { numRuns: 400 },
    );
  });
});
