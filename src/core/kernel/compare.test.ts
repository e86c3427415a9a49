import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compareCodePoints, firstFew } from "./compare";

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
});
