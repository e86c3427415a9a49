import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { NumberBuffer } from "./number-buffer";
import { ListNumbers, notKnownYet } from "./list-numbers";

const items = fc.array(fc.nat({ max: 4 }), { maxLength: 6 });

const addAll = (lists: ListNumbers, start: number, list: readonly number[]): number => list.reduce((number, item) => lists.add(number, item), start);

/** The items of a list, read back from its number. */
function read(lists: ListNumbers, number: number): number[] {
  const list: number[] = [];
  for (let n = number; n > lists.reserved; n = lists.shorterOf(n)) list.unshift(lists.lastOf(n));
  return list;
}

describe("numbers for lists", () => {
  it("are the same for the same items after the same start, and tell all others apart", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat({ max: 3 }), items), { maxLength: 12 }), (all) => {
        const lists = new ListNumbers(3);
        const numbers = all.map(([start, list]) => addAll(lists, start, list));
        const texts = all.map(([start, list]) => `${start}: ${list.join()}`);
        for (let i = 0; i < all.length; i++)
          for (let j = 0; j < i; j++) expect([texts[i], texts[j], numbers[i] === numbers[j]]).toEqual([texts[i], texts[j], texts[i] === texts[j]]);
      }),
    );
  });

  it("can be read back item by item", () => {
    fc.assert(
      fc.property(fc.nat({ max: 3 }), items, (start, list) => {
        const lists = new ListNumbers(3);
        expect(read(lists, addAll(lists, start, list))).toEqual(list);
      }),
    );
  });

  it("take a set in whatever order it comes, and each of its items once", () => {
    fc.assert(
      fc.property(items, items, (list, more) => {
        const lists = new ListNumbers();
        const few = new NumberBuffer();
        for (const item of [...list, ...more, ...list].reverse()) few.add(item);
        expect(read(lists, lists.addSet(0, few))).toEqual([...new Set([...list, ...more])].sort((a, b) => a - b));
      }),
    );
  });

  it("hand on what follows from a list, working out each beginning once", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat({ max: 2 }), items), { maxLength: 8 }), (all) => {
        const lists = new ListNumbers(2);
        const numbers = all.map(([start, list]) => addAll(lists, start, list));
        const known = new Int32Array(lists.highest + 1).fill(notKnownYet, 3);
        known.set([7, 8, 9]);
        let worked = 0;
        for (const [i, [start, list]] of all.entries()) {
          const sum = lists.follow(numbers[i] as number, known, (before, item) => {
            worked++;
            return before + item;
          });
          expect(sum).toBe(7 + start + list.reduce((total, item) => total + item, 0));
        }
        expect(worked).toBe(new Set(all.flatMap(([start, list]) => list.map((_, k) => `${start}: ${list.slice(0, k + 1).join()}`))).size);
      }),
    );
  });

  it("follow a list of a hundred thousand items", () => {
    const lists = new ListNumbers();
    let number = 0;
    for (let item = 0; item < 100_000; item++) number = lists.add(number, item);
    expect(lists.follow(number, new Int32Array(lists.highest + 1).fill(notKnownYet, 1), (before) => before + 1)).toBe(100_000);
  });
});
