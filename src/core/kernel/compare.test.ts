import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { First, compareCodePoints, firstFew, greatest, groupBy } from "./compare";

describe("the order of texts", () => {
  it("is that of their code points, as UTF-32 would have it", () => {
    const points = (text: string): number[] => [...text].map((character) => character.codePointAt(0) ?? 0);
    const text = fc.string({ unit: "binary" });
    fc.assert(
      fc.property(text, text, (a, b) => {
        const [x, y] = [points(a), points(b)];
        const at = x.findIndex((point, i) => point !== y[i]);
        const expected = at < 0 ? x.length - y.length : at >= y.length ? 1 : (x[at] as number) - (y[at] as number);
        expect(Math.sign(compareCodePoints(a, b))).toBe(Math.sign(expected));
      }),
    );
  });
});

describe("the first few", () => {
  it("are those that sorting all would put first, equal ones in the order in which they came", () => {
    const item = fc.record({ rank: fc.integer({ min: 0, max: 5 }), at: fc.nat() });
    fc.assert(
      fc.property(fc.array(item), fc.integer({ min: 0, max: 8 }), (items, count) => {
        const order = (a: { rank: number }, b: { rank: number }) => a.rank - b.rank;
        expect(firstFew(items, count, order)).toEqual([...items].sort(order).slice(0, count));
      }),
    );
  });

  it("are the same where they are offered one by one, and nothing behind the bound is among them", () => {
    fc.assert(
      fc.property(fc.array(fc.record({ rank: fc.integer({ min: 0, max: 9 }), name: fc.nat() })), fc.nat(6), (items, count) => {
        const order = (a: { rank: number }, b: { rank: number }) => a.rank - b.rank;
        const first = new First(count, order);
        for (const item of items) if (first.bound === undefined || order(item, first.bound) < 0) first.offer(item);
        expect(first.items()).toEqual([...items].sort(order).slice(0, count));
      }),
    );
  });

  it("say whether one that is offered may be among them, so that lighter ones after it need not be offered", () => {
    const first = new First<number>(2, (a, b) => b - a);
    expect([3, 5, 1, 4].map((item) => first.offer(item))).toEqual([true, true, true, true]);
    expect([first.bound, first.offer(4), first.offer(2), first.offer(6)]).toEqual([4, false, false, true]);
    expect(first.items()).toEqual([6, 5]);
  });
});

describe("items by a key", () => {
  it("are all there, each list in their order", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 20 })), (items) => {
        const groups = groupBy(items, (item) => item % 3);
        expect([...groups.values()].flat().sort((a, b) => a - b)).toEqual([...items].sort((a, b) => a - b));
        for (const [key, group] of groups) expect(group).toEqual(items.filter((item) => item % 3 === key));
      }),
    );
  });
});

describe("the greatest of numbers", () => {
  it("is found in a million of them, and is what there is at least where there are none", () => {
    expect(greatest(Array.from({ length: 1_000_000 }, (_, i) => (i * 7919) % 1_000_003))).toBe(1_000_002);
    expect([greatest([]), greatest([], 0), greatest([-3], 0), greatest([5, 2], 0)]).toEqual([-Infinity, 0, 0, 5]);
  });
});
