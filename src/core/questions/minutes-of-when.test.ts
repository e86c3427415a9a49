import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { minute } from "~/tests/builders";
import { usualBusinessHours } from "../findings/business-hours";
import { holidayCalendar } from "../time/calendar";
import { civilDay, formatCivilDay, weekdays } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { formatMinute } from "../time/instant";
import type { EpochMinute } from "../time/instant";
import { contains } from "../time/intervals";
import { zoneOf } from "../time/zone";
import { minutesOfWhen } from "./minutes-of-when";
import type { SiteClock } from "./minutes-of-when";
import type { DayFilter, HoursOfDay, SiteWhen } from "./when";

const calendar = holidayCalendar([
  { name: "Clock day", dayType: "public", priority: 0, when: { rule: "nth", month: 10, weekday: "sun", n: -1 } },
  { name: "Spring", dayType: "season", priority: 0, when: { rule: "yearlySpan", from: 320, to: 410 } },
]);
const zones = ["Europe/Vienna", "Australia/Lord_Howe", "America/Santiago", "Asia/Kathmandu", "Pacific/Apia", "Africa/Casablanca", "UTC"];
const clockOf = (zone: string): SiteClock => ({ zone: zoneOf(zone), calendar, weekend: ["sat", "sun"], business: usualBusinessHours });
const now = minute("2026-11-27T13:10:00Z");

const texts = (when: SiteWhen, zone: string): string[] => (minutesOfWhen(when, clockOf(zone), now) ?? []).map((bound) => formatMinute(bound as EpochMinute));

