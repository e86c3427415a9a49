import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { verraneInstitute } from "~/demo/institute";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { usualLimits } from "@/intake/formats/limits";
import type { DocumentCalendar, DocumentDay } from "@/core/facility/document";
import { calendarOf } from "@/core/facility/time-rules";
import { addDays, civilDay, formatCivilDay } from "@/core/time/civil-day";
import type { CalendarReading } from "./read-calendar";
import { CalendarFileError, readCalendars } from "./read-calendar";
import { writeCalendar } from "./write-calendar";

const none = { id: "file", name: "File" };
const reading = (more: Partial<CalendarReading> = {}): CalendarReading => ({
  otherwise: none,
  year: 2026,
  timeZone: "Europe/Vienna",
  limits: usualLimits,
  ...more,
});
/** A file of one calendar. */
function read(text: string, year = 2026, more: Partial<CalendarReading> = {}) {
  const { calendars, refused } = readCalendars(text, reading({ year, ...more }));
  const [one, ...others] = calendars;
  if (!one || others.length > 0) throw new Error(`${calendars.length} calendars`);
  return { calendar: one.calendar, refused };
}
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
    expect(read(text, 2026, { dayTypes: { "Works outing": "company", constructor: "x" } }).calendar.days?.map(({ name, dayType }) => [name, dayType])).toEqual([
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
    expect(refused.map(({ number, name, reason }) => [number, name, /time of day|no DTSTART/.test(reason)])).toEqual([
      [1, "Meeting", true],
      [3, "Never", true],
    ]);
    expect(() => read("hello")).toThrow(/no iCalendar/);
    expect(() => read("BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n")).toThrow(/line 2: it has no END:VEVENT/);
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
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nSUMMARY:S\nRRULE:FREQ=YEARLY;INTERVAL=2;BYWEEKNO=1;BYDAY=MO")).toMatch(/BYWEEKNO=1.*two ways/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nSUMMARY:S\nRRULE:FREQ=HOURLY")).toMatch(/FREQ=HOURLY/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nSUMMARY:S\nEXRULE:FREQ=MONTHLY")).toMatch(/EXRULE/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nSUMMARY:S\nRDATE;VALUE=PERIOD:20260301T000000Z/P1D")).toMatch(/RDATE/);
    expect(reasonOf("UID:z\nRECURRENCE-ID;RANGE=THISANDFUTURE;VALUE=DATE:20260105\nDTSTART;VALUE=DATE:20260105\nSUMMARY:S")).toMatch(/RANGE/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260230\nSUMMARY:S")).toMatch(/no date that exists/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260105\nDTEND;VALUE=DATE:20260101\nSUMMARY:S")).toMatch(/before its DTSTART/);
    // The twentieth Monday of the year is one (RFC 5545, 3.8.5.3: 1997-05-19, 1998-05-18, 1999-05-17).
    expect(read(file("DTSTART;VALUE=DATE:19970519\nSUMMARY:S\nRRULE:FREQ=YEARLY;BYDAY=20MO;COUNT=3"), 1997).calendar.days?.map(({ on }) => on)).toEqual([
      "1997-05-19",
      "1998-05-18",
      "1999-05-17",
    ]);
  });

  it("takes one calendar with something in it, with or without a byte order mark", () => {
    const one = file("DTSTART;VALUE=DATE:20260301\nSUMMARY:S");
    expect(read(`\uFEFF${one}`).calendar.days).toHaveLength(1);
    expect(() => read("")).toThrow(/empty/);
    expect(() => read("\uFEFF \r\n")).toThrow(/empty/);
    expect(() => read(file())).toThrow(/no VEVENT/);
    expect(() => read(file("DTSTART:20260301T090000Z\nSUMMARY:Meeting"))).toThrow(/event 1 \(Meeting\) on line 4: .*time of day/);
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

  it("reads what lasts from midnight to midnight on one clock as whole days, whichever way it is written", () => {
    const day = [{ name: "S", dayType: "public", on: "2026-05-01" }];
    expect(days("DTSTART;TZID=Europe/Vienna:20260501T000000\nDTEND;TZID=Europe/Vienna:20260502T000000\nSUMMARY:S")).toEqual(day);
    expect(days("DTSTART:20260501T000000\nDURATION:P1D\nSUMMARY:S")).toEqual(day);
    // A date can be nothing else, also where nobody says that it is one.
    expect(days("DTSTART:20260501\nSUMMARY:S")).toEqual(day);
    // Midnight of UTC is told on the clock that the calendar names, else on the facility's.
    const utc = file("DTSTART:20260430T220000Z\nDTEND:20260501T220000Z\nSUMMARY:S");
    expect(read(utc).calendar.days).toEqual(day);
    expect(() => read(utc, 2026, { timeZone: "UTC" })).toThrow(/time of day/);
    expect(read(utc.replace("PRODID", "X-WR-TIMEZONE:Europe/Paris\r\nPRODID"), 2026, { timeZone: "UTC" }).calendar.days).toEqual(day);
    // Over the change of the clock a day is as many hours as it has: 2026-03-29 in Vienna has 23 (IANA).
    expect(days("DTSTART:20260328T230000Z\nDTEND:20260329T220000Z\nSUMMARY:S")).toEqual([{ name: "S", dayType: "public", on: "2026-03-29" }]);
    const until = (text: string) =>
      days(`DTSTART;TZID=Europe/Vienna:20260501T000000\nDTEND;TZID=Europe/Vienna:20260502T000000\nSUMMARY:S\nRRULE:FREQ=DAILY;UNTIL=${text}`);
    // The instance of the 3rd begins at 22:00 UTC of the 2nd.
    expect(until("20260502T220000Z")?.map(({ on }) => on)).toEqual(["2026-05-01", "2026-05-02", "2026-05-03"]);
    expect(until("20260502T215900Z")?.map(({ on }) => on)).toEqual(["2026-05-01", "2026-05-02"]);
    const reasonOf = (event: string) => read(file("DTSTART;VALUE=DATE:20260101\nSUMMARY:Other", event)).refused[0]?.reason;
    expect(reasonOf("DTSTART:20260501T000000\nDTEND:20260501T120000\nSUMMARY:Half")).toMatch(/time of day/);
    expect(reasonOf("DTSTART:20260501T000000\nSUMMARY:No time at all")).toMatch(/time of day/);
    expect(reasonOf("DTSTART;TZID=Europe/Vienna:20260501T000000\nDTEND;TZID=Asia/Tokyo:20260502T000000")).toMatch(/time of day/);
    expect(reasonOf("DTSTART;TZID=Some Standard Time:20260501T000000\nDURATION:P1D\nRRULE:FREQ=DAILY;UNTIL=20260601T000000Z")).toMatch(/Some Standard Time/);
    expect(reasonOf("DTSTART:20260501T000000\nDURATION:PT24H")).toMatch(/DURATION is PT24H/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260501\nEXDATE:20260501T000000Z\nRRULE:FREQ=YEARLY")).toMatch(/EXDATE/);
    expect(reasonOf("DTSTART;VALUE=DATE:20260501\nDTSTART;VALUE=DATE:20260601")).toMatch(/DTSTART twice/);
  });

  it("adds dates and periods, takes dates away however they are written, and puts several rules together", () => {
    const dates = (text: string) => days(`SUMMARY:S\n${text}`)?.map(({ on, from, to }) => on ?? `${from}/${to}`);
    expect(dates("DTSTART;VALUE=DATE:20260105\nRDATE;VALUE=DATE:20260301,20260105,20260201\nEXDATE;VALUE=DATE:20260301")).toEqual(["2026-01-05", "2026-02-01"]);
    expect(
      dates(
        "DTSTART;TZID=Europe/Vienna:20260105T000000\nDURATION:P1D\nRDATE;TZID=Europe/Vienna;VALUE=PERIOD:20260301T000000/P3D,20260401T000000/20260403T000000",
      ),
    ).toEqual(["2026-01-05", "2026-03-01/2026-03-03", "2026-04-01/2026-04-02"]);
    expect(dates("DTSTART;VALUE=DATE:20260105\nRRULE:FREQ=DAILY;COUNT=3\nEXDATE:20260106T000000")).toEqual(["2026-01-05", "2026-01-07"]);
    expect(dates("DTSTART;VALUE=DATE:20260105\nRRULE:FREQ=DAILY;COUNT=2\nRRULE:FREQ=MONTHLY;COUNT=2")).toEqual(["2026-01-05", "2026-01-06", "2026-02-05"]);
    // RFC 5545, 3.8.5.3: Monday of week number 20.
    expect(
      read(file("DTSTART;VALUE=DATE:19970512\nSUMMARY:S\nRRULE:FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO;COUNT=3"), 1997).calendar.days?.map(({ on }) => on),
    ).toEqual(["1997-05-12", "1998-05-11", "1999-05-17"]);
  });

  it("refuses a malformed event with its line, and reads the others; what else a file holds is counted", () => {
    const text = file(
      "SUMMARY:One\nDTSTART;VALUE=DATE:20260101",
      "SUMMARY:Bad line\nDTSTART;VALUE=DATE:20260102\nnonsense",
      "SUMMARY:Three\nDTSTART;VALUE=DATE:20260103",
    );
    const { calendar, refused } = read(text);
    expect(calendar.days?.map(({ name }) => name)).toEqual(["One", "Three"]);
    expect(refused).toEqual([{ number: 2, line: 15, name: "Bad line", reason: expect.stringMatching(/^line 15 is "nonsense"/) }]);
    // An event without an end of its own takes nothing of the next one.
    const cut = read(text.replace("END:VEVENT", "X-OTHER:1"));
    expect([cut.calendar.days?.map(({ name }) => name), cut.refused.map(({ line, reason }) => [line, /END:VEVENT|nonsense/.test(reason)])]).toEqual([
      ["Three"],
      [
        [4, true],
        [15, true],
      ],
    ]);
    // A file that is cut off after an event says so.
    expect(read(text.replace("END:VCALENDAR\r\n", "")).refused.at(-1)?.reason).toMatch(/ends before END:VCALENDAR/);
    // An alarm's lines are not the event's, a zone's not the calendar's; to-dos are counted.
    const alarm = "BEGIN:VALARM\nACTION:DISPLAY\nDESCRIPTION:Wake\nTRIGGER:-PT1H\nDURATION:PT15M\nREPEAT:2\nEND:VALARM";
    const zone =
      "BEGIN:VTIMEZONE\r\nTZID:X\r\nBEGIN:STANDARD\r\nDTSTART:16010101T030000\r\nRRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=10\r\nEND:STANDARD\r\nEND:VTIMEZONE";
    const more = file(`SUMMARY:One\nDTSTART;VALUE=DATE:20260101\n${alarm}`).replace(
      "BEGIN:VEVENT",
      `${zone}\r\nBEGIN:VTODO\r\nSUMMARY:Buy\r\nEND:VTODO\r\nBEGIN:VEVENT`,
    );
    const { calendars, others } = readCalendars(more, reading());
    expect([calendars[0]?.calendar.days, [...others]]).toEqual([[{ name: "One", dayType: "public", on: "2026-01-01" }], [["VTODO", 1]]]);
    // Lines that end in other ways, and folds by a tab.
    for (const end of ["\n", "\r"]) expect(read(text.replaceAll("\r\n", end)).calendar.days).toHaveLength(2);
    expect(read(file("SUMMARY:Fol\n\tded\nDTSTART;VALUE=DATE:20260101")).calendar.days?.[0]?.name).toBe("Folded");
  });

  it("takes several calendars of a file as several, each by its own name, and those of one name apart", () => {
    const one = (name: string, date: string) => file(`SUMMARY:S\nDTSTART;VALUE=DATE:${date}`).replace("PRODID", `X-WR-CALNAME:${name}\r\nPRODID`);
    const { calendars } = readCalendars(
      one("Garden", "20260101") + one("Island", "20260102") + file("SUMMARY:Off\nDTSTART;VALUE=DATE:20260103\nSTATUS:CANCELLED"),
      reading(),
    );
    expect(calendars.map(({ calendar: { id, name, days: found } }) => [id, name, found?.map(({ on }) => on)])).toEqual([
      ["file", "Garden", ["2026-01-01"]],
      ["file-2", "Island", ["2026-01-02"]],
    ]);
  });

  it("keeps the n-th weekday of a month as a rule, however a file says it, and only where it always is one", () => {
    const said = (rule: string, start: string) => days(`DTSTART;VALUE=DATE:${start}\nSUMMARY:S\nRRULE:FREQ=YEARLY;${rule}`)?.[0];
    const fourth = { nth: { month: 11, weekday: "thu", n: 4 } };
    for (const rule of ["BYMONTH=11;BYDAY=4TH", "BYMONTH=11;BYDAY=TH;BYSETPOS=4", "BYMONTH=11;BYDAY=TH;BYMONTHDAY=22,23,24,25,26,27,28"])
      expect([rule, said(rule, "20201126")]).toEqual([rule, { name: "S", dayType: "public", ...fourth }]);
    expect(said("BYMONTH=5;BYDAY=MO;BYMONTHDAY=25,26,27,28,29,30,31", "20200525")).toMatchObject({ nth: { month: 5, weekday: "mon", n: -1 } });
    expect(said("BYMONTH=5;BYDAY=MO;BYMONTHDAY=-1,-2,-3,-4,-5,-6,-7", "20200525")).toMatchObject({ nth: { month: 5, weekday: "mon", n: -1 } });
    // One day fewer, and it is not there in some years; begun on another date, it has one more.
    expect(said("BYMONTH=5;BYDAY=MO;BYMONTHDAY=26,27,28,29,30,31", "20210531")).toMatchObject({ on: "2025-05-26" });
    expect(said("BYMONTH=11;BYDAY=4TH", "20200109")).toMatchObject({ on: "2025-11-27" });
  });

  it("names what is spelled out, and whether it goes on after the last date that is read", () => {
    const { calendars, readTo } = readCalendars(
      file(
        "SUMMARY:For good\nDTSTART;VALUE=DATE:20200501\nRRULE:FREQ=YEARLY",
        "SUMMARY:Second Friday\nDTSTART;VALUE=DATE:20200110\nRRULE:FREQ=MONTHLY;BYDAY=2FR",
        "SUMMARY:Thrice\nDTSTART;VALUE=DATE:20260110\nRRULE:FREQ=DAILY;COUNT=3",
        "SUMMARY:Begun before\nDTSTART;VALUE=DATE:20230406\nRRULE:FREQ=YEARLY;COUNT=5",
        "SUMMARY:Long after\nDTSTART;VALUE=DATE:20230406\nRRULE:FREQ=YEARLY;COUNT=50",
      ),
      reading(),
    );
    expect(calendars[0]?.spelledOut).toEqual([
      { name: "Second Friday", entries: 144, goesOn: true },
      { name: "Thrice", entries: 3, goesOn: false },
      { name: "Begun before", entries: 3, goesOn: false },
      { name: "Long after", entries: 12, goesOn: true },
    ]);
    expect(formatCivilDay(readTo)).toBe("2036-12-31");
  });

  it("reads or refuses by name whatever stands in a file, and never fails otherwise", () => {
    const whole = file(
      "UID:a\nSUMMARY:One\nDTSTART;VALUE=DATE:20260101\nRRULE:FREQ=YEARLY;BYDAY=2MO;BYMONTH=5\nEXDATE;VALUE=DATE:20270101",
      'UID:b\nSUMMARY:Two\nDTSTART;TZID=Europe/Vienna:20260501T000000\nDURATION:P2D\nRDATE;VALUE=PERIOD:20260601T000000/P1D\nX-NOMADE-RULE:{"easter":1}',
      "UID:a\nRECURRENCE-ID;VALUE=DATE:20280101\nSUMMARY:Moved\nDTSTART;VALUE=DATE:20280102\nX-NOMADE-PRIORITY:3",
    );
    const pieces = [
      "\r\n",
      ";",
      ":",
      '"',
      "BEGIN:VEVENT",
      "END:VEVENT",
      "END:VCALENDAR",
      "20261332",
      "T000000Z",
      "VALUE=DATE",
      "-1",
      "9999",
      "0",
      "__proto__",
      "\u0000",
      "RRULE:",
      "\ud800",
    ];
    const cut = fc.tuple(fc.nat(whole.length), fc.nat(30), fc.oneof(fc.constantFrom(...pieces), fc.string({ maxLength: 12 })));
    fc.assert(
      fc.property(fc.array(cut, { minLength: 1, maxLength: 6 }), (cuts) => {
        const text = cuts.reduce((before, [at, length, put]) => before.slice(0, at) + put + before.slice(at + length), whole);
        try {
          const { calendars, refused } = readCalendars(text, reading());
          // What is read can be taken in.
          for (const { calendar } of calendars) expect(() => calendarOf(calendar)).not.toThrow();
          for (const { line, reason } of refused) expect([line > 0, reason !== ""]).toEqual([true, true]);
        } catch (error) {
          if (!(error instanceof CalendarFileError)) throw error;
        }
      }),
      { numRuns: 1500 },
    );
  });
});
