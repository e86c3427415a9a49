import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compiledFrom, minute } from "~/tests/builders";
import { ordinary } from "../paths/paths";
import { exactTimeframe } from "../paths/timeframe";
import { accessTable } from "../table/access-table";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { union } from "../time/intervals";
import { zoneOf } from "../time/zone";
import { WeekProbes } from "./week-probes";
import { Weeks } from "./weeks";

const week = 7 * 1440;

describe("looking at a few minutes of each week", () => {
  it("never turns away times that come to a whole week, in any zone", () => {
    let whole = 0;
    const zones = ["UTC", "Europe/Paris", "Pacific/Apia", "Asia/Kathmandu", "America/St_Johns", "Australia/Lord_Howe"];
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.constantFrom("2026-03-02T06:00:00Z", "2011-12-01T00:00:00Z", "0001-01-03T00:00:00Z", "9998-11-20T00:00:00Z"),
        fc.array(fc.array(fc.tuple(fc.integer({ min: 0, max: 60 * week }), fc.integer({ min: 1, max: 3 * week })), { maxLength: 12 }), {
          minLength: 1,
          maxLength: 4,
        }),
        (zone, start, drawn) => {
          const compiled = compiledFrom();
          const from = minute(start);
          const to = (from + 57 * week) as EpochMinute;
          const table = accessTable(compiled, exactTimeframe(compiled, from, to, ordinary));
          const sets = drawn.map((ranges) =>
            ranges.reduce<IntervalSet>(
              (set, [at, length]) =>
                union(
                  set,
                  [from + Math.min(at, 57 * week - 1), Math.min(from + at + length, to)].sort((a, b) => a - b),
                ),
              [],
            ),
          );
          const timelines = sets.map((set) => table.timelines.number(set));
          const first = new Weeks(zoneOf(zone), from, to).firstWhole(sets.reduce<IntervalSet>((all, set) => union(all, set), []));
          if (first !== undefined) whole++;
          expect([first, first === undefined || new WeekProbes(table, zoneOf(zone)).mayHoldWholeWeek(timelines)]).toEqual([first, true]);
        },
      ),
      { numRuns: 300 },
    );
    expect(whole).toBeGreaterThan(50);
  });

  it("turns away office hours and nights, which come to no week together", () => {
    const compiled = compiledFrom({ schedules: [{ id: "day", name: "Day", week: { mon: [["08:00", "18:00"]], tue: [["08:00", "18:00"]] } }] });
    const from = minute("2026-03-02T06:00:00Z");
    const table = accessTable(compiled, exactTimeframe(compiled, from, (from + 57 * week) as EpochMinute, ordinary));
    const days: number[] = [];
    for (let day = 0; day < 390; day++) days.push(from + day * 1440 + 120, from + day * 1440 + 700);
    expect(new WeekProbes(table, zoneOf("UTC")).mayHoldWholeWeek([table.timelines.number(days)])).toBe(false);
  });
});
