import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { AccessNumbers, directItem, isDirectItem, inheritedItem, numberOfItem } from "./access-numbers";

describe("numbers for what people have", () => {
  it("tell of a department or a membership which group gives it, and in which window", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), fc.array(fc.tuple(fc.nat({ max: 5 }), fc.nat({ max: 4 })), { maxLength: 30 }), (groups, memberships) => {
        const numbers = new AccessNumbers(groups);
        for (let group = 0; group < groups; group++) {
          expect(numbers.isDepartment(group + 1)).toBe(true);
          expect(numbers.originOf(group + 1)).toEqual({ group, window: 0 });
        }
        for (const [drawn, window] of memberships) {
          const group = drawn % groups;
          const inherited = numbers.membership(group, window);
          // A membership without a window gives what a department gives, but in another way.
          expect(numbers.isDepartment(inherited)).toBe(false);
          expect(numbers.originOf(inherited)).toEqual({ group, window });
          expect(numbers.membership(group, window)).toBe(inherited);
        }
      }),
    );
  });

  it("keep what a membership gives apart from what is given straight to somebody", () => {
    fc.assert(
      fc.property(fc.nat({ max: 1_000_000 }), (number) => {
        expect([numberOfItem(inheritedItem(number)), isDirectItem(inheritedItem(number))]).toEqual([number, false]);
        expect([numberOfItem(directItem(number)), isDirectItem(directItem(number))]).toEqual([number, true]);
      }),
    );
  });
});
