import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { formatInstant, formatMinute, minuteDown, minuteUp, parseInstant, parseMoment } from "./instant";

const instant = (text: string) => {
  const parsed = parseInstant(text);
  if (!parsed) throw new Error(text);
  return parsed;
};

describe("an instant", () => {
  it("is read as in the examples of RFC 3339, section 5.8", () => {
    // The examples are cited from memory.
    expect(formatInstant(instant("1985-04-12T23:20:50.52Z"))).toBe("1985-04-12T23:20:50.52Z");
    expect(formatInstant(instant("1996-12-19T16:39:57-08:00"))).toBe("1996-12-20T00:39:57Z");
    expect(formatInstant(instant("1937-01-01T12:00:27.87+00:20"))).toBe("1937-01-01T11:40:27.87Z");
  });

  it("is refused with a leap second, an impossible date, no offset, or out of the years that can be written", () => {
    for (const text of [
      "1990-12-31T23:59:60Z",
      "2026-02-29T00:00:00Z",
      "2026-03-01T24:00:00Z",
      "2026-03-01T00:00:00",
      "2026-03-01",
      "2026-03-01 00:00:00Z",
      "0000-01-01T00:00:00+01:00",
      "9999-12-31T23:59:59-01:00",
    ])
      expect([text, parseInstant(text)]).toEqual([text, undefined]);
  });

  it("may leave out the seconds, and loses nothing of a fraction but trailing zeros", () => {
    expect(formatInstant(instant("2026-03-02T08:00Z"))).toBe("2026-03-02T08:00:00Z");
    expect(formatInstant(instant("2026-03-02T08:00:01.500000000Z"))).toBe("2026-03-02T08:00:01.5Z");
    expect(formatInstant(instant("2026-03-02t08:00:01.00z"))).toBe("2026-03-02T08:00:01Z");
  });

  it("is rounded to the minute down, and up where anything is left", () => {
    const bounds = (text: string) => [minuteDown(instant(text)), minuteUp(instant(text))].map(formatMinute);
    expect(bounds("2026-03-02T08:00:00Z")).toEqual(["2026-03-02T08:00Z", "2026-03-02T08:00Z"]);
    expect(bounds("2026-03-02T08:00:00.001Z")).toEqual(["2026-03-02T08:00Z", "2026-03-02T08:01Z"]);
    expect(bounds("1969-12-31T23:59:59Z")).toEqual(["1969-12-31T23:59Z", "1970-01-01T00:00Z"]);
  });

  it("is read alike in its usual spelling and in one that says the same", () => {
    const digit = fc.constantFrom(..."00111223456789", "x");
    const spelled = fc.tuple(
      fc.constantFrom("2026", "2024", "0000", "9999", "199x"),
      fc.tuple(digit, digit),
      fc.tuple(digit, digit),
      fc.tuple(digit, digit),
      fc.tuple(digit, digit),
      fc.tuple(digit, digit),
    );
    fc.assert(
      fc.property(spelled, ([year, ...rest]) => {
        const [month, day, hour, minute, second] = rest.map((pair) => pair.join(""));
        const text = `${year}-${month}-${day}T${hour}:${minute}:${second}`;
        expect([text, parseInstant(`${text}Z`)]).toEqual([text, parseInstant(`${text}+00:00`)]);
      }),
      { numRuns: 5000 },
    );
    expect(parseInstant("2026-03-02T08:00:00Z")).toEqual({ seconds: Date.UTC(2026, 2, 2, 8) / 1000, fraction: "" });
  });

  it("is told from a date", () => {
    expect(parseMoment("2026-03-02")?.kind).toBe("date");
    expect(parseMoment("2026-03-02T08:00Z")?.kind).toBe("instant");
    expect(parseMoment("2026-13-02")).toBeUndefined();
  });
});
