import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { holidayCalendar } from "./calendar";
import { parseCivilDay } from "./civil-day";
import { minuteDown, parseInstant } from "./instant";
import type { EpochMinute } from "./instant";
import { contains, totalMinutes } from "./intervals";
import { openAt, openDuring, openOnDate, weeklySchedule } from "./schedule";
import type { ClockInterval } from "./schedule";
import { zoneOf } from "./zone";

const date = (text: string) => {
  const parsed = parseCivilDay(text);
  if (parsed === undefined) throw new Error(text);
  return parsed;
};
const minute = (text: string): EpochMinute => {
  const parsed = parseInstant(text);
  if (!parsed) throw new Error(text);
  return minuteDown(parsed);
};
const weekly = (row: readonly ClockInterval[], more: Partial<Parameters<typeof weeklySchedule>[0]> = {}) =>
  weeklySchedule({ week: Array.from({ length: 7 }, () => row), holidays: new Map(), onHoliday: "closed", from: undefined, until: undefined, ...more });

const publicDay = holidayCalendar([{ name: "May Day", dayType: "public", priority: 0, when: { rule: "yearly", monthDay: 501 } }]);

describe("a schedule on a date", () => {
  it("opens a whole day from 00:00 to 24:00 (common practice, no source)", () => {
    expect(openOnDate(weekly([[0, 1440]]), undefined, date("2026-05-05"))).toEqual([0, 1440]);
  });

  it("is closed at the end minute, and joins intervals that overlap or touch", () => {
    expect(
      openOnDate(
        weekly([
          [480, 720],
          [720, 800],
          [600, 780],
        ]),
        undefined,
        date("2026-05-05"),
      ),
    ).toEqual([480, 800]);
  });

  it("carries an overnight tail into a holiday that is itself closed", () => {
    const nights = weekly([[1200, 360]]);
    expect(openOnDate(nights, publicDay, date("2026-05-01"))).toEqual([0, 360]);
    expect(openOnDate(nights, publicDay, date("2026-05-02"))).toEqual([1200, 1440]);
  });

  it("takes the row of its day type, an empty one too, else what holidays do", () => {
    expect(openOnDate(weekly([[480, 1080]], { holidays: new Map([["public", []]]), onHoliday: "weekday" }), publicDay, date("2026-05-01"))).toEqual([]);
    expect(openOnDate(weekly([[480, 1080]], { onHoliday: "weekday" }), publicDay, date("2026-05-01"))).toEqual([480, 1080]);
    expect(openOnDate(weekly([[480, 1080]]), publicDay, date("2026-05-01"))).toEqual([]);
  });

  it("begins and ends with its own dates, both included, the last night's tail on the day after", () => {
    const season = weekly([[1200, 360]], { from: date("2026-06-01"), until: date("2026-06-02") });
    const days = ["2026-05-31", "2026-06-01", "2026-06-02", "2026-06-03", "2026-06-04"].map((text) => openOnDate(season, undefined, date(text)));
    expect(days).toEqual([[], [1200, 1440], [0, 360, 1200, 1440], [0, 360], []]);
  });
});

describe("a schedule over time", () => {
  it("has 23 hours on the day on which Vienna's clock goes forward and 25 when it goes back (IANA rules)", () => {
    const zone = zoneOf("Europe/Vienna");
    const hours = (from: string, to: string) => totalMinutes(openDuring(weekly([[0, 1440]]), undefined, zone, minute(from), minute(to))) / 60;
    expect(hours("2026-03-28T23:00Z", "2026-03-29T22:00Z")).toBe(23);
    expect(hours("2026-10-24T22:00Z", "2026-10-25T23:00Z")).toBe(25);
  });

  it("opens an hour that comes twice both times (Vienna, 2026-10-25, 02:00 to 03:00)", () => {
    const open = openDuring(weekly([[120, 180]]), undefined, zoneOf("Europe/Vienna"), minute("2026-10-25T00:00Z"), minute("2026-10-25T12:00Z"));
    expect(open).toEqual([minute("2026-10-25T00:00Z"), minute("2026-10-25T02:00Z")]);
  });

  it("is at every minute what the point-wise question says", () => {
    const row = fc.array(fc.tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 0, max: 1440 })), { maxLength: 3 });
    fc.assert(
      fc.property(
        row,
        row,
        fc.constantFrom("Europe/Vienna", "Australia/Lord_Howe", "Asia/Beirut", "America/Santiago"),
        fc.constantFrom("2026-03-28", "2026-04-04", "2026-09-05", "2026-10-24", "2026-04-30"),
        (usual, holiday, name, start) => {
          const schedule = weekly(usual, { holidays: new Map([["public", holiday]]) });
          const zone = zoneOf(name);
          const from = minute(`${start}T00:00Z`);
          const open = openDuring(schedule, publicDay, zone, from, (from + 4320) as EpochMinute);
          for (let at = from; at < from + 4320; at = (at + 29) as EpochMinute)
            expect([at, contains(open, at)]).toEqual([at, openAt(schedule, publicDay, zone, at)]);
        },
      ),
      { numRuns: 60 },
    );
  });
});
