import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import ICAL from "ical.js";
import { RRule } from "rrule";
import { addDays, civilDay, formatCivilDay, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { parseRecurrence, recurrenceDates } from "./recurrence";

const day = (text: string) => civilDay(Number(text.slice(0, 4)), Number(text.slice(5, 7)), Number(text.slice(8, 10)));
function datesOf(rule: string, start: string, from = start, to = "1999-12-31"): string[] {
  const parsed = parseRecurrence(rule);
  if (typeof parsed === "string") throw new Error(parsed);
  return recurrenceDates(parsed, day(start), day(from), day(to)).map(formatCivilDay);
}

describe("a recurrence of all-day events", () => {
  it("comes on the dates of the examples of RFC 5545, 3.8.5.3, taken as all-day events", () => {
    const start = "1997-09-02";
    expect(datesOf("FREQ=DAILY;COUNT=10", start)).toEqual(Array.from({ length: 10 }, (_, i) => formatCivilDay(addDays(day(start), i))));
    expect(datesOf("FREQ=DAILY;INTERVAL=10;COUNT=5", start)).toEqual(["1997-09-02", "1997-09-12", "1997-09-22", "1997-10-02", "1997-10-12"]);
    expect(datesOf("FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224;WKST=SU;BYDAY=MO,WE,FR", "1997-09-01").slice(0, 6)).toEqual([
      "1997-09-01",
      "1997-09-03",
      "1997-09-05",
      "1997-09-15",
      "1997-09-17",
      "1997-09-19",
    ]);
    expect(datesOf("FREQ=MONTHLY;COUNT=10;BYDAY=1FR", "1997-09-05").slice(0, 4)).toEqual(["1997-09-05", "1997-10-03", "1997-11-07", "1997-12-05"]);
    expect(datesOf("FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU", "1997-09-07").slice(0, 6)).toEqual([
      "1997-09-07",
      "1997-09-28",
      "1997-11-02",
      "1997-11-30",
      "1998-01-04",
      "1998-01-25",
    ]);
    expect(datesOf("FREQ=MONTHLY;BYMONTHDAY=-3", "1997-09-28").slice(0, 6)).toEqual([
      "1997-09-28",
      "1997-10-29",
      "1997-11-28",
      "1997-12-29",
      "1998-01-29",
      "1998-02-26",
    ]);
    expect(datesOf("FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200", "1997-01-01", "1997-01-01", "2010-01-01")).toEqual([
      "1997-01-01",
      "1997-04-10",
      "1997-07-19",
      "2000-01-01",
      "2000-04-09",
      "2000-07-18",
      "2003-01-01",
      "2003-04-10",
      "2003-07-19",
      "2006-01-01",
    ]);
    expect(datesOf("FREQ=YEARLY;BYDAY=20MO", "1997-05-19")).toEqual(["1997-05-19", "1998-05-18", "1999-05-17"]);
    expect(datesOf("FREQ=YEARLY;BYMONTH=3;BYDAY=TH", "1997-03-13").slice(0, 5)).toEqual(["1997-03-13", "1997-03-20", "1997-03-27", "1998-03-05", "1998-03-12"]);
    expect(datesOf("FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13", "1998-02-13")).toEqual(["1998-02-13", "1998-03-13", "1998-11-13", "1999-08-13"]);
    expect(datesOf("FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8", "1996-11-05", "1996-11-05", "2004-12-31")).toEqual([
      "1996-11-05",
      "2000-11-07",
      "2004-11-02",
    ]);
    expect(datesOf("FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3", "1997-09-04")).toEqual(["1997-09-04", "1997-10-07", "1997-11-06"]);
    expect(datesOf("FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2", "1997-09-29").slice(0, 5)).toEqual([
      "1997-09-29",
      "1997-10-30",
      "1997-11-27",
      "1997-12-30",
      "1998-01-29",
    ]);
    expect(datesOf("FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO", "1997-08-05")).toEqual(["1997-08-05", "1997-08-10", "1997-08-19", "1997-08-24"]);
    expect(datesOf("FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU", "1997-08-05")).toEqual(["1997-08-05", "1997-08-17", "1997-08-19", "1997-08-31"]);
    expect(datesOf("FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5", "2007-01-15", "2007-01-15", "2008-01-01")).toEqual([
      "2007-01-15",
      "2007-01-30",
      "2007-02-15",
      "2007-03-15",
      "2007-03-30",
    ]);
  });

  it("comes on the same dates as a library's iterator, for rules of the plain kinds, whatever stretch is asked for", () => {
    // Source: ical.js 2.2, of which only forms are asked that it reads as RFC 5545 says.
    const start = fc
      .integer({ min: civilDay(1950, 1, 1), max: civilDay(2060, 12, 28) })
      .map((date) => addDays(civilDay(1970, 1, 1), date - civilDay(1970, 1, 1)));
    const end = fc.oneof(
      fc.constant(""),
      fc.integer({ min: 1, max: 40 }).map((count) => `;COUNT=${count}`),
    );
    const interval = fc.integer({ min: 1, max: 4 }).map((n) => (n === 1 ? "" : `;INTERVAL=${n}`));
    fc.assert(
      fc.property(
        start,
        fc.constantFrom("DAILY", "WEEKLY", "MONTHLY", "YEARLY"),
        interval,
        end,
        fc.integer({ min: 0, max: 1500 }),
        (first, frequency, every, ends, after) => {
          if (yearMonthDay(first).day > 28) return;
          const text = `FREQ=${frequency}${every}${ends}`;
          const [from, to] = [addDays(first, after), addDays(first, after + 800)];
          const theirs: string[] = [];
          const iterator = ICAL.Recur.fromString(text).iterator(ICAL.Time.fromDateString(formatCivilDay(first)));
          for (let next = iterator.next() as ICAL.Time | null; next; next = iterator.next() as ICAL.Time | null) {
            const date = civilDay(next.year, next.month, next.day);
            if (date > to) break;
            if (date >= from) theirs.push(formatCivilDay(date));
          }
          expect([text, datesOf(text, formatCivilDay(first), formatCivilDay(from), formatCivilDay(to))]).toEqual([text, theirs]);
        },
      ),
      { numRuns: 300 },
    );
  });

  it("comes on the same dates however long after its beginning it is asked", () => {
    const parts = fc.constantFrom(
      "FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1",
      "FREQ=WEEKLY;INTERVAL=3;BYDAY=SU,WE;WKST=SU",
      "FREQ=YEARLY;INTERVAL=2;BYYEARDAY=-1,60",
      "FREQ=MONTHLY;INTERVAL=5;BYMONTHDAY=31",
      "FREQ=DAILY;INTERVAL=17;BYMONTH=2,7",
    );
    fc.assert(
      fc.property(parts, fc.integer({ min: 1, max: 9000 }), fc.integer({ min: 0, max: 40_000 }), (text, year, after) => {
        const rule = parseRecurrence(text);
        if (typeof rule === "string") throw new Error(rule);
        const first = civilDay(year, 3, 7);
        const [from, to] = [addDays(first, after), addDays(first, after + 700)];
        expect(recurrenceDates(rule, first, from, to)).toEqual(recurrenceDates(rule, first, first, to).filter((date) => date >= from));
      }),
      { numRuns: 60 },
    );
  });

  it("comes on the same dates as another library says, for every part that a rule of days can have", () => {
    // Source: rrule 2.8, which follows python-dateutil. It leaves out a first instance that the rule does not come on, and takes all days of a week where a
    // rule names weeks and no weekday; there we follow RFC 5545, 3.8.5.3 and 3.3.10.
    // Positions in a first week that is begun late are asked below.
    // A rule that never comes on any date theirs follows up to the year 9999: each here comes on some before long.
    const list = <T>(one: fc.Arbitrary<T>, most: number) => fc.uniqueArray(one, { minLength: 1, maxLength: most });
    const maybe = <T>(one: fc.Arbitrary<T>) => fc.option(one, { nil: undefined });
    const signed = (most: number) => fc.integer({ min: 1, max: most }).chain((n) => fc.constantFrom(n, -n));
    const weekday = fc.constantFrom("MO", "TU", "WE", "TH", "FR", "SA", "SU");
    const nothing = { months: undefined, monthDays: undefined, yearDays: undefined, weeks: undefined };
    const places = (frequency: string) =>
      fc.oneof(
        fc.constant(nothing),
        list(fc.integer({ min: 1, max: 12 }), 3).map((months) => ({ ...nothing, months })),
        ...(frequency === "WEEKLY" ? [] : [list(signed(28), 3).map((monthDays) => ({ ...nothing, monthDays }))]),
        ...(frequency === "YEARLY"
          ? [list(signed(365), 3).map((yearDays) => ({ ...nothing, yearDays })), list(signed(52), 3).map((weeks) => ({ ...nothing, weeks }))]
          : []),
      );
    const rules = fc.constantFrom("DAILY", "WEEKLY", "MONTHLY", "YEARLY").chain((frequency) =>
      fc.record({
        frequency: fc.constant(frequency),
        place: places(frequency),
        every: fc.integer({ min: 1, max: 3 }),
        weekStart: fc.constantFrom("MO", "SU", "WE"),
        days: maybe(list(weekday, 3)),
        nth: maybe(signed(frequency === "MONTHLY" ? 5 : 6)),
        positions: frequency === "WEEKLY" ? fc.constant(undefined) : maybe(list(fc.constantFrom(1, -1), 1)),
        count: maybe(fc.integer({ min: 1, max: 30 })),
      }),
    );
    fc.assert(
      fc.property(rules, fc.integer({ min: civilDay(1990, 1, 1), max: civilDay(2030, 12, 31) }), (drawn, start) => {
        const { frequency, place, every, weekStart, nth, positions, count } = drawn;
        const { months, monthDays, yearDays, weeks } = place;
        // Every other month never is one of some months.
        const interval = months && frequency === "MONTHLY" ? 1 : every;
        const days = weeks ? (drawn.days ?? ["TU"]) : drawn.days;
        const isCounted =
          nth !== undefined && !weeks && !monthDays && !yearDays && (frequency === "MONTHLY" || frequency === "YEARLY") && (Math.abs(nth) <= 5 || !months);
        const parts: readonly (readonly [string, readonly unknown[] | undefined])[] = [
          ["BYMONTH", months],
          ["BYMONTHDAY", monthDays],
          ["BYYEARDAY", yearDays],
          ["BYWEEKNO", weeks],
          ["BYDAY", days?.map((one) => (isCounted ? `${nth}${one}` : one))],
        ];
        const named = parts.filter(([, values]) => values !== undefined);
        const text = [
          `FREQ=${frequency};INTERVAL=${interval};WKST=${weekStart}`,
          ...named.map(([name, values]) => `${name}=${values?.join() ?? ""}`),
          ...(positions && named.length > 0 ? [`BYSETPOS=${positions.join()}`] : []),
          ...(count === undefined ? [] : [`COUNT=${count}`]),
        ].join(";");
        const rule = parseRecurrence(text);
        // What can be read in two ways is refused.
        if (typeof rule === "string") return expect(rule).toMatch(/two ways/);
        const day = 86_400_000;
        const datesFrom = (begin: number, rule: string): CivilDay[] =>
          new RRule({ ...RRule.parseString(rule), dtstart: new Date(begin * day), until: new Date((begin + 1500) * day) })
            .all()
            .map((date) => (date.getTime() / day) as CivilDay);
        // Of one that does not come on its first date theirs counts one more after it: begun where it first comes, both count the same.
        const begin = (count === undefined ? start : (datesFrom(start, text.replace(/;COUNT=\d+/, ""))[0] ?? start)) as CivilDay;
        const theirs = datesFrom(begin, text);
        const stamp = (date: CivilDay): string => formatCivilDay(date);
        const ours = recurrenceDates(rule, begin, begin, addDays(begin, 1500));
        return expect([text, stamp(begin), ours.map(stamp)]).toEqual([text, stamp(begin), [...new Set([begin, ...theirs])].map(stamp)]);
      }),
      { numRuns: 300 },
    );
  });

  it("counts positions from the beginning of the period, also of the first one that is begun late", () => {
    // RFC 5545, 3.3.10: "A set of recurrence instances starts at the beginning of the interval defined by the FREQ rule part." Wednesday 3 January is first.
    expect(datesOf("FREQ=WEEKLY;WKST=WE;BYDAY=MO,WE;BYSETPOS=1;COUNT=3", "1990-01-04")).toEqual(["1990-01-04", "1990-01-10", "1990-01-17"]);
    expect(datesOf("FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=2;COUNT=3", "1990-01-10")).toEqual(["1990-01-10", "1990-02-06", "1990-03-06"]);
  });

  it("passes over the time of day of a rule whose event is told in dates, and refuses it where midnights are told", () => {
    const inMidnights = { until: () => undefined, isDated: false };
    expect(parseRecurrence("FREQ=DAILY;BYHOUR=9;BYMINUTE=30")).toMatchObject({ frequency: "DAILY" });
    expect(parseRecurrence("FREQ=DAILY;BYHOUR=0;BYMINUTE=0;BYSECOND=00", inMidnights)).toMatchObject({ frequency: "DAILY" });
    expect(parseRecurrence("FREQ=DAILY;BYHOUR=0,12", inMidnights)).toMatch(/BYHOUR=0,12.*midnight/);
  });

  it.each([
    ["FREQ=SECONDLY", /FREQ=SECONDLY/],
    ["FREQ=MONTHLY;BYWEEKNO=1", /BYWEEKNO/],
    ["FREQ=YEARLY;BYWEEKNO=20;BYDAY=1MO", /BYWEEKNO/],
    ["FREQ=YEARLY;BYWEEKNO=53;INTERVAL=2", /BYWEEKNO=53.*two ways/],
    ["FREQ=YEARLY;BYWEEKNO=-1;BYDAY=MO,FR;BYSETPOS=1", /BYWEEKNO=-1.*two ways/],
    ["FREQ=YEARLY;BYWEEKNO=54", /BYWEEKNO=54/],
    ["FREQ=MONTHLY;BYDAY=6MO", /BYDAY=6MO/],
    ["FREQ=WEEKLY;BYDAY=1MO", /BYDAY=1MO/],
    ["FREQ=YEARLY;BYMONTH=13", /BYMONTH=13/],
    ["FREQ=YEARLY;COUNT=0", /COUNT=0/],
    ["FREQ=YEARLY;COUNT=2;UNTIL=20270101", /both COUNT and UNTIL/],
    ["FREQ=YEARLY;UNTIL=never", /UNTIL=NEVER/],
    ["FREQ=YEARLY;FREQ=DAILY", /twice/],
    ["FREQ=YEARLY;BYSETPOS=1", /BYSETPOS/],
    ["FREQ=WEEKLY;BYMONTHDAY=1", /BYMONTHDAY/],
    ["nonsense", /expected NAME=value/],
  ])("refuses %s by name", (text, reason) => {
    expect(parseRecurrence(text)).toEqual(expect.stringMatching(reason));
  });
});
