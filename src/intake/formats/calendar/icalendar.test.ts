import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { verraneInstitute } from "~/demo/institute";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import type { DocumentCalendar, DocumentDay } from "@/core/facility/document";
import { calendarOf } from "@/core/facility/time-rules";
import { addDays, civilDay, formatCivilDay } from "@/core/time/civil-day";
import { readCalendar, writeCalendar } from "./icalendar";

const none = { id: "file", name: "File" };
const read = (text: string, year = 2026) => readCalendar(text, none, year);
const file = (...events: readonly string[]): string =>
  [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//test//EN",
    ...events.flatMap((lines) => ["BEGIN:VEVENT", "UID:x", "DTSTAMP:20260101T000000Z", ...lines.split("\n"), "END:VEVENT"]),
    "END:VCALENDAR",
    "",
  ].join("\r\n");
const days = (...events: readonly string[]) => read(file(...events)).calendar.days;

/** Dates of some years that entries cover, as other programs would read them: our own rule is taken away first. */
function datesAsOthersRead(day: DocumentDay, years: readonly number[]): string[] {
  const text = writeCalendar({ id: "c", name: "C", days: [day] }, years[0] ?? 2026).replace(/X-NOMADE-RULE:.*(\r\n[ \t].*)*\r\n/, "");
  const calendar = calendarOf(read(text, years[0]).calendar);
  return datesOf(calendar, years);
}
function datesOf(calendar: ReturnType<typeof calendarOf>, years: readonly number[]): string[] {
  const found: string[] = [];
  for (let date = civilDay(years[0] ?? 0, 1, 1); date < civilDay((years[years.length - 1] ?? 0) + 1, 1, 1); date = addDays(date, 1))
    if (calendar.read(date)) found.push(formatCivilDay(date));
  return found;
}

