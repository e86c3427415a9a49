import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { compiledFrom, minute } from "~/tests/builders";
import type { DocumentSchedule } from "../facility/document";
import { contains } from "../time/intervals";
import { BusinessWeeks, businessHoursOf, usualBusinessWeek } from "./business-hours";
import type { RuleSettings } from "./settings";

const weekdays = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const;
const clock = (minuteOfDay: number): string => `${String(Math.floor(minuteOfDay / 60)).padStart(2, "0")}:${String(minuteOfDay % 60).padStart(2, "0")}`;
const interval = fc.tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 0, max: 1440 }));
const date = fc.integer({ min: 1, max: 28 }).map((day) => `2026-03-${String(day).padStart(2, "0")}`);
type Business = Omit<DocumentSchedule, "id" | "name"> & { readonly week: Readonly<Record<string, readonly (readonly [string, string])[]>> };
const businesses = fc
  .record({
    week: fc.dictionary(fc.constantFrom(...weekdays), fc.array(interval, { maxLength: 2 })),
    from: fc.option(date, { nil: undefined }),
    until: fc.option(date, { nil: undefined }),
  })
  .map(({ week, from, until }): Business => ({
    week: Object.fromEntries(Object.entries(week).map(([day, rows]) => [day, rows.map(([start, end]): [string, string] => [clock(start), clock(end)])])),
    ...(from !== undefined && { from }),
    ...(until !== undefined && { until }),
  }));

/** The text read aloud: whether business is open at a minute of the day, ordinary dates only. */
function isOpenOn({ week, from, until }: Business, day: Temporal.PlainDate, minuteOfDay: number): boolean {
  const rowOf = (one: Temporal.PlainDate) => {
    const text = one.toString();
    return (from !== undefined && text < from) || (until !== undefined && text > until) ? [] : (week[weekdays[one.dayOfWeek - 1] ?? ""] ?? []);
  };
  const minutes = ([start, end]: readonly [string, string]) =>
    [start, end].map((text) => Number(text.slice(0, 2)) * 60 + Number(text.slice(3))) as [number, number];
  return (
    rowOf(day).some((row) => {
      const [start, end] = minutes(row);
      return minuteOfDay >= start && (start > end || minuteOfDay < end);
    }) ||
    rowOf(day.subtract({ days: 1 })).some((row) => {
      const [start, end] = minutes(row);
      return start > end && minuteOfDay < end;
    })
  );
}

describe("business hours", () => {
  it("are those that are set for a site, on its clock in its own ISO week, whatever they are; the usual ones where none are set", () => {
    fc.assert(
      fc.property(
        businesses,
        fc.constantFrom("Europe/Vienna", "Pacific/Kiritimati", "America/Los_Angeles", "Asia/Kathmandu"),
        fc.integer({ min: 0, max: 27 * 1440 }),
        fc.constantFrom("harbour", "__proto__", "constructor"),
        (business, timeZone, after, id) => {
          const compiled = compiledFrom({
            sites: [
              { id, name: "Harbour", timeZone },
              { id: "hill", name: "Hill", timeZone },
            ],
            doors: [
              { id: "gate", name: "Gate", site: id },
              { id: "shed", name: "Shed", site: "hill" },
            ],
            grants: [],
          });
          const settings = { format: "nomade.rules/1", sites: Object.fromEntries([[id, { business }]]) } as RuleSettings;
          const at = minute("2026-03-01T00:00:00Z") + after;
          const weeks = new BusinessWeeks(compiled, businessHoursOf(settings), at as ReturnType<typeof minute>);
          const today = Temporal.Instant.fromEpochMilliseconds(at * 60_000)
            .toZonedDateTimeISO(timeZone)
            .toPlainDate();
          const monday = today.subtract({ days: today.dayOfWeek - 1 });
          for (let day = 0; day < 7; day++)
            for (let minuteOfDay = 0; minuteOfDay < 1440; minuteOfDay += 13) {
              const expected = isOpenOn(business, monday.add({ days: day }), minuteOfDay);
              expect(contains(weeks.ofSite(id), day * 1440 + minuteOfDay)).toBe(expected);
              expect(contains(weeks.outsideAt(0, [0, 10080]), day * 1440 + minuteOfDay)).toBe(!expected);
              // Of both doors together: outside at either.
              const isUsual = contains(usualBusinessWeek, day * 1440 + minuteOfDay);
              expect(contains(weeks.outside([0, 1], [0, 10080]), day * 1440 + minuteOfDay)).toBe(!expected || !isUsual);
            }
          expect(weeks.ofSite("hill")).toEqual(usualBusinessWeek);
        },
      ),
      { numRuns: 40 },
    );
  });
});
