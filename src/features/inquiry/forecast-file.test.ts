import { describe, expect, test } from "@jest/globals";
import type { ToldForecast } from "@/operations/inquiry/show-forecast";
import { forecastTable } from "./forecast-file";

const date = {
  site: "Mill",
  dayType: "public",
  from: "2026-12-24",
  to: "2026-12-26",
  dates: 3,
  holdersLess: 4,
  holdersMore: 1,
  doorsLessCount: 2,
  doorsMoreCount: 0,
};

describe("a forecast as a table", () => {
  test("has a row for each thing that begins or ends, for what that does, and for days of calendars, those not typed in too", () => {
    const { columns, rows } = forecastTable({
      byDate: [
        {
          date: "2026-12-05",
          comes: [
            {
              change: "ends",
              list: "grants",
              count: 2,
              items: [
                { list: "grants", id: "g1", name: "g1", of: "Ada", by: "window", isBlock: false },
                { list: "grants", id: "g2", name: "g2", of: undefined, by: "window", isBlock: true },
              ],
            },
          ],
          lost: { pairs: 3, holders: 1, doors: 3, names: ["Ada"] },
          gained: undefined,
        },
      ],
      dates: [{ ...date, name: "Christmas" }],
      missing: [{ ...date, name: "Institute closed", calendar: "days", calendarName: "Mill days" }],
    } as unknown as ToldForecast);
    expect(rows).toEqual([
      ["2026-12-05", "2026-12-05", "ends", "grants", "g1", "g1", "Ada", undefined, undefined],
      ["2026-12-05", "2026-12-05", "ends", "grants, a block", "g2", "g2", undefined, undefined, undefined],
      ["2026-12-05", "2026-12-05", "opened for the last time", "holders and doors", undefined, "Ada", undefined, 1, 3],
      ["2026-12-24", "2026-12-26", "day of a calendar", "public", undefined, "Christmas", "Mill", 5, 2],
      ["2026-12-24", "2026-12-26", "not typed in (Mill days)", "public", undefined, "Institute closed", "Mill", 5, 2],
    ]);
    for (const row of rows) expect(row).toHaveLength(columns.length);
  });
});