describe("the minutes of a time", () => {
  it("come twice where the clock does, and never where it skips them", () => {
    // Vienna, 25 October 2026 (02:30 comes twice) and 29 March 2026 (02:30 is skipped).
    const at = (date: CivilDay): SiteWhen => ({ kind: "moment", at: { date, minuteOfDay: 150 } });
    expect(texts(at(civilDay(2026, 10, 25)), "Europe/Vienna")).toEqual(["2026-10-25T00:30Z", "2026-10-25T00:31Z", "2026-10-25T01:30Z", "2026-10-25T01:31Z"]);
    expect(texts(at(civilDay(2026, 3, 29)), "Europe/Vienna")).toEqual([]);
    expect(minutesOfWhen({ kind: "any" }, clockOf("UTC"), now)).toBeUndefined();
    expect(minutesOfWhen({ kind: "now" }, clockOf("UTC"), now)).toEqual([now, now + 1]);
  });

  it("of a night belong to the date on which it begins", () => {
    const night: HoursOfDay = { kind: "between", start: 1320, end: 360 };
    const [saturday] = [civilDay(2026, 11, 28)];
    expect(texts({ kind: "recurring", days: { kind: "weekend" }, hours: night, within: { kind: "dates", from: saturday, to: saturday } }, "UTC")).toEqual([
      "2026-11-28T22:00Z",
      "2026-11-29T06:00Z",
    ]);
    // The night that began yesterday still goes on at an instant from which something recurs.
    expect(
      texts(
        {
          kind: "recurring",
          days: { kind: "every-day" },
          hours: night,
          within: { kind: "instants", from: minute("2026-11-28T02:00:00Z"), to: minute("2026-11-28T23:00:00Z") },
        },
        "UTC",
      ),
    ).toEqual(["2026-11-28T02:00Z", "2026-11-28T06:00Z", "2026-11-28T22:00Z", "2026-11-28T23:00Z"]);
  });

  it("are those whose wall clock, by Temporal, shows a time that is meant", () => {
    const days: fc.Arbitrary<DayFilter> = fc.oneof(
      fc.constant<DayFilter>({ kind: "every-day" }),
      fc.constant<DayFilter>({ kind: "weekend" }),
      fc.subarray([...weekdays], { minLength: 1 }).map((list): DayFilter => ({ kind: "weekdays", weekdays: list })),
      fc.constantFrom<DayFilter>({ kind: "day-type", dayType: "public" }, { kind: "day-type", dayType: "season" }, { kind: "holiday", name: "Clock day" }),
    );
    const hours: fc.Arbitrary<HoursOfDay> = fc.oneof(
      fc.constantFrom<HoursOfDay>({ kind: "all-day" }, { kind: "business" }, { kind: "out-of-hours" }),
      fc.nat(1439).map((minuteOfDay): HoursOfDay => ({ kind: "clock", minuteOfDay })),
      fc
        .tuple(fc.nat(1439), fc.integer({ min: 1, max: 1440 }))
        .filter(([start, end]) => start !== end)
        .map(([start, end]): HoursOfDay => ({ kind: "between", start, end })),
    );
    const dates = fc.constantFrom(
      civilDay(2026, 3, 27),
      civilDay(2026, 4, 3),
      civilDay(2026, 9, 4),
      civilDay(2026, 10, 23),
      civilDay(2011, 12, 28),
      civilDay(4100, 3, 26),
    );
    const time = (span: number) =>
      fc.tuple(dates, fc.integer({ min: 0, max: span }), fc.nat(1439)).map(([date, more, minuteOfDay]) => ({ date: (date + more) as CivilDay, minuteOfDay }));
    const whens: fc.Arbitrary<SiteWhen> = fc.oneof(
      time(3).map((at): SiteWhen => ({ kind: "moment", at })),
      fc.tuple(dates, fc.nat(3)).map(([from, more]): SiteWhen => ({ kind: "dates", from, to: (from + more) as CivilDay })),
      fc.tuple(dates, fc.nat(1439), fc.nat(1439), fc.integer({ min: 1, max: 3 })).map(([date, start, end, more]): SiteWhen => ({
        kind: "span",
        from: { date, minuteOfDay: start },
        to: { date: (date + more) as CivilDay, minuteOfDay: end },
      })),
      fc.tuple(dates, fc.nat(4), days, hours).map(([from, more, filter, part]): SiteWhen => ({
        kind: "recurring",
        days: filter,
        hours: part,
        within: { kind: "dates", from, to: (from + more) as CivilDay },
      })),
    );
    const isMeant = (when: SiteWhen, zone: string, at: number): boolean => {
      const shown = Temporal.Instant.fromEpochMilliseconds(at * 60_000).toZonedDateTimeISO(zone);
      const today = civilDay(shown.year, shown.month, shown.day);
      const minuteOfDay = shown.hour * 60 + shown.minute;
      const local = today * 1440 + minuteOfDay;
      const dayIsMeant = (filter: DayFilter, date: number): boolean => {
        const name = weekdays[(((date + 3) % 7) + 7) % 7] as (typeof weekdays)[number];
        const winner = calendar.read(date as CivilDay)?.winner;
        if (filter.kind === "weekdays") return filter.weekdays.includes(name);
        if (filter.kind === "weekend") return name === "sat" || name === "sun";
        return filter.kind === "every-day" || (filter.kind === "day-type" ? winner?.dayType === filter.dayType : winner?.name === filter.name);
      };
      const isBusiness =
        !["sat", "sun"].includes(weekdays[(((today + 3) % 7) + 7) % 7] ?? "") &&
        calendar.read(today)?.winner.dayType !== "public" &&
        minuteOfDay >= 420 &&
        minuteOfDay < 1140;
      if (when.kind === "moment") return local === when.at.date * 1440 + when.at.minuteOfDay;
      if (when.kind === "dates") return when.from <= today && today <= when.to;
      if (when.kind === "span") return when.from.date * 1440 + when.from.minuteOfDay <= local && local < when.to.date * 1440 + when.to.minuteOfDay;
      if (when.kind !== "recurring" || when.within.kind !== "dates") throw new Error(when.kind);
      const { days: filter, hours: part, within } = when;
      const counts = (date: number): boolean => within.from <= date && date <= within.to && dayIsMeant(filter, date);
      if (part.kind === "between") {
        const overnight = part.end <= part.start;
        return (
          (counts(today) && minuteOfDay >= part.start && (overnight || minuteOfDay < part.end)) || (overnight && counts(today - 1) && minuteOfDay < part.end)
        );
      }
      if (!counts(today)) return false;
      return part.kind === "all-day" || (part.kind === "clock" ? minuteOfDay === part.minuteOfDay : part.kind === "business" ? isBusiness : !isBusiness);
    };
    fc.assert(
      fc.property(fc.constantFrom(...zones), whens, fc.infiniteStream(fc.nat(9 * 1440)), (zone, when, offsets) => {
        const meant = minutesOfWhen(when, clockOf(zone), now) ?? [];
        const day =
          when.kind === "moment"
            ? when.at.date
            : when.kind === "span"
              ? when.from.date
              : when.kind === "dates"
                ? when.from
                : when.kind === "recurring" && when.within.kind === "dates"
                  ? when.within.from
                  : 0;
        const around = (day - 2) * 1440;
        const probes = [
          ...Array.from({ length: 25 }, () => around + (offsets.next().value as number)),
          ...meant.slice(0, 20),
          ...meant.slice(0, 20).map((bound) => bound - 1),
        ];
        for (const at of probes)
          expect([zone, formatCivilDay(day as CivilDay), at, contains(meant, at)]).toEqual([
            zone,
            formatCivilDay(day as CivilDay),
            at,
            isMeant(when, zone, at),
          ]);
      }),
      { numRuns: 250 },
    );
  });
});
