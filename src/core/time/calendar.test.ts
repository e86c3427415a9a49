import { describe, expect, it } from "@jest/globals";
import Holidays from "date-holidays";
import { covers, holidayCalendar } from "./calendar";
import type { CalendarEntry, DayRule } from "./calendar";
import { civilDay, formatCivilDay, parseCivilDay } from "./civil-day";
import type { CivilDay } from "./civil-day";
import { easterSunday } from "./easter";

const day = (text: string): CivilDay => {
  const parsed = parseCivilDay(text);
  if (parsed === undefined) throw new Error(text);
  return parsed;
};

/** Dates of a year on which a rule holds. */
function datesOf(when: DayRule, year: number): string[] {
  const found: string[] = [];
  for (let date = civilDay(year, 1, 1); date < civilDay(year + 1, 1, 1); date = (date + 1) as CivilDay)
    if (covers(when, date)) found.push(formatCivilDay(date));
  return found;
}

const years = Array.from({ length: 60 }, (_, i) => 1990 + i);

/** Public holidays of a country by an independent library (npm date-holidays), by the name that it gives them in English. */
function fromLibrary(country: string, year: number): Map<string, string> {
  const library = new Holidays(country, { languages: ["en"] });
  return new Map(
    library
      .getHolidays(year)
      .filter(({ type }) => type === "public")
      .map(({ name, date }) => [name, date.slice(0, 10)]),
  );
}

describe("Easter", () => {
  it("falls where an independent holiday library puts it, 1990 to 2049", () => {
    const library = new Holidays("AT", { languages: ["en"] });
    for (const year of years) {
      const found = library.getHolidays(year).find(({ name }) => name === "Easter Sunday");
      expect([year, formatCivilDay(easterSunday(year))]).toEqual([year, found?.date.slice(0, 10)]);
    }
  });

  it("has its offsets of practice (−2, +1, +39, +49, +50) on the days that the library names", () => {
    // The offsets are common practice, no source; the dates are the library's.
    const names: readonly (readonly [number, string])[] = [
      [-2, "Good Friday"],
      [1, "Easter Monday"],
      [39, "Ascension Day"],
      [49, "Pentecost"],
      [50, "Whit Monday"],
    ];
    const library = new Holidays("DE", "BB", { languages: ["en"] });
    for (const year of years) {
      const found = new Map(library.getHolidays(year).map(({ name, date }) => [name, date.slice(0, 10)]));
      for (const [offset, name] of names) {
        const expected = found.get(name);
        expect([year, name, datesOf({ rule: "easter", offset }, year)]).toEqual([year, name, [expected]]);
      }
    }
  });

  it("reaches over the turn of the year with a large offset", () => {
    // Easter 2026 is 5 April; 280 days before it is 29 June 2025.
    expect(datesOf({ rule: "easter", offset: -280 }, 2025)).toEqual(["2025-06-29"]);
  });
});

describe("rules of a calendar", () => {
  it("find the moving weekdays of the United States where the library puts them", () => {
    const rules: readonly (readonly [string, DayRule])[] = [
      ["Martin Luther King Jr. Day", { rule: "nth", month: 1, weekday: "mon", n: 3 }],
      ["Memorial Day", { rule: "nth", month: 5, weekday: "mon", n: -1 }],
      ["Labour Day", { rule: "nth", month: 9, weekday: "mon", n: 1 }],
      ["Thanksgiving Day", { rule: "nth", month: 11, weekday: "thu", n: 4 }],
    ];
    for (const year of [2024, 2025, 2026, 2027, 2028]) {
      const library = fromLibrary("US", year);
      for (const [name, rule] of rules) expect([year, name, datesOf(rule, year)]).toEqual([year, name, [library.get(name)]]);
    }
  });

  it("find the fixed and moving public holidays of Austria", () => {
    const rules: readonly (readonly [string, DayRule])[] = [
      ["New Year's Day", { rule: "yearly", monthDay: 101 }],
      ["Epiphany", { rule: "yearly", monthDay: 106 }],
      ["Easter Monday", { rule: "easter", offset: 1 }],
      ["Ascension Day", { rule: "easter", offset: 39 }],
      ["Whit Monday", { rule: "easter", offset: 50 }],
      ["Corpus Christi", { rule: "easter", offset: 60 }],
      ["Assumption", { rule: "yearly", monthDay: 815 }],
      ["Christmas Day", { rule: "yearly", monthDay: 1225 }],
    ];
    for (const year of [2025, 2026, 2027]) {
      const library = fromLibrary("AT", year);
      for (const [name, rule] of rules) expect([year, name, datesOf(rule, year)]).toEqual([year, name, [library.get(name)]]);
    }
  });

  it("keep 29 February to leap years", () => {
    const rule: DayRule = { rule: "yearly", monthDay: 229 };
    expect([2023, 2024, 2025, 2028, 2100].flatMap((year) => datesOf(rule, year))).toEqual(["2024-02-29", "2028-02-29"]);
  });

  it("run a yearly span over new year, both ends included", () => {
    const dates = datesOf({ rule: "yearlySpan", from: 1230, to: 102 }, 2026);
    expect(dates).toEqual(["2026-01-01", "2026-01-02", "2026-12-30", "2026-12-31"]);
  });

  it("cover nothing with a fifth weekday that a month has not, and with a range that runs backwards", () => {
    // February 2026 begins on a Sunday and has 28 days: four of each.
    expect(datesOf({ rule: "nth", month: 2, weekday: "mon", n: 5 }, 2026)).toEqual([]);
    expect(datesOf({ rule: "span", from: day("2026-05-02"), to: day("2026-05-01") }, 2026)).toEqual([]);
  });
});

describe("a calendar", () => {
  const entry = (name: string, priority: number, when: DayRule, dayType = "public"): CalendarEntry => ({ name, dayType, priority, when });
  const first = entry("first", 1, { rule: "yearly", monthDay: 501 });
  const second = entry("second", 1, { rule: "on", date: day("2026-05-01") }, "company");
  const strong = entry("strong", 7, { rule: "span", from: day("2026-05-01"), to: day("2026-05-03") }, "season");

  it("lets the highest priority win and names those that it beats", () => {
    const reading = holidayCalendar([first, second, strong]).read(day("2026-05-01"));
    expect(reading?.winner.name).toBe("strong");
    expect(reading?.beaten.map(({ name }) => name)).toEqual(["first", "second"]);
  });

  it("lets the first in the list win on a tie", () => {
    expect(holidayCalendar([first, second]).read(day("2026-05-01"))?.winner.name).toBe("first");
    expect(holidayCalendar([second, first]).read(day("2026-05-01"))?.winner.name).toBe("second");
  });

  it("makes a date that nothing covers an ordinary one", () => {
    expect(holidayCalendar([first]).read(day("2026-05-04"))).toBeUndefined();
  });
});
