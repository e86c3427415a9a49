import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { germanInEnglish, readHoursBack } from "~/tests/judge/read-hours";
import { holidayCalendar } from "../time/calendar";
import { formatCivilDay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { minuteDown, parseInstant } from "../time/instant";
import type { EpochMinute } from "../time/instant";
import { clip, subtract } from "../time/intervals";
import { openDuring, weeklySchedule } from "../time/schedule";
import type { ClockInterval } from "../time/schedule";
import { zoneOf } from "../time/zone";
import { germanHours } from "./german-hours";
import { hoursInWords } from "./hours-words";
import { localDays } from "./local-days";

const minute = (text: string): EpochMinute => {
  const parsed = parseInstant(text);
  if (!parsed) throw new Error(text);
  return minuteDown(parsed);
};
const [from, to] = [minute("2026-03-01T05:00Z"), minute("2027-04-01T05:00Z")];
const zone = zoneOf("Europe/Vienna");
const calendar = holidayCalendar([
  { name: "May Day", dayType: "public", priority: 0, when: { rule: "yearly", monthDay: 501 } },
  { name: "Ascension", dayType: "public", priority: 0, when: { rule: "easter", offset: 39 } },
  { name: "Season", dayType: "season", priority: -1, when: { rule: "yearlySpan", from: 601, to: 830 } },
]);
const closed: readonly ClockInterval[] = [];
const days = (...rows: readonly (readonly ClockInterval[])[]) => [0, 1, 2, 3, 4, 5, 6].map((day) => rows[day] ?? closed);
const office: readonly ClockInterval[] = [[480, 1080]];
const workdays = days(office, office, office, office, office);
const said = (
  week: readonly (readonly ClockInterval[])[],
  more: { holidays?: ReadonlyMap<string, readonly ClockInterval[]>; onHoliday?: "closed" | "weekday" } = {},
  window: readonly [EpochMinute, EpochMinute] = [from, to],
): string => {
  const schedule = weeklySchedule({ week, holidays: more.holidays ?? new Map(), onHoliday: more.onHoliday ?? "closed", from: undefined, until: undefined });
  const open = clip(openDuring(schedule, calendar, zone, from, to), window[0], window[1]);
  return hoursInWords(open, { zone, from, to, dayTypeOn: (date) => calendar.read(date)?.winner.dayType }).words;
};
const seasonAsWeekday = new Map([["public", closed]]);

describe("hours in full", () => {
  const clock = fc.integer({ min: 0, max: 47 }).map((half) => half * 30);
  const row = fc.array(
    fc.tuple(
      clock,
      fc.integer({ min: 1, max: 48 }).map((half) => half * 30),
    ),
    { maxLength: 2 },
  );
  const anyWeek = fc.oneof(
    row.map((same) => Array.from({ length: 7 }, () => same)),
    row.map((same) => [same, same, same, same, same, [], []]),
    fc.tuple(row, row, row).map(([a, b, c]) => [a, a, b, a, a, c, []]),
  );
  const windows = fc.constantFrom<readonly [string, string]>(
    ["2026-03-01T05:00Z", "2027-04-01T05:00Z"],
    ["2026-05-31T22:00Z", "2027-04-01T05:00Z"],
    ["2026-03-01T05:00Z", "2026-11-30T23:00Z"],
    ["2026-06-10T22:00Z", "2026-06-14T22:00Z"],
    ["2026-04-30T22:00Z", "2026-12-24T12:00Z"],
    ["2026-06-03T09:30Z", "2026-09-03T11:30Z"],
    ["2026-03-01T05:00Z", "2026-03-01T21:00Z"],
    ["2026-03-01T05:00Z", "2026-03-04T21:00Z"],
    ["2027-04-01T00:00Z", "2027-04-01T05:00Z"],
  );

  it("can be read back to the timetable on every whole date of the range", () => {
    fc.assert(
      fc.property(
        anyWeek,
        fc.option(row, { nil: undefined }),
        fc.option(row, { nil: undefined }),
        fc.constantFrom("closed" as const, "weekday" as const),
        windows,
        fc.constantFrom("Europe/Vienna", "UTC", "America/New_York"),
        (week, onPublic, onSeason, onHoliday, [start, end], zoneName) => {
          const there = zoneOf(zoneName);
          const holidays = new Map<string, readonly ClockInterval[]>([
            ...(onPublic ? [["public", onPublic] as const] : []),
            ...(onSeason ? [["season", onSeason] as const] : []),
          ]);
          const schedule = weeklySchedule({ week, holidays, onHoliday, from: undefined, until: undefined });
          const open = clip(openDuring(schedule, calendar, there, from, to), minute(start), minute(end));
          const dayTypeOn = (date: CivilDay) => calendar.read(date)?.winner.dayType;
          const { words } = hoursInWords(open, { zone: there, from, to, dayTypeOn }, true);
          // The same is said in German, and so it is read back from that, too.
          const german = hoursInWords(open, { zone: there, from, to, dayTypeOn }, true, germanHours).words;
          expect([german, germanInEnglish(german)]).toEqual([german, words]);
          const days = localDays(open, there, from, to).slice(1, -1);
          const [first, last] = [days[0], days[days.length - 1]];
          if (!first || !last) throw new Error("no days");
          if (!days.some(({ open: opens }) => opens.length > 0)) return expect(words === "Never").toBe(open.length === 0);
          const read = readHoursBack(words, first.date, last.date, dayTypeOn);
          for (const { date, open: opens, skipped } of days)
            expect([words, formatCivilDay(date), subtract(read.get(date) ?? [], skipped)]).toEqual([words, formatCivilDay(date), opens]);
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe("hours in words", () => {
  it("say never, and at all hours", () => {
    expect(said(days())).toBe("Never");
    expect(
      said(
        Array.from({ length: 7 }, (): readonly ClockInterval[] => [[0, 1440]]),
        { onHoliday: "weekday" },
      ),
    ).toBe("At all hours, holidays too");
  });

  it("name weekdays and hours, and that public days are shut", () => {
    expect(said(workdays, { holidays: seasonAsWeekday, onHoliday: "weekday" })).toBe("Mon–Fri 08–18, not on public holidays (1 May 2026 and 14 May 2026)");
  });

  it("keep an interval over midnight together, on the night on which it begins", () => {
    expect(
      said(
        Array.from({ length: 7 }, (): readonly ClockInterval[] => [[1200, 360]]),
        { onHoliday: "weekday" },
      ),
    ).toBe("Every night 20–06, holidays too");
    expect(said(days([], [], [], [], [[1320, 120]]), { onHoliday: "weekday" })).toMatch(/^Fri 22–02/);
  });

  it("join days with the same hours and keep others apart", () => {
    expect(said(days(office, office, office, office, office, [[540, 780]]), { onHoliday: "weekday" })).toBe("Mon–Fri 08–18, and Sat 09–13, holidays too");
    expect(
      said(
        days(
          [
            [480, 720],
            [780, 1020],
          ],
          [],
          [
            [480, 720],
            [780, 1020],
          ],
        ),
        { onHoliday: "weekday" },
      ),
    ).toBe("Mon, Wed 08–12 and 13–17");
  });

  it("write minutes where hours are not whole", () => {
    expect(said(days([[390, 690]]), { onHoliday: "weekday" })).toBe("Mon 06:30–11:30");
  });

  it("name what opens only for a few dates, also on those with which the range begins and ends", () => {
    const daily = [office, office, office, office, office, office, office];
    const night = daily.map((): readonly ClockInterval[] => [[180, 600]]);
    const weekdayToo = { onHoliday: "weekday" as const };
    expect(said(days(...daily), weekdayToo, [from, minute("2026-03-01T10:00Z")])).toBe("1 Mar 2026 08–11");
    expect(said(days(...daily), weekdayToo, [from, minute("2026-03-02T23:00Z")])).toBe("1 Mar 2026 08–18, 2 Mar 2026 08–18");
    expect(said(days(...night), weekdayToo, [minute("2027-03-31T23:00Z"), to])).toBe("1 Apr 2027 03–07");
    // A range of a few hours, all of them on one date.
    const short = [from, minute("2026-03-01T12:00Z")] as const;
    const open = openDuring(
      weeklySchedule({ week: daily, holidays: new Map(), onHoliday: "weekday", from: undefined, until: undefined }),
      calendar,
      zone,
      ...short,
    );
    expect(hoursInWords(open, { zone, from: short[0], to: short[1], dayTypeOn: () => undefined }).words).toBe("1 Mar 2026 08–13");
  });

  it("say from when and until when it is so, where that lies inside the range", () => {
    const window = [minute("2026-05-31T22:00Z"), minute("2026-09-30T22:00Z")] as const;
    expect(said(days(office, office, office, office, office), { onHoliday: "weekday" }, window)).toBe("Mon–Fri 08–18 from 1 Jun 2026 until 30 Sep 2026");
  });
});
