import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { parseCivilDay } from "./civil-day";
import { formatMinute } from "./instant";
import type { EpochMinute } from "./instant";
import { endOfMinutesThrough, firstMinuteFrom, isZoneName, localTime, minuteAtWallClock, zoneOf } from "./zone";

/** By an hour, by half an hour, at midnight, by dropping a date, with many changes a year, with none. */
const zones = [
  "Europe/Vienna",
  "America/New_York",
  "Australia/Lord_Howe",
  "Asia/Beirut",
  "America/Santiago",
  "Pacific/Apia",
  "Africa/Casablanca",
  "Asia/Kathmandu",
  "UTC",
  "Antarctica/Troll",
];
const minuteOf = (text: string): EpochMinute => (Temporal.Instant.from(text).epochMilliseconds / 60_000) as EpochMinute;
const date = (text: string) => {
  const parsed = parseCivilDay(text);
  if (parsed === undefined) throw new Error(text);
  return parsed;
};

describe("a zone", () => {
  it("shows the wall clock that Temporal shows, at any minute from 1971 to 2045", () => {
    // Judge: the Temporal proposal's polyfill (npm temporal-polyfill), which reads the runtime's IANA rules its own way.
    fc.assert(
      fc.property(fc.constantFrom(...zones), fc.integer({ min: minuteOf("1971-01-01T00:00Z"), max: minuteOf("2045-01-01T00:00Z") }), (name, minute) => {
        const judged = Temporal.Instant.fromEpochMilliseconds(minute * 60_000).toZonedDateTimeISO(name);
        const local = localTime(zoneOf(name), minute as EpochMinute);
        expect([local.date, local.minuteOfDay]).toEqual([date(judged.toPlainDate().toString()), judged.hour * 60 + judged.minute]);
      }),
      { numRuns: 3000 },
    );
  });

  it("changes its offset at the minute at which Temporal says so, for every change of 2011 and 2026", () => {
    for (const name of zones)
      for (const year of ["2011", "2026"]) {
        const [from, to] = [minuteOf(`${year}-01-01T00:00Z`), minuteOf(`${year}-12-31T00:00Z`)];
        const ours = zoneOf(name)
          .segments(from, to)
          .slice(1)
          .map((segment) => formatMinute(segment.from as EpochMinute));
        const judged: string[] = [];
        let at: Temporal.ZonedDateTime | null = Temporal.Instant.fromEpochMilliseconds(from * 60_000).toZonedDateTimeISO(name);
        while ((at = at.getTimeZoneTransition("next")) && at.epochMilliseconds < to * 60_000)
          judged.push(formatMinute((at.epochMilliseconds / 60_000) as EpochMinute));
        expect([name, year, ours]).toEqual([name, year, judged]);
      }
  });

  it("begins and ends dates where midnight is skipped or comes twice", () => {
    // Beirut, 2026-03-29: the clock goes from 00:00 to 01:00, so the date begins at 01:00 (+03:00).
    expect(formatMinute(firstMinuteFrom(zoneOf("Asia/Beirut"), date("2026-03-29")))).toBe("2026-03-28T22:00Z");
    // Santiago, 2026-04-05: 24:00 becomes 23:00 of the day before, which so ends an hour later.
    expect(formatMinute(endOfMinutesThrough(zoneOf("America/Santiago"), date("2026-04-04")))).toBe("2026-04-05T04:00Z");
  });

  it("gives a skipped date no minute of its own", () => {
    // Apia went over the date line: 2011-12-30 was left out (IANA tzdata, file australasia; from memory).
    const zone = zoneOf("Pacific/Apia");
    expect(firstMinuteFrom(zone, date("2011-12-30"))).toBe(firstMinuteFrom(zone, date("2011-12-31")));
    expect(endOfMinutesThrough(zone, date("2011-12-30"))).toBe(endOfMinutesThrough(zone, date("2011-12-29")));
  });

  it("reads a wall clock that comes twice at its first coming, and one that is skipped just after the gap", () => {
    const vienna = zoneOf("Europe/Vienna");
    expect(formatMinute(minuteAtWallClock(vienna, date("2026-10-25"), 150))).toBe("2026-10-25T00:30Z");
    expect(formatMinute(minuteAtWallClock(vienna, date("2026-03-29"), 150))).toBe("2026-03-29T01:00Z");
  });

  it("is known by names of the IANA database only", () => {
    expect(["Europe/Vienna", "UTC"].every(isZoneName)).toBe(true);
    expect(["+01:00", "Europe/Atlantis", "", "1"].some(isZoneName)).toBe(false);
  });
});
