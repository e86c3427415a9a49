import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { holidayCalendar } from "./calendar";
import { civilDay, formatCivilDay, minutesADay } from "./civil-day";
import type { CivilDay } from "./civil-day";
import { monthsAhead } from "./horizon";
import { formatMinute, minuteDown, parseInstant } from "./instant";
import type { EpochMinute } from "./instant";
import { contains, range } from "./intervals";
import { MinuteCounter } from "./minute-counter";
import { RunningMinutes } from "./running-minutes";
import { openAt, openDuring, weeklySchedule } from "./schedule";
import { windowOf } from "./window";
import { endOfMinutesThrough, firstMinuteFrom, lastMinuteAtWallClock, localTime, minuteAtWallClock, zoneOf } from "./zone";

/**
 * Time in every year that can be written, 0001 to 9999, in every zone that the runtime knows. Judge of wall clocks: the runtime's own
 * Intl.DateTimeFormat, asked minute by minute; of dates and months: the Temporal proposal (npm temporal-polyfill).
 */
const zoneNames = Intl.supportedValuesOf("timeZone");
const [firstDay, lastDay] = [civilDay(1, 1, 1), civilDay(9999, 12, 31)];
const anyZone = fc.constantFrom(...zoneNames);
/** Years at the turns of our own reckoning, and around the ends of what can be written, more often than others. */
const anyYear = fc.oneof(
  fc.integer({ min: 1, max: 9999 }),
  fc.constantFrom(1, 2, 1799, 1800, 1801, 1970, 2026, 2037, 2038, 2087, 2099, 2100, 2499, 2500, 2501, 4012, 4053, 6053, 6054, 9998, 9999),
  fc.integer({ min: 1800, max: 2100 }),
);
const anyDate = fc.tuple(anyYear, fc.integer({ min: 0, max: 364 })).map(([year, day]) => Math.min(civilDay(year, 1, 1) + day, lastDay) as CivilDay);
const anyMinute = fc.tuple(anyDate, fc.integer({ min: 0, max: 1439 })).map(([date, minute]) => (date * minutesADay + minute) as EpochMinute);
const runs = { numRuns: 120 };

const formats = new Map<string, Intl.DateTimeFormat>();
/** Minutes since 1970 that the wall clock shows, as Intl has it. */
function judgedLocal(name: string, minute: number): number {
  let format = formats.get(name);
  if (!format)
    formats.set(
      name,
      (format = new Intl.DateTimeFormat("en-US", {
        timeZone: name,
        hourCycle: "h23",
        era: "short",
        year: "numeric",
        month: "numeric",
        day: "numeric",
        hour: "numeric",
        minute: "numeric",
      })),
    );
  const parts = Object.fromEntries(format.formatToParts(minute * 60_000).map(({ type, value }) => [type, value]));
  const year = parts.era === "B" || parts.era === "BC" ? 1 - Number(parts.year) : Number(parts.year);
  return civilDay(year, Number(parts.month), Number(parts.day)) * minutesADay + Number(parts.hour) * 60 + Number(parts.minute);
}
const judgedDate = (name: string, minute: number): number => Math.floor(judgedLocal(name, minute) / minutesADay);

