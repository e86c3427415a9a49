import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { CivilDay } from "@/core/time/civil-day";
import { civilDay, formatCivilDay, yearMonthDay } from "@/core/time/civil-day";
import { parseInstant } from "@/core/time/instant";
import { formsThatFit, momentText, readInForm } from "./moments";
import type { MomentForm } from "./source-profile";
import { suggestMoments } from "./suggest-field";

const from = { kind: "moment", side: "from", blocks: false } as const;
const until = { kind: "moment", side: "until", blocks: false } as const;
const vienna = "Europe/Vienna";
const read = (text: string, form: MomentForm, target: typeof from | typeof until = until) => momentText(text, form, target, vienna);
const value = (text: string, form: MomentForm, target: typeof from | typeof until = until) => {
  const found = read(text, form, target);
  return "value" in found ? found.value : `expected ${found.expected}`;
};

const anyDay = fc.integer({ min: civilDay(1, 1, 1), max: civilDay(9999, 12, 31) }) as fc.Arbitrary<CivilDay>;
const pad = (number: number, length = 2): string => String(number).padStart(length, "0");

describe("a moment as a source writes it", () => {
  it("is read in every form back to the date that it was written from, in all years", () => {
    fc.assert(
      fc.property(anyDay, fc.integer({ min: 0, max: 1439 }), fc.constantFrom(".", "/", "-", " "), (day, minute, sign) => {
        const { year, month, day: date } = yearMonthDay(day);
        const [h, m] = [Math.floor(minute / 60), minute % 60];
        const clock = `${pad(h)}:${pad(m)}`;
        const twelve = `${h % 12 === 0 ? 12 : h % 12}:${pad(m)} ${h < 12 ? "AM" : "PM"}`;
        const local = { kind: "local", date: day, minute, seconds: ":00" };
        expect(readInForm(`${formatCivilDay(day)} ${clock}`, "iso")).toEqual(local);
        expect(readInForm(`${date}${sign}${month}${sign}${pad(year, 4)} ${twelve}`, "dmy")).toEqual(local);
        expect(readInForm(`${pad(month)}${sign}${pad(date)}${sign}${pad(year, 4)}, ${clock}:00`, "mdy")).toEqual(local);
        expect(readInForm(`${pad(year, 4)}/${month}/${date} ${clock}`, "ymd")).toEqual(local);
        expect(readInForm(`${pad(year, 4)}${pad(month)}${pad(date)}T${pad(h)}${pad(m)}`, "compact")).toEqual(local);
      }),
      { numRuns: 400 },
    );
  });

  it("names months as five languages do (names of the platform's CLDR data)", () => {
    for (const language of ["en", "de", "fr", "es", "nl"])
      for (let month = 1; month <= 12; month++) {
        const name = new Intl.DateTimeFormat(language, { month: "long", timeZone: "UTC" }).format(new Date(Date.UTC(2026, month - 1, 15)));
        expect([language, name, readInForm(`7 ${name} 2026`, "dmy")]).toEqual([language, name, { kind: "date", date: civilDay(2026, month, 7) }]);
        if (language === "en") expect(readInForm(`${name.slice(0, 3)} 7, 2026`, "mdy")).toEqual({ kind: "date", date: civilDay(2026, month, 7) });
      }
    expect(readInForm("12-Jan-26", "dmy", 70)).toEqual({ kind: "date", date: civilDay(2026, 1, 12) });
    expect(readInForm("1. März 2026", "dmy")).toEqual({ kind: "date", date: civilDay(2026, 3, 1) });
  });

  it("counts seconds, milliseconds and the days of spreadsheets", () => {
    // RFC 3339, section 5.8, gives 1985-04-12T23:20:50.52Z; POSIX counts 482196050 seconds to its second.
    expect(readInForm("482196050", "epoch-seconds")).toEqual({ kind: "instant", text: "1985-04-12T23:20:50Z" });
    expect(readInForm("482196050520", "epoch-milliseconds")).toEqual({ kind: "instant", text: "1985-04-12T23:20:50.52Z" });
    // Serial 61 is 1 March 1900, 46387 is 31 December 2026 (common practice, no source); of 60 and before nobody can be sure.
    expect(readInForm("61", "serial-1900")).toEqual({ kind: "date", date: civilDay(1900, 3, 1) });
    expect(readInForm("46387.75", "serial-1900")).toEqual({ kind: "local", date: civilDay(2026, 12, 31), minute: 1080, seconds: ":00" });
    expect(readInForm("60", "serial-1900")).toBeUndefined();
    expect(readInForm("0", "serial-1904")).toEqual({ kind: "date", date: civilDay(1904, 1, 1) });
  });

  it("is one only if it fits as a whole and exists", () => {
    for (const text of [
      "2026-02-30",
      "2026-1-1",
      "x 2026-01-01",
      "2026-01-01x",
      "2026-01-01 24:00",
      "2026-01-01 7",
      "2026-01-01 13:00 PM",
      "",
      "0000-01-01",
      "10000-01-01",
    ])
      expect([text, readInForm(text, "iso")]).toEqual([text, undefined]);
    for (const text of ["31/04/2026", "1/13/2026", "01/02/26", "1/2.2026", "5", "29.2.2025"])
      expect([text, readInForm(text, "dmy")]).toEqual([text, undefined]);
  });

  it("never fails, whatever the text and form, and gives what the document takes", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.string({ unit: fc.constantFrom(..."0123456789./-: TZ+apm,") }),
          fc.constantFrom("9999-12-31 23:59", "0001-01-01 00:00", "9999-12-31T23:59:59-12:00"),
        ),
        fc.constantFrom("iso", "dmy", "mdy", "ymd", "compact", "epoch-seconds", "epoch-milliseconds", "serial-1900", "serial-1904"),
        fc.constantFrom("Europe/Vienna", "Pacific/Apia", "America/St_Johns", "Pacific/Kiritimati"),
        (text, form, zone) => {
          const found = momentText(text, { forms: [form], zone, pivot: 70, midnight: "instant" }, until, vienna);
          if ("value" in found && found.value !== null)
            expect([text, /^\d{4}-\d{2}-\d{2}$/.test(found.value) || parseInstant(found.value) !== undefined]).toEqual([text, true]);
        },
      ),
      { numRuns: 1500 },
    );
  });

  it("is on the clock of its zone, the later of two for what ends, the earlier for what begins, the other way for what shuts", () => {
    // Europe/Vienna: 2026-10-25 02:30 comes twice, at 00:30 and 01:30 UTC; 2026-03-29 02:30 never (IANA rules).
    const form: MomentForm = { forms: ["iso"] };
    expect(value("2026-10-25 02:30", form, from)).toBe("2026-10-25T00:30:00Z");
    expect(value("2026-10-25 02:30", form)).toBe("2026-10-25T01:30:00Z");
    expect(momentText("2026-10-25 02:30", form, { ...until, blocks: true }, vienna)).toEqual({ value: "2026-10-25T00:30:00Z" });
    expect(value("2026-03-29 02:30", form, from)).toBe("2026-03-29T01:00:00Z");
    expect(value("2026-07-01 08:00", { ...form, zone: "America/New_York" }, from)).toBe("2026-07-01T12:00:00Z");
    expect(value("2026-07-01T08:00:30.5+0530", form, from)).toBe("2026-07-01T02:30:30.5Z");
  });

  it("means never by its text, by its date however it is written, and from a year on", () => {
    const form: MomentForm = { forms: ["dmy"], never: ["unlimited", "31/12/2199", ""], neverFrom: 2500 };
    expect(["unlimited", "31/12/2199", "31.12.2199", "1.1.2500", "30.12.2199"].map((text) => value(text, form))).toEqual([
      null,
      null,
      null,
      null,
      "2199-12-30",
    ]);
  });

  it("asks what midnight means where it ends something", () => {
    expect(value("31.12.2026 00:00", { forms: ["dmy"] })).toMatch(/midnight/);
    expect(value("31.12.2026 00:00", { forms: ["dmy"], midnight: "date" })).toBe("2026-12-31");
    expect(value("31.12.2026 00:00", { forms: ["dmy"], midnight: "instant" })).toBe("2026-12-30T23:00:00Z");
    expect(value("31.12.2026 00:00", { forms: ["dmy"] }, from)).toBe("2026-12-30T23:00:00Z");
  });
});

describe("the form of a column", () => {
  it("is suggested where one alone fits, and asked for where day and month could be either", () => {
    expect(formsThatFit(["03/04/2026", "25/12/2026"])).toEqual(["dmy"]);
    expect(suggestMoments(["03/04/2026", "25/12/2026", "31/12/2199"], "until")).toEqual({ forms: ["dmy"], neverFrom: 2099 });
    expect(suggestMoments(["03/04/2026", "05/06/2026"], "from").forms).toEqual([]);
    // Read either way these are the same dates.
    expect(suggestMoments(["03/03/2026"], "from").forms).toEqual(["dmy"]);
    expect(suggestMoments(["01-Feb-26"], "from")).toEqual({ forms: ["dmy"], pivot: 70 });
    expect(suggestMoments(["2026-01-01", "unbefristet"], "until")).toEqual({ forms: ["iso"], never: ["unbefristet"] });
  });
});
