import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { minute } from "~/tests/builders";
import { whenPhrases } from "~/tests/cases/when-phrases";
import { holidayCalendar } from "../time/calendar";
import type { CalendarEntry, DayRule, HolidayCalendar } from "../time/calendar";
import { civilDay } from "../time/civil-day";
import { localTime, zoneOf } from "../time/zone";
import { readWhen } from "./read-when";
import { whenOfAddress, writeWhen } from "./when-address";
import { usualParts } from "./when-context";
import type { WhenContext } from "./when-context";

const entry = (name: string, when: DayRule, dayType = "public"): CalendarEntry => ({ name, dayType, priority: 0, when });
const calendar: HolidayCalendar = holidayCalendar([
  entry("Good Friday", { rule: "easter", offset: -2 }),
  entry("Easter Monday", { rule: "easter", offset: 1 }),
  entry("Christmas Day", { rule: "yearly", monthDay: 1225 }),
  entry("New Year's Day", { rule: "yearly", monthDay: 101 }),
  entry("May Day", { rule: "yearly", monthDay: 501 }),
  entry("Works outing", { rule: "on", date: civilDay(2026, 12, 13) }, "company"),
  entry("Open season", { rule: "yearlySpan", from: 601, to: 831 }, "season"),
  entry("St. Stephen’s Day", { rule: "yearly", monthDay: 1226 }),
]);
const vienna = { id: "garden", zone: zoneOf("Europe/Vienna"), calendar };
const context = (now = "2026-11-27T13:10:00Z", sites: WhenContext["sites"] = [vienna]): WhenContext => ({
  now: minute(now),
  zone: zoneOf("Europe/Vienna"),
  sites,
  parts: usualParts,
});

/** A reading in one text: as an address holds it, or why there is none. */
function told(phrase: string, of = context()): string {
  const read = readWhen(phrase, of);
  if (read.ok) return writeWhen(read.value) ?? "any";
  const { obstacle, notUnderstood } = read.error;
  if (!obstacle) return `refused: ${notUnderstood.map((text) => `«${text}»`).join(" ")}`;
  const more = obstacle.why === "two-readings" ? ` ${obstacle.readings.join(" | ")}` : obstacle.why === "other-weekday" ? ` ${obstacle.weekday}` : "";
  return `refused: ${obstacle.why}${more}`;
}

describe("a typed time", () => {
  it("is read whole, or refused with what of it is not understood: two hundred phrases and more", () => {
    expect(whenPhrases.length).toBeGreaterThan(200);
    expect(whenPhrases.map(([phrase]) => [phrase, told(phrase)])).toEqual(whenPhrases);
  });

  it("means each site's own today: in Apia it is Saturday already while it is Friday in Pago Pago", () => {
    const apia = { id: "apia", zone: zoneOf("Pacific/Apia"), calendar: undefined };
    const pago = { id: "pago", zone: zoneOf("Pacific/Pago_Pago"), calendar: undefined };
    const far = context("2026-11-27T13:10:00Z", [apia, pago]);
    expect(told("today", far)).toBe("apia=2026-11-28,pago=2026-11-27");
    expect(told("saturday night", far)).toBe("2026-11-28T22:00/2026-11-29T06:00");
    expect(told("next saturday 10:00", far)).toBe("apia=2026-12-05T10:00,pago=2026-11-28T10:00");
    expect(told("2026-11-28", far)).toBe("2026-11-28");
    expect(told("weekends", far)).toBe("weekends in 2026-11-27T13:10Z/2027-12-27T13:10Z");
  });

  it("names a holiday by each site's own calendar, and nothing where a site has none of that name", () => {
    const other = {
      id: "island",
      zone: zoneOf("Europe/Vienna"),
      calendar: holidayCalendar([entry("May Day", { rule: "nth", month: 5, weekday: "mon", n: 1 })]),
    };
    const none = { id: "vault", zone: zoneOf("Europe/Vienna"), calendar: undefined };
    expect(told("May Day", context(undefined, [vienna, other, none]))).toBe("garden=2027-05-01,island=2027-05-03");
    // Where another entry wins the date, it is not that holiday.
    const beaten = {
      ...vienna,
      calendar: holidayCalendar([
        entry("Harvest", { rule: "on", date: civilDay(2026, 12, 1) }, "company"),
        { ...entry("Stocktaking", { rule: "on", date: civilDay(2026, 12, 1) }, "company"), priority: 1 },
      ]),
    };
    expect(told("harvest", context(undefined, [beaten]))).toBe("refused: «harvest»");
  });

  it("of a weekday is today or the first after, next after today, last before today, this of the ISO week, on any day", () => {
    const days = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];
    for (let day = 23; day <= 30; day++)
      days.forEach((name, number) => {
        const at = context(`2026-11-${day}T11:00:00Z`);
        const today = localTime(vienna.zone, at.now).date;
        const weekday = (today + 3) % 7;
        const dateOf = (phrase: string): number => {
          const read = readWhen(phrase, at);
          if (!read.ok || read.value.kind !== "dates") throw new Error(phrase);
          return read.value.from;
        };
        expect([name, dateOf(name) - today]).toEqual([name, (number - weekday + 7) % 7]);
        expect([name, dateOf(`next ${name}`) - today]).toEqual([name, ((number - weekday + 6) % 7) + 1]);
        expect([name, today - dateOf(`last ${name}`)]).toEqual([name, ((weekday - number + 6) % 7) + 1]);
        expect([name, dateOf(`this ${name}`) - today]).toEqual([name, number - weekday]);
      });
  });

  it("is read the same whatever its case and blanks, and reads back from its address", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...whenPhrases.filter(([, reading]) => !reading.startsWith("refused")).map(([phrase]) => phrase)),
        fc.constantFrom("", " ", "\t", "  "),
        (phrase, blanks) => {
          const read = readWhen(phrase, context());
          expect(readWhen(`${blanks}${phrase.toUpperCase().replace(/ /g, "  ")}${blanks}`, context())).toEqual(read);
          if (read.ok && read.value.kind !== "any") expect(whenOfAddress(writeWhen(read.value) ?? "")).toEqual(read.value);
        },
      ),
    );
  });

  it("is refused, never guessed and never an error, where a word stands in it that nobody knows", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...whenPhrases.map(([phrase]) => phrase)),
        fc.constantFrom("xyzzy", "blursday", "#", "zz9", "…"),
        fc.boolean(),
        (phrase, unknown, first) => {
          expect(readWhen(first ? `${unknown} ${phrase}` : `${phrase} ${unknown}`, context()).ok).toBe(false);
        },
      ),
      { numRuns: 300 },
    );
    fc.assert(
      fc.property(fc.string({ maxLength: 60, unit: "grapheme" }), (text) => void readWhen(text, context())),
      { numRuns: 500 },
    );
  });

  it("gives up at once on a text that is too long to be a time", () => {
    expect(readWhen("next ".repeat(100_000), context()).ok).toBe(false);
  });
});