describe("time in any year and zone", () => {
  it("shows the wall clock that Intl shows", () => {
    fc.assert(
      fc.property(anyZone, anyMinute, (name, minute) => {
        const { date, minuteOfDay } = localTime(zoneOf(name), minute);
        expect([name, formatMinute(minute), date * minutesADay + minuteOfDay]).toEqual([name, formatMinute(minute), judgedLocal(name, minute)]);
      }),
      { numRuns: 800 },
    );
  });

  it("changes its offset only where Intl does, every six hours of a year", () => {
    fc.assert(
      fc.property(anyZone, anyYear, (name, year) => {
        const [from, to] = [civilDay(year, 1, 1) * minutesADay, civilDay(year + 1, 1, 1) * minutesADay];
        for (const segment of zoneOf(name).segments(from as EpochMinute, to as EpochMinute)) {
          expect(segment.from < segment.to).toBe(true);
          for (const minute of [segment.from, Math.floor((segment.from + segment.to) / 2), segment.to - 1])
            expect([name, minute, minute + segment.offset]).toEqual([name, minute, judgedLocal(name, minute)]);
        }
      }),
      runs,
    );
  });

  it("begins and ends dates at the minutes at which Intl shows them", () => {
    fc.assert(
      fc.property(anyZone, anyDate, (name, date) => {
        const zone = zoneOf(name);
        const first = firstMinuteFrom(zone, date);
        expect([name, formatCivilDay(date), judgedDate(name, first) >= date, judgedDate(name, first - 1) < date]).toEqual([
          name,
          formatCivilDay(date),
          true,
          true,
        ]);
        const end = endOfMinutesThrough(zone, date);
        expect([name, formatCivilDay(date), judgedDate(name, end - 1) <= date, judgedDate(name, end) > date]).toEqual([name, formatCivilDay(date), true, true]);
      }),
      runs,
    );
  });

  it("comes to a wall-clock time at the first and the last minute at which Intl shows it, or after a gap", () => {
    fc.assert(
      fc.property(anyZone, anyMinute, (name, local) => {
        const [date, minuteOfDay] = [Math.floor(local / minutesADay) as CivilDay, local - Math.floor(local / minutesADay) * minutesADay];
        const first = minuteAtWallClock(zoneOf(name), date, minuteOfDay);
        expect([name, local, judgedLocal(name, first) >= local, judgedLocal(name, first - 1) < local]).toEqual([name, local, true, true]);
        const last = lastMinuteAtWallClock(zoneOf(name), date, minuteOfDay);
        expect(last >= first).toBe(true);
        if (judgedLocal(name, first) === local) expect([name, judgedLocal(name, last)]).toEqual([name, local]);
      }),
      runs,
    );
  });

  it("ends a window with its last date, 9999-12-31 like any other, in every zone", () => {
    for (const name of zoneNames) {
      const { from, until } = windowOf({ kind: "date", date: firstDay }, { kind: "date", date: lastDay }, zoneOf(name), "outward");
      expect([name, judgedDate(name, from), judgedDate(name, from - 1)]).toEqual([name, firstDay, firstDay - 1]);
      expect([name, judgedDate(name, until - 1), judgedDate(name, until)]).toEqual([name, lastDay, lastDay + 1]);
    }
  });

  it("looks ahead to the same date and clock 13 months later, on the zone's wall clock", () => {
    fc.assert(
      fc.property(
        anyZone,
        anyMinute.filter((minute) => minute < civilDay(9998, 11, 1) * minutesADay && minute > civilDay(1, 1, 3) * minutesADay),
        (name, minute) => {
          const local = judgedLocal(name, minute);
          const day = Math.floor(local / minutesADay);
          const ahead = Temporal.PlainDate.from("1970-01-01").add({ days: day }).add({ months: 13 });
          const wanted = civilDay(ahead.year, ahead.month, ahead.day) * minutesADay + (local - day * minutesADay);
          const end = monthsAhead(minute, zoneOf(name));
          expect([name, judgedLocal(name, end) >= wanted, judgedLocal(name, end - 1) < wanted]).toEqual([name, true, true]);
        },
      ),
      runs,
    );
  });

  it("opens a schedule at the same minutes whether it is laid out or asked minute by minute", () => {
    const calendar = holidayCalendar([
      { name: "Easter Monday", dayType: "public", priority: 1, when: { rule: "easter", offset: 1 } },
      { name: "last Sunday", dayType: "company", priority: 0, when: { rule: "nth", month: 10, weekday: "sun", n: -1 } },
      { name: "New Year", dayType: "public", priority: 0, when: { rule: "yearlySpan", from: 1231, to: 101 } },
    ]);
    const schedule = weeklySchedule({
      week: Array.from({ length: 7 }, (_, day) => (day < 5 ? [[420, 1140]] : [[1320, 360]])),
      holidays: new Map([["public", [[600, 720]]]]),
      onHoliday: "closed",
      from: undefined,
      until: undefined,
    });
    fc.assert(
      fc.property(anyZone, anyMinute, fc.array(fc.integer({ min: 0, max: 5 * 1440 - 1 }), { minLength: 20, maxLength: 20 }), (name, from, offsets) => {
        const open = openDuring(schedule, calendar, zoneOf(name), from, (from + 5 * 1440) as EpochMinute);
        for (const offset of offsets)
          expect([name, from, offset, contains(open, from + offset)]).toEqual([
            name,
            from,
            offset,
            openAt(schedule, calendar, zoneOf(name), (from + offset) as EpochMinute),
          ]);
      }),
      runs,
    );
  });

  it("counts minutes of sets in any year", () => {
    fc.assert(
      fc.property(
        anyMinute,
        fc.array(fc.integer({ min: 1, max: 3000 }), { minLength: 4, maxLength: 12 }),
        fc.integer({ min: 0, max: 4000 }),
        fc.integer({ min: 1, max: 9000 }),
        (from, gaps, offset, length) => {
          let at: number = from;
          const set = gaps.slice(0, gaps.length - (gaps.length % 2)).map((gap) => (at += gap));
          const [start, end] = [from + offset, from + offset + length];
          let expected = 0;
          for (let i = 0; i < set.length; i += 2) expected += Math.max(0, Math.min(end, set[i + 1] as number) - Math.max(start, set[i] as number));
          const counter = new MinuteCounter(set);
          expect(counter.common(range(start, end))).toBe(expected);
          const whole = new RunningMinutes(set, counter).ofPart({ start: 0, end: set.length, first: set[0] as number, last: set[set.length - 1] as number });
          expect(whole.minutes).toBe(whole.common);
        },
      ),
      runs,
    );
  });

  it("is written with four digits of a year, whatever the minute", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          anyMinute,
          fc.constantFrom(firstDay * minutesADay, (lastDay + 1) * minutesADay - 1).map((minute) => minute as EpochMinute),
        ),
        (minute) => {
          const written = formatMinute(minute);
          expect(written).toMatch(/^\d{4}-\d\d-\d\dT\d\d:\d\dZ$/);
          const read = parseInstant(written);
          expect(read && minuteDown(read)).toBe(minute);
        },
      ),
      runs,
    );
    expect([formatMinute(((lastDay + 1) * minutesADay + 500) as EpochMinute), formatMinute((firstDay * minutesADay - 500) as EpochMinute)]).toEqual([
      "9999-12-31T23:59Z",
      "0001-01-01T00:00Z",
    ]);
  });
});
