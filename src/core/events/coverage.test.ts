import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { CivilDay } from "../time/civil-day";
import { coveredDatesBefore, coversPeriod } from "./coverage";

const days = (...numbers: number[]) => numbers as CivilDay[];
const today = 1000 as CivilDay;

describe("coverage by dates", () => {
  it("counts dates with events, and those between two that are at most seven days apart", () => {
    expect(coveredDatesBefore(days(991, 998), today, 20)).toBe(8);
    expect(coveredDatesBefore(days(990, 998), today, 20)).toBe(2);
    expect(coveredDatesBefore([], today, 20)).toBe(0);
  });

  it("lets one stray event cover its own date and nothing else", () => {
    // A clock that was reset to 1970 once made a whole year covered.
    expect(coveredDatesBefore(days(0, 995), today, 365)).toBe(1);
  });

  it("looks at the asked dates only, and at no event after today", () => {
    expect(coveredDatesBefore(days(970, 976, 982), today, 20)).toBe(3);
    expect(coveredDatesBefore(days(998, 1003), today, 20)).toBe(1);
    // One of today closes the gap.
    expect(coveredDatesBefore(days(994, 1000), today, 20)).toBe(6);
  });

  it("is what looking at each date by itself gives", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 900, max: 1010 }), { maxLength: 30 }), fc.integer({ min: 1, max: 100 }), (numbers, asked) => {
        const dates = [...numbers].sort((a, b) => a - b).filter((date) => date <= today);
        let covered = 0;
        for (let date = today - asked; date < today; date++) {
          const before = dates.filter((one) => one <= date).pop();
          const after = dates.find((one) => one >= date);
          if (before === date || (before !== undefined && after !== undefined && after - before <= 7)) covered++;
        }
        expect(coveredDatesBefore([...numbers].sort((a, b) => a - b) as CivilDay[], today, asked)).toBe(covered);
      }),
    );
  });

  it("is enough at nine tenths of a period, without rounding", () => {
    expect([coversPeriod(81, 90), coversPeriod(80, 90), coversPeriod(0, 0)]).toEqual([true, false, true]);
  });
});
