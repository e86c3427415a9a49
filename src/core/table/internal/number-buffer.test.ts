import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { NumberBuffer } from "./number-buffer";

const span = fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 });

describe("a few numbers", () => {
  it("are sorted as the engine sorts them, however many there are, and nothing is left of those before", () => {
    const few = new NumberBuffer();
    fc.assert(
      fc.property(fc.array(span, { maxLength: 60, size: "max" }), (numbers) => {
        few.clear();
        for (const number of numbers) few.add(number);
        expect([...few.items.subarray(0, few.count)]).toEqual(numbers);
        few.sort();
        expect([...few.items.subarray(0, few.count)]).toEqual([...numbers].sort((a, b) => a - b));
      }),
    );
  });
});