describe("a holiday calendar as iCalendar", () => {
  it("gives each event the day type that it is given, else its own category, else public", () => {
    const text = file(
      "SUMMARY:Harvest\nDTSTART;VALUE=DATE:20260901\nCATEGORIES:season",
      "SUMMARY:New Year\nDTSTART;VALUE=DATE:20260101\nRRULE:FREQ=YEARLY",
      "SUMMARY:Works outing\nDTSTART;VALUE=DATE:20260603",
    );
    expect(readCalendar(text, none, 2026, { "Works outing": "company", constructor: "x" }).calendar.days?.map(({ name, dayType }) => [name, dayType])).toEqual([
      ["Harvest", "season"],
      ["New Year", "public"],
      ["Works outing", "company"],
    ]);
  });

  it("reads back as it was, whatever its rules", () => {
    for (const calendar of verraneInstitute({ cardholders: 60, doors: 95, seed: 7 }).calendars ?? [])
      expect(read(writeCalendar(calendar, 2026))).toEqual({ calendar, refused: [] });
    fc.assert(
      fc.property(arbitraryFacility, fc.constantFrom(0, -2000, -1600, 7600, 7973), (drawn, years) => {
        const shifted = JSON.stringify(drawn.calendars ?? []).replace(
          /"(\d{4})-(\d\d-\d\d)"/g,
          (_, year: string, day: string) => `"${String(Math.min(9999, Number(year) + years)).padStart(4, "0")}-${day === "02-29" ? "02-28" : day}"`,
        );
        const draft = { calendars: JSON.parse(shifted) as DocumentCalendar[] };
        // An entry that covers no date at all, such as a span that runs backwards, has no event to stand for it.
        for (const calendar of draft.calendars ?? []) {
          const kept = {
            ...calendar,
            days: (calendar.days ?? [])
              .filter((day) => !(day.from !== undefined && day.to !== undefined && day.from > day.to) && !(day.nth?.n === 5))
              .map(({ priority, ...day }) => (priority === undefined || priority === 0 ? day : { ...day, priority })),
          };
          if (kept.days.length === 0) continue;
          const back = read(writeCalendar(kept, 2026 + years)).calendar.days;
          expect(back?.map(({ priority, ...day }) => ({ ...day, ...(priority !== undefined && { priority }) }))).toEqual(kept.days);
        }
      }),
      { numRuns: 60 },
    );
    // To the last date that can be written, after which no end stands; and in the first year.
    const edges: readonly DocumentDay[] = [
      { name: "Last", dayType: "public", on: "9999-12-31" },
      { name: "Last days", dayType: "public", from: "9999-12-30", to: "9999-12-31" },
      { name: "Turn", dayType: "company", yearlyFrom: "12-30", yearlyTo: "01-02" },
      { name: "Leap day", dayType: "odd", yearly: "02-29" },
      { name: "First", dayType: "public", on: "0001-01-01" },
    ];
    for (const year of [1, 999, 9998, 9999])
      expect(read(writeCalendar({ id: "c", name: "C", days: edges }, year))).toEqual({ calendar: { id: "c", name: "C", days: edges }, refused: [] });
  });

  it("says to others the same dates, for the years that are written out", () => {
    const years = [2026, 2027, 2028, 2029, 2030];
    const rules: readonly DocumentDay[] = [
      { name: "Good Friday", dayType: "public", easter: -2 },
      { name: "Labour Day", dayType: "public", yearly: "05-01" },
      { name: "Leap day", dayType: "odd", yearly: "02-29" },
      { name: "Closing", dayType: "company", yearlyFrom: "12-24", yearlyTo: "12-31" },
      { name: "Turn of the year", dayType: "company", yearlyFrom: "12-30", yearlyTo: "01-02" },
      { name: "Last Monday", dayType: "public", nth: { month: 5, weekday: "mon", n: -1 } },
      { name: "Fourth Thursday", dayType: "public", nth: { month: 11, weekday: "thu", n: 4 } },
      { name: "Planting", dayType: "company", from: "2026-04-01", to: "2026-04-03" },
      { name: "Once", dayType: "public", on: "2027-03-09" },
    ];
    for (const rule of rules)
      expect([rule.name, datesAsOthersRead(rule, years)]).toEqual([rule.name, datesOf(calendarOf({ id: "c", name: "C", days: [rule] }), years)]);
  });

  it("takes examples of RFC 5545 as they are meant", () => {
    // 3.6.1: an anniversary, all day and every year; and a party of several days, DTEND not included.
    expect(
      days(
        "DTSTART;VALUE=DATE:19971102\nSUMMARY:Our Blissful Anniversary\nTRANSP:TRANSPARENT\nCATEGORIES:ANNIVERSARY,PERSONAL,SPECIAL OCCASION\nRRULE:FREQ=YEARLY",
      ),
    ).toEqual([{ name: "Our Blissful Anniversary", dayType: "ANNIVERSARY", yearly: "11-02" }]);
    expect(days("DTSTART;VALUE=DATE:20070628\nDTEND;VALUE=DATE:20070709\nSUMMARY:Festival International de Jazz de Montreal\nTRANSP:TRANSPARENT")).toEqual([
      { name: "Festival International de Jazz de Montreal", dayType: "public", from: "2007-06-28", to: "2007-07-08" },
    ]);
    // 3.8.5.3, as all-day events: the last Sunday of October and the first of April, every year.
    expect(days("DTSTART;VALUE=DATE:19971026\nSUMMARY:S\nRRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=10")).toEqual([
      { name: "S", dayType: "public", nth: { month: 10, weekday: "sun", n: -1 } },
    ]);
    // 3.1: a long line is folded, the fold being no part of the text.
    expect(days("DTSTART;VALUE=DATE:20260301\nSUMMARY:A very lo\n ng name\\, folded")?.[0]?.name).toBe("A very long name, folded");
  });

  it("reads recurrence that no rule says as the dates that it comes to, without those that are excepted", () => {
    expect(days("DTSTART;VALUE=DATE:20260301\nSUMMARY:S\nRRULE:FREQ=YEARLY;COUNT=3\nEXDATE;VALUE=DATE:20270301")).toEqual(
      ["2026-03-01", "2028-03-01"].map((on) => ({ name: "S", dayType: "public", on })),
    );
    expect(days("DTSTART;VALUE=DATE:20260105\nDTEND;VALUE=DATE:20260107\nSUMMARY:S\nRRULE:FREQ=MONTHLY;COUNT=2")).toEqual([
      { name: "S", dayType: "public", from: "2026-01-05", to: "2026-01-06" },
      { name: "S", dayType: "public", from: "2026-02-05", to: "2026-02-06" },
    ]);
  });

  it("refuses what is no holiday, each event with its place and reason, and a file that is no calendar at all", () => {
    const { calendar, refused } = read(file("DTSTART:20260301T090000Z\nSUMMARY:Meeting", "DTSTART;VALUE=DATE:20260302\nSUMMARY:Day", "SUMMARY:Never"));
    expect(calendar.days?.map(({ name }) => name)).toEqual(["Day"]);
    expect(refused.map(({ number, name, reason }) => [number, name, /all-day|no DTSTART/.test(reason)])).toEqual([
      [1, "Meeting", true],
      [3, "Never", true],
    ]);
    expect(() => read("hello")).toThrow(/no iCalendar/);
    expect(() => read("BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n")).toThrow(/iCalendar|VCALENDAR/);
    expect(() => read("BEGIN:VCARD\r\nEND:VCARD\r\n")).toThrow(/VCARD/);
  });

  it("leaves out what was called off, moved or excepted, and reads what somebody edited as edited", () => {
    const yearly = "UID:y\nDTSTART;VALUE=DATE:20260601\nSUMMARY:Fair\nRRULE:FREQ=YEARLY";
    expect(days("DTSTART;VALUE=DATE:20260301\nSUMMARY:Off\nSTATUS:CANCELLED", "DTSTART;VALUE=DATE:20260302\nSUMMARY:On")).toEqual([
      { name: "On", dayType: "public", on: "2026-03-02" },
    ]);
    const moved = (
      days(
        yearly,
        "UID:y\nRECURRENCE-ID;VALUE=DATE:20270601\nDTSTART;VALUE=DATE:20270608\nSUMMARY:Fair, later",
        "UID:y\nRECURRENCE-ID;VALUE=DATE:20280601\nDTSTART;VALUE=DATE:20280601\nSUMMARY:Fair\nSTATUS:CANCELLED",
      ) ?? []
    ).map(({ on }) => on);
    expect(moved.slice(0, 4)).toEqual(["2026-06-01", "2029-06-01", "2030-06-01", "2031-06-01"]);
    expect(moved.at(-1)).toBe("2027-06-08");
    expect(days(`${yearly}\nEXDATE;VALUE=DATE:20260601`)?.[0]).toEqual({ name: "Fair", dayType: "public", on: "2027-06-01" });
    const written = writeCalendar({ id: "c", name: "C", days: [{ name: "Easter Monday", dayType: "public", easter: 1 }] }, 2026);
    expect(read(written).calendar.days).toEqual([{ name: "Easter Monday", dayType: "public", easter: 1 }]);
    expect(read(written.replace("DTSTART;VALUE=DATE:20260406", "DTSTART;VALUE=DATE:20260407")).calendar.days?.[0]).toEqual({
      name: "Easter Monday",
      dayType: "public",
      on: "2026-04-07",
    });
  });

  it("begins a rule where the event begins: a later one becomes dates", () => {
    expect(days("DTSTART;VALUE=DATE:20300501\nSUMMARY:S\nRRULE:FREQ=YEARLY")?.map(({ on }) => on)).toEqual([
      "2030-05-01",
      "2031-05-01",
      "2032-05-01",
      "2033-05-01",
      "2034-05-01",
      "2035-05-01",
      "2036-05-01",
    ]);
  });

  it("refuses by name what is not read exactly", () => {
    const reasonOf = (event: string) => read(file("DTSTART;VALUE=DATE:20260101\nSUMMARY:Other", event)).refused[0]?.reason;
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nSUMMARY:S\nRRULE:FREQ=MONTHLY;BYDAY=20MO")).toMatch(/BYDAY=20MO.*5th/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nSUMMARY:S\nRRULE:FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO")).toMatch(/BYWEEKNO/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nSUMMARY:S\nRRULE:FREQ=HOURLY")).toMatch(/FREQ=HOURLY/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nSUMMARY:S\nRRULE:FREQ=YEARLY\nRRULE:FREQ=MONTHLY")).toMatch(/2 RRULEs/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nSUMMARY:S\nRDATE;VALUE=PERIOD:20260301T000000Z/P1D")).toMatch(/RDATE/);
    expect(reasonOf("UID:z\nRECURRENCE-ID;RANGE=THISANDFUTURE;VALUE=DATE:20260105\nDTSTART;VALUE=DATE:20260105\nSUMMARY:S")).toMatch(/RANGE/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260230\nSUMMARY:S")).toMatch(/no date that exists/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nDTEND;VALUE=DATE:20260101\nSUMMARY:S")).toMatch(/before its DTSTART/);
    // The twentieth Monday of the year is one (RFC 5545, 3.8.5.3: 1997-05-19, 1998-05-18, 1999-05-17).
    expect(
      readCalendar(file("DTSTART;VALUE=DATE:19970519\nSUMMARY:S\nRRULE:FREQ=YEARLY;BYDAY=20MO;COUNT=3"), none, 1997).calendar.days?.map(({ on }) => on),
    ).toEqual(["1997-05-19", "1998-05-18", "1999-05-17"]);
  });

  it("takes one calendar with something in it, with or without a byte order mark", () => {
    const one = file("DTSTART;VALUE=DATE:20260301\nSUMMARY:S");
    expect(read(`\uFEFF${one}`).calendar.days).toHaveLength(1);
    expect(() => read(one + one)).toThrow(/2 calendars; expected one/);
    expect(() => read("")).toThrow(/empty/);
    expect(() => read("\uFEFF \r\n")).toThrow(/empty/);
    expect(() => read(file())).toThrow(/no VEVENT/);
    expect(() => read(file("DTSTART:20260301T090000Z\nSUMMARY:Meeting"))).toThrow(/event 1 \(Meeting\).*all-day/);
    expect(() => read(file("DTSTART;VALUE=DATE:20260301\nSUMMARY:S\nSTATUS:CANCELLED"))).toThrow(/called off/);
  });

  it("names its limits, and reads a rule from the year 1 as soon as any", () => {
    expect(days("DTSTART;VALUE=DATE:00010101\nSUMMARY:S\nRRULE:FREQ=DAILY")).toHaveLength(12 * 365 + 3);
    expect(() => read(file(...Array.from({ length: 20 }, () => "DTSTART;VALUE=DATE:20200101\nSUMMARY:S\nRRULE:FREQ=DAILY")))).toThrow(
      /more than 50,000 entries/,
    );
    expect(() =>
      read(file(...Array.from({ length: 4 }, () => "DTSTART;VALUE=DATE:00010101\nSUMMARY:S\nRRULE:FREQ=YEARLY;COUNT=9999;BYMONTH=2;BYMONTHDAY=30"))),
    ).toThrow(/2,000,000 days/);
    expect(() => read(`BEGIN:VCALENDAR\r\nX:${"y".repeat(20_000_001)}`)).toThrow(/20,000,000/);
  });
});
