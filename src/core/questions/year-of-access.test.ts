import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { minute } from "~/tests/builders";
import type { EpochMinute } from "../time/instant";
import { contains, fromRanges } from "../time/intervals";
import { zoneOf } from "../time/zone";
import { yearOfAccess } from "./year-of-access";

const from = minute("2026-03-01T06:00:00Z");
const sets = fc
  .array(fc.tuple(fc.nat(400 * 1440), fc.integer({ min: 1, max: 3000 })), { maxLength: 40 })
  .map((ranges) => fromRanges(ranges.map(([start, length]): [number, number] => [from + start, from + start + length])));

describe("a year of access", () => {
  it("says of each date just the minutes of the wall clock at which it opens, by Temporal, in every zone; what is outside business hours apart", () => {
    fc.assert(
      fc.property(
        sets,
        sets,
        fc.constantFrom("Europe/Vienna", "Australia/Lord_Howe", "Atlantic/Azores", "America/St_Johns", "Pacific/Apia"),
        fc.array(fc.nat(396 * 1440), { minLength: 1, maxLength: 60 }),
        (open, business, timeZone, asked) => {
          const to = (from + 396 * 1440) as EpochMinute;
          const within = open.map((one) => Math.min(one, to));
          const clipped = fromRanges(
            within.flatMap((start, i) => (i % 2 === 0 && start < (within[i + 1] ?? 0) ? [[start, within[i + 1] ?? 0] as [number, number]] : [])),
          );
          const year = yearOfAccess(clipped, { zone: zoneOf(timeZone), calendar: undefined, business }, from, to);
          const byDate = new Map(year.days.map((day) => [day.date, day]));
          for (const after of asked) {
            const local = Temporal.Instant.fromEpochMilliseconds((from + after) * 60_000).toZonedDateTimeISO(timeZone);
            const date = local.toPlainDate().since("1970-01-01", { largestUnit: "days" }).days;
            const clock = local.hour * 60 + local.minute;
            // A time of the wall clock that comes twice is open if either is.
            const both = (["earlier", "later"] as const).map((which) => local.toPlainDateTime().toZonedDateTime(timeZone, { disambiguation: which }));
            const minutes = both.map(({ epochMilliseconds }) => epochMilliseconds / 60_000).filter((one) => one >= from && one < to);
            const day = byDate.get(date as (typeof year.days)[number]["date"]);
            expect(contains(day?.open ?? [], clock)).toBe(minutes.some((one) => contains(clipped, one)));
            expect(contains(day?.outside ?? [], clock)).toBe(minutes.some((one) => contains(clipped, one) && !contains(business, one)));
          }
          expect([year.first, year.end]).toEqual([clipped[0], clipped[clipped.length - 1]]);
        },
      ),
      { numRuns: 60 },
    );
  });

  it("names the dates on which the clock is changed (Europe/Paris 2026: 29 March and 25 October, by the IANA rules)", () => {
    const start = minute("2026-01-01T00:00:00Z");
    const { clockChanges } = yearOfAccess([], { zone: zoneOf("Europe/Paris"), calendar: undefined, business: [] }, start, minute("2027-01-01T00:00:00Z"));
    expect(clockChanges.map(({ date, minutes }) => [Temporal.PlainDate.from("1970-01-01").add({ days: date }).toString(), minutes])).toEqual([
      ["2026-03-29", 60],
      ["2026-10-25", -60],
    ]);
  });
});
