import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { PairNumbers, PairTable, TextNumbers } from "./pair-table";

const number = fc.oneof(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 2_000_000_000 }));

describe("a table of pairs", () => {
  it("keeps what a map by both numbers keeps, also past the room that it began with", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(number, number, fc.integer({ min: 0, max: 1000 })), { maxLength: 200 }),
        fc.integer({ min: 0, max: 50 }),
        (entries, expected) => {
          const table = new PairTable(expected);
          const map = new Map<string, number>();
          for (const [a, b, value] of entries) {
            const key = `${a} ${b}`;
            expect([key, table.get(a, b)]).toEqual([key, map.get(key) ?? -1]);
            if (map.has(key)) continue;
            table.set(a, b, value);
            map.set(key, value);
          }
          for (const [a, b] of entries) expect(table.get(a, b)).toBe(map.get(`${a} ${b}`));
        },
      ),
    );
    const many = new PairTable();
    for (let i = 0; i < 5000; i++) many.set(i, i * 7, i);
    expect(Array.from({ length: 5000 }, (_, i) => many.get(i, i * 7))).toEqual(Array.from({ length: 5000 }, (_, i) => i));
  });
});

describe("numbers for pairs and for texts", () => {
  it("are the same for equal ones and others for others, in the order in which they came", () => {
    const pairs = new PairNumbers(undefined, 10);
    expect([pairs.number(1, 2), pairs.number(2, 1), pairs.number(1, 2), pairs.number(0, 0)]).toEqual([11, 12, 11, 13]);
    const texts = new TextNumbers();
    expect([texts.number("a"), texts.number(""), texts.number("a"), texts.number("__proto__")]).toEqual([1, 2, 1, 3]);
  });

  it("tell lists apart that are numbered item by item", () => {
    const pairs = new PairNumbers();
    const numberOf = (list: readonly number[]): number => list.reduce((number, item) => pairs.number(number, item), 0);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 3 }), { maxLength: 5 }), fc.array(fc.integer({ min: 0, max: 3 }), { maxLength: 5 }), (a, b) => {
        expect(numberOf(a) === numberOf(b)).toBe(a.join() === b.join());
      }),
    );
  });
});
