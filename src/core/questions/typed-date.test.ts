import { describe, expect, it } from "@jest/globals";
import { civilDay } from "../time/civil-day";
import { typedDate, typedDayOfYear } from "./typed-date";

const today = civilDay(2026, 11, 27);

describe("a typed date", () => {
  it.each([
    ["2026-12-31", "2026-12-31"],
    ["31.12.2026", "2026-12-31"],
    ["31. 12. 2026", undefined],
    ["31 Dec 2026", "2026-12-31"],
    ["31 December 2026", "2026-12-31"],
    ["December 31, 2026", "2026-12-31"],
    ["Dec 31 2026", "2026-12-31"],
    ["31/12/2026", "2026-12-31"],
    ["12/31/2026", "2026-12-31"],
    ["3/4/2026", undefined],
    ["1.1.", "2027-01-01"],
    ["1 January", "2027-01-01"],
    ["today", "2026-11-27"],
    ["tomorrow", "2026-11-28"],
    ["29 Feb 2027", undefined],
    ["31.12.2026 18:00", undefined],
    ["2026-12-31T18:00Z", undefined],
    ["unknown", undefined],
    ["", undefined],
    ["31 Dec 2026 or so", undefined],
    ["9999-12-31", "9999-12-31"],
    ["0000-01-01", undefined],
  ])("%s is read as %s", (text, date) => {
    expect(typedDate(text, today)).toBe(date);
  });
});

describe("a typed day of the year", () => {
  it.each([
    ["25 Dec", "12-25"],
    ["Dec 25", "12-25"],
    ["25.12.", "12-25"],
    ["1 January", "01-01"],
    ["2 January", "01-02"],
    ["31 Dec", "12-31"],
    ["29 Feb", "02-29"],
    ["30 Feb", undefined],
    ["25 Dec 2026", undefined],
    ["2026-12-25", undefined],
    ["today", undefined],
    ["tomorrow", undefined],
    ["monday", undefined],
    ["", undefined],
  ])("%s is read as %s", (text, day) => {
    expect(typedDayOfYear(text)).toBe(day);
  });
});
