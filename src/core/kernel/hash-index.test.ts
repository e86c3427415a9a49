import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { HashIndex } from "./hash-index";

/** Numbers for items, from 1 on, told by an index; `hashes` says how many different hashes the items have. */
function numbering(hashes: number): (item: number) => number {
  const index = new HashIndex();
  const known: number[] = [-1];
  return (item) => {
    for (let n = index.first(item % hashes); n !== 0; n = index.next()) if (known[n] === item) return n;
    index.add(known.push(item) - 1);
    return known.length - 1;
  };
}

describe("numbers by a hash", () => {
  it("are found by what they stand for, however many have one hash", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), fc.array(fc.nat({ max: 400 }), { maxLength: 300, size: "max" }), (hashes, items) => {
        const numberOf = numbering(hashes);
        const plain = new Map<number, number>();
        for (const item of items) {
          const expected = plain.get(item) ?? plain.size + 1;
          plain.set(item, expected);
          expect(numberOf(item)).toBe(expected);
        }
      }),
    );
  });

  it("are found past the room that there was at first", () => {
    const numberOf = numbering(1500);
    for (let item = 0; item < 4000; item++) expect(numberOf(item * 3)).toBe(item + 1);
    for (let item = 0; item < 4000; item++) expect(numberOf(item * 3)).toBe(item + 1);
  });
});
