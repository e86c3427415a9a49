import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import {
  addMonths,
  civilDay,
  daysInMonth,
  formatCivilDay,
  formatClock,
  isLeapYear,
  parseCivilDay,
  parseClock,
  parseMonthDay,
  weekdayNumber,
  weekdays,
  yearMonthDay,
} from "./civil-day";
import type { CivilDay } from "./civil-day";

/** Judge of all of these: the Temporal proposal's plain dates (npm temporal-polyfill). */
const anyDay = fc.integer({ min: -719_162, max: 2_932_896 }).map((day) => day as CivilDay);
const plain = (day: CivilDay) => Temporal.PlainDate.from("1970-01-01").add({ days: day });

describe("a civil day", () => {
  it("has the year, month, day and weekday that Temporal gives it, from year 1 to 9999", () => {
    fc.assert(
      fc.property(anyDay, (day) => {
        const judged = plain(day);
        expect(yearMonthDay(day)).toEqual({ year: judged.year, month: judged.month, day: judged.day });
        expect(weekdayNumber(day)).toBe(judged.dayOfWeek - 1);
        expect(civilDay(judged.year, judged.month, judged.day)).toBe(day);
        expect(formatCivilDay(day)).toBe(judged.toString());
        expect(parseCivilDay(judged.toString())).toBe(day);
      }),
    );
  });

  it("is moved by months as Temporal does it, to the last day where the month is shorter", () => {
    fc.assert(
      fc.property(
        anyDay.filter((day) => day > -700_000 && day < 2_900_000),
        fc.integer({ min: -30, max: 30 }),
        (day, months) => expect(formatCivilDay(addMonths(day, months))).toBe(plain(day).add({ months }).toString()),
      ),
    );
  });

  it("knows leap years and lengths of months, centuries included", () => {
    for (const year of [1900, 2000, 2023, 2024, 2100, 2400]) {
      expect([year, isLeapYear(year)]).toEqual([year, Temporal.PlainDate.from({ year, month: 1, day: 1 }).inLeapYear]);
      for (let month = 1; month <= 12; month++) expect(daysInMonth(year, month)).toBe(Temporal.PlainYearMonth.from({ year, month }).daysInMonth);
    }
  });

  it("is refused in any other writing", () => {
    for (const text of ["2026-2-03", "2026-02-30", "2025-02-29", "20260203", "2026-02-03T00:00", " 2026-02-03", "2026-00-10", "2026-13-01", ""])
      expect([text, parseCivilDay(text)]).toEqual([text, undefined]);
  });

  it("begins its week on a Monday (ISO 8601; from memory)", () => {
    expect(weekdays[weekdayNumber(civilDay(2026, 3, 2))]).toBe("mon");
    expect(weekdays[weekdayNumber(civilDay(2026, 3, 1))]).toBe("sun");
  });
});

describe("a clock time", () => {
  it("runs from 00:00 to 23:59, and to 24:00 as an end only", () => {
    expect([parseClock("00:00", false), parseClock("23:59", false), parseClock("24:00", true)]).toEqual([0, 1439, 1440]);
    for (const text of ["24:00", "24:01", "12:60", "1:00", "12.30", "12:3", "-1:00"]) expect([text, parseClock(text, false)]).toEqual([text, undefined]);
    expect(parseClock("24:01", true)).toBeUndefined();
  });

  it("is written as it was read", () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: 1440 }), (minute) => expect(parseClock(formatClock(minute), true)).toBe(minute)));
  });
});

describe("a day of the year", () => {
  it("may be 29 February, and no day that no year has", () => {
    expect([parseMonthDay("02-29"), parseMonthDay("12-31"), parseMonthDay("01-01")]).toEqual([229, 1231, 101]);
    for (const text of ["02-30", "04-31", "13-01", "00-10", "1-01", "2026-01-01"]) expect([text, parseMonthDay(text)]).toEqual([text, undefined]);
  });
});
