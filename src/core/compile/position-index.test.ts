import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { PositionIndex, positionsOf } from "./position-index";

/** Ids as registers have them, which share most of their characters, and any texts at all. */
const id = fc.oneof(
  fc.tuple(fc.constantFrom("c-", "p-", "door "), fc.integer({ min: 0, max: 400 })).map(([kind, n]) => `${kind}${String(n).padStart(5, "0")}`),
  fc.string({ unit: "binary", maxLength: 6 }),
  fc.constantFrom("__proto__", "constructor", ""),
);
const objects = fc.array(
  id.map((text) => ({ id: text })),
  { maxLength: 60 },
);
const firstOf = (all: readonly { id: string }[], wanted: string): number | undefined => {
  const found = all.findIndex((one) => one.id === wanted);
  return found < 0 ? undefined : found;
};

describe("an index of positions", () => {
  it("finds of equal ids the first, and nothing that is not there, from wherever it begins to look", () => {
    fc.assert(
      fc.property(objects, fc.array(id, { maxLength: 10 }), fc.integer({ min: 0, max: 60 }), (all, others, near) => {
        const index = new PositionIndex(all);
        for (const wanted of [...all.map((one) => one.id), ...others]) {
          expect([wanted, index.get(wanted)]).toEqual([wanted, firstOf(all, wanted)]);
          expect([wanted, index.has(wanted)]).toEqual([wanted, firstOf(all, wanted) !== undefined]);
        }
        const unique = [...new Map(all.map((one) => [one.id, one])).values()];
        const ofUnique = new PositionIndex(unique);
        for (const wanted of [...unique.map((one) => one.id), ...others])
          expect([wanted, ofUnique.getNear(wanted, near)]).toEqual([wanted, firstOf(unique, wanted)]);
      }),
    );
  });

  it("need not be made for a few: a walk finds the same", () => {
    fc.assert(
      fc.property(objects, fc.array(id, { maxLength: 10 }), (all, others) => {
        const wanted = new Set([...all.slice(0, 3).map((one) => one.id), ...others]);
        expect(new Map(positionsOf(wanted, all))).toEqual(
          new Map([...wanted].flatMap((one) => (firstOf(all, one) === undefined ? [] : [[one, firstOf(all, one)]]))),
        );
      }),
    );
  });
});
