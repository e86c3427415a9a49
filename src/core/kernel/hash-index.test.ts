import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { HashIndex } from "./hash-index";

describe("numbers by a hash", () => {
  it("are found by what they stand for, however many have one hash and however many there are", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 3000 }), fc.array(fc.nat({ max: 4000 }), { maxLength: 3000 }), (hashes, items) => {
        const index = new HashIndex();
        const known: number[] = [-1];
        const numberOf = (item: number): number => {
          for (let n = index.first(item % hashes); n !== 0; n = index.next()) if (known[n] === item) return n;
          index.add(known.push(item) - 1);
          return known.length - 1;
        };
        const plain = new Map<number, number>();
        for (const item of items) {
          const before = plain.get(item) ?? plain.size + 1;
          plain.set(item, before);
          expect(numberOf(item)).toBe(before);
        }
      }),
      { numRuns: 60 },
    );
  });
});
