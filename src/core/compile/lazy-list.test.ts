import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { LazyList } from "./lazy-list";

describe("a lazy list", () => {
  it("makes each item once, when it is first asked for, and none that is not", () => {
    fc.assert(
      fc.property(fc.nat({ max: 2000 }), fc.array(fc.integer({ min: -3, max: 2100 }), { maxLength: 50 }), (length, asked) => {
        const made: number[] = [];
        const list = new LazyList(length, (index) => {
          made.push(index);
          return { index };
        });
        for (const index of asked) {
          const item = list.at(index);
          expect(item?.index).toBe(index >= 0 && index < length ? index : undefined);
          expect(list.at(index)).toBe(item);
        }
        expect([...made].sort((a, b) => a - b)).toEqual([...new Set(asked.filter((index) => index >= 0 && index < length))].sort((a, b) => a - b));
      }),
    );
  });

  it("is gone through from the first item to the last, with those made before", () => {
    const list = new LazyList(600, (index) => ({ index }));
    const before = list.at(300);
    expect([...list].map(({ index }) => index)).toEqual(Array.from({ length: 600 }, (_, index) => index));
    expect(list.all()[300]).toBe(before);
  });
});
