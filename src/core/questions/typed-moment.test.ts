import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { momentOnClock } from "@/features/words/times";
import { minute } from "~/tests/builders";
import { civilDay, formatCivilDay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { formatMinute } from "../time/instant";
import type { EpochMinute } from "../time/instant";
import { localTime, zoneOf } from "../time/zone";
import { typedMoment } from "./typed-moment";

const today = civilDay(2026, 11, 27);
const paris = zoneOf("Europe/Paris");

describe("a moment as people type it", () => {
  it("is a date, or an instant on the clock of the zone", () => {
    expect(typedMoment("31.12.2026", today, paris)).toBe("2026-12-31");
    expect(typedMoment("31 Dec 2026, 19:00", today, paris)).toBe("2026-12-31T18:00:00Z");
    expect(typedMoment("31.12.2026 19:00:30", today, paris)).toBe("2026-12-31T18:00:30Z");
    expect(typedMoment("2026-12-31T18:00+02:00", today, paris)).toBe("2026-12-31T18:00+02:00");
  });

  it("is none where it could be two, is no time, or is skipped by the clocks (Europe/Paris, 29 March 2026, 02:30)", () => {
    for (const typed of ["", "3/4/2026", "31 Dec 2026, 25:00", "31 Dec 2026, 10:60", "soon", "31.13.2026", "29 Mar 2026, 02:30"])
      expect([typed, typedMoment(typed, today, paris)]).toEqual([typed, undefined]);
  });

  it("is the first of two where it comes twice (Europe/Paris, 25 October 2026, 02:30)", () => {
    expect(typedMoment("25 Oct 2026, 02:30", today, paris)).toBe("2026-10-25T00:30:00Z");
  });

  it("is read back from the words in which it is shown, in every year that these have in full", () => {
    fc.assert(
      fc.property(fc.integer({ min: civilDay(1000, 1, 1), max: civilDay(9999, 12, 31) }), (date) => {
        const written = formatCivilDay(date as CivilDay);
        expect(typedMoment(momentOnClock(written, "UTC"), today, zoneOf("UTC"))).toBe(written);
      }),
    );
    fc.assert(
      fc.property(
        fc.integer({ min: minute("1000-01-02T00:00Z"), max: minute("9999-12-30T00:00Z") }),
        fc.constantFrom("Europe/Paris", "Asia/Kathmandu", "America/St_Johns", "Pacific/Apia"),
        (at, name) => {
          const words = momentOnClock(formatMinute(at as EpochMinute), name);
          const read = typedMoment(words, today, zoneOf(name));
          // Of a wall time that comes twice the words tell no more; it is the same on the clock.
          const instant = read === undefined ? undefined : localTime(zoneOf(name), minute(read));
          expect([words, instant]).toEqual([words, localTime(zoneOf(name), at as EpochMinute)]);
        },
      ),
    );
  });
});
