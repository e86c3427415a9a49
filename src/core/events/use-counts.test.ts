import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { cardKey, cardOfKey } from "./told-card";
import { firstSecondOfMonth, monthOfSecond } from "./use-counts";

describe("months of events", () => {
  it("hold each second between the years 1 and 9999 in just one, as the calendar of UTC has it", () => {
    fc.assert(
      fc.property(fc.integer({ min: -62_135_596_800, max: 253_402_300_799 }), (second) => {
        const month = monthOfSecond(second);
        expect([firstSecondOfMonth(month) <= second, second < firstSecondOfMonth(month + 1)]).toEqual([true, true]);
        expect(new Date(second * 1000).toISOString().slice(0, 7)).toBe(
          `${String(Math.floor(month / 12)).padStart(4, "0")}-${String((month % 12) + 1).padStart(2, "0")}`,
        );
      }),
    );
  });
});

describe("what an event tells of a card", () => {
  const text = fc.string({ unit: "grapheme", minLength: 1 });
  const card = fc.oneof(fc.record({ credential: text }), fc.record({ number: text, facilityCode: text }, { requiredKeys: ["number"] }));

  it("is told apart by its text, and read back from it, whatever ids and numbers are", () => {
    fc.assert(
      fc.property(card, card, (one, other) => {
        expect(cardOfKey(cardKey(one))).toEqual(one);
        expect(cardKey(one) === cardKey(other)).toBe(JSON.stringify(one) === JSON.stringify(other));
      }),
    );
  });
});
