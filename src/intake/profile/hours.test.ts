import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { weekdays } from "@/core/time/civil-day";
import { readCardNumber } from "./card-numbers";
import { readClock, readHours, readWeekdays } from "./hours";
import { idFromName, partOf, patternPieces, turnedName } from "./text-parts";

describe("hours as a source writes them", () => {
  it("are times of day in all spellings", () => {
    expect(["7:00", "07:00:00", "0700", "7.00", "07:00 AM", "7h", "7 am", "7h00"].map((text) => readClock(text, false))).toEqual(Array<number>(8).fill(420));
    expect(["12:00 AM", "12:00 PM", "12:59 am", "11:59 PM"].map((text) => readClock(text, false))).toEqual([0, 720, 59, 1439]);
    expect([readClock("24:00", true), readClock("24:00", false)]).toEqual([1440, undefined]);
    for (const text of ["7", "25:00", "7:60", "13:00 PM", "0 am", "", "700", "07:00:30", "-7:00"])
      expect([text, readClock(text, true)]).toEqual([text, undefined]);
  });

  it("are several intervals, with words for all day and never, ends included or not", () => {
    const form = { allDay: ["24h"], never: ["closed"] };
    expect(readHours("07:00-12:00, 13:00–18:00", form)).toEqual({
      intervals: [
        ["07:00", "12:00"],
        ["13:00", "18:00"],
      ],
    });
    expect(readHours("7:00 AM to 6:00 PM", form)).toEqual({ intervals: [["07:00", "18:00"]] });
    expect(readHours("24h", form)).toEqual({ intervals: [["00:00", "24:00"]] });
    expect(readHours("closed", form)).toEqual({ intervals: [undefined] });
    // 00:00–23:59 for a whole day: common practice, no source.
    expect(readHours("00:00-23:59", { endsIncluded: true })).toEqual({ intervals: [["00:00", "24:00"]] });
    expect(readHours("22:00-06:00", {})).toHaveProperty("expected");
    expect(readHours("22:00-06:00", { backwards: "overnight" })).toEqual({ intervals: [["22:00", "06:00"]] });
    expect(readHours("23:59-00:00", { backwards: "overnight", backwardTexts: { "23:59-00:00": "never" } })).toEqual({ intervals: [undefined] });
    for (const text of ["07:00", "07:00-", "a-b", "07:00-18:00-19:00"])
      expect([text, "expected" in readHours(text, { backwards: "overnight" })]).toEqual([text, true]);
  });

  it("stand on weekdays by name in five languages, by number, and in spans", () => {
    for (const language of ["en", "de", "fr", "es", "nl"])
      for (const [at, day] of weekdays.entries()) {
        const name = new Intl.DateTimeFormat(language, { weekday: "long", timeZone: "UTC" }).format(new Date(Date.UTC(2026, 0, 5 + at)));
        expect([language, name, readWeekdays(name, undefined)]).toEqual([language, name, [day]]);
      }
    expect(readWeekdays("Mon-Fri", undefined)).toEqual(["mon", "tue", "wed", "thu", "fri"]);
    expect(readWeekdays("Fr–Mo", undefined)).toEqual(["mon", "fri", "sat", "sun"]);
    expect(readWeekdays("Sat, Sun", undefined)).toEqual(["sat", "sun"]);
    expect(readWeekdays("1", { monday: 1, sunday: 7 })).toEqual(["mon"]);
    expect(readWeekdays("0", { monday: 1, sunday: 0 })).toEqual(["sun"]);
    expect(readWeekdays("1", { monday: 2, sunday: 1 })).toEqual(["sun"]);
    expect(readWeekdays("7", { monday: 2, sunday: 1 })).toEqual(["sat"]);
    expect([readWeekdays("8", { monday: 1, sunday: 7 }), readWeekdays("7", { monday: 1, sunday: 0 }), readWeekdays("someday", undefined)]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });

  it("never fail, whatever the text", () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.string({ unit: fc.constantFrom(..."0123456789:.-– apmto,;") })), (text) => {
        readHours(text, { backwards: "overnight" });
        readWeekdays(text, { monday: 1, sunday: 7 });
        readClock(text, true);
      }),
      { numRuns: 1000 },
    );
  });
});

describe("card numbers", () => {
  it("are read from hexadecimal digits, from code and number, and from one number of 26 bits", () => {
    expect(readCardNumber("0x12A7", "hexadecimal")).toEqual({ number: "4775" });
    expect(readCardNumber("FF FF FF FF FF FF FF FF", "hexadecimal")).toEqual({ number: "18446744073709551615" });
    expect(readCardNumber("012-04711", "code-and-number")).toEqual({ facilityCode: "12", number: "4711" });
    // The open 26-bit format: 8 bits of facility code, 16 bits of number (common practice, no source).
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 255 }), fc.integer({ min: 0, max: 65_535 }), (code, number) =>
        expect(readCardNumber(String(code * 65_536 + number), "26-bit")).toEqual({ facilityCode: String(code), number: String(number) }),
      ),
    );
    expect([readCardNumber("16777216", "26-bit"), readCardNumber("xyz", "hexadecimal"), readCardNumber("4711", "code-and-number")]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
    expect(readCardNumber("0012", undefined)).toEqual({ number: "0012" });
  });
});

describe("parts of texts", () => {
  it("are taken between signs, by place, and by a pattern that fits as a whole", () => {
    expect(partOf("a / b / c", { delimiter: "/", nth: 2 })).toBe("b");
    expect(partOf("a / b / c", { delimiter: "/", nth: -1 })).toBe("c");
    expect(partOf("a", { delimiter: "/", nth: 2 })).toBeUndefined();
    expect(partOf("🌱bcd", { from: 2, to: 3 })).toBe("bc");
    expect(partOf("Card 4711 (issue 2)", { pattern: "Card {part} (issue {*})" })).toBe("4711");
    expect(partOf("cn=Iris Almondfeld,ou=Press,dc=orchard", { pattern: "cn={part},{*}" })).toBe("Iris Almondfeld");
    expect(partOf("Fob 4711", { pattern: "Card {part}" })).toBeUndefined();
    expect([patternPieces("{part}{*}"), patternPieces("x"), patternPieces("{part}{part}")].map((pieces) => typeof pieces)).toEqual([
      "string",
      "string",
      "string",
    ]);
  });

  it("read a text that was made by a pattern back, in one pass however long", () => {
    const plain = fc.string({ unit: fc.constantFrom(..."abc123 ") });
    fc.assert(fc.property(plain, plain, (part, rest) => expect(partOf(`[${part}] ${rest}!`, { pattern: "[{part}] {*}!" })).toBe(part.trim())));
    const long = "a".repeat(500_000);
    expect(partOf(long, { pattern: "a{part}b{*}c{*}d" })).toBeUndefined();
  });

  it("turn names round, and make ids of them", () => {
    expect([turnedName("Almondfeld, Iris"), turnedName("Iris"), turnedName("a, b, c")]).toEqual(["Iris Almondfeld", "Iris", "a, b, c"]);
    expect(["Press House", "Ä & Ö", "Größe", "—"].map(idFromName)).toEqual(["press-house", "a-o", "grosse", ""]);
  });
});
