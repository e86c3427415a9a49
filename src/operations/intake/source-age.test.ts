import { describe, expect, it } from "@jest/globals";
import { zoneOf } from "@/core/time/zone";
import { dueAt, isTime, usualInterval } from "./source-age";

const day = (n: number, clock = "06:00"): string => `2026-03-${String(n).padStart(2, "0")}T${clock}:00.000Z`;

describe("the rhythm of a source", () => {
  it("is the usual time between deliveries, what comes together counting once", () => {
    expect(usualInterval([day(1), day(2), day(3)])).toBeUndefined();
    expect(usualInterval([day(4), day(1), day(2), day(3), day(3, "06:20")])).toBe(86_400_000);
    expect(usualInterval([day(1), day(8), day(15), day(22)])).toBe(7 * 86_400_000);
  });

  it("says when it is overdue: half as late again as usual, or as is said of it", () => {
    const weekly = [day(22), day(15), day(8), day(1)];
    expect(dueAt(weekly, {})).toBe("2026-04-01T18:00:00.000Z");
    expect(dueAt(weekly, { dueHours: 24 })).toBe("2026-03-23T06:00:00.000Z");
    expect(dueAt([day(1)], {})).toBeUndefined();
    expect(dueAt([day(1)], { dueHours: 1 })).toBe("2026-03-01T07:00:00.000Z");
    expect(dueAt([], { dueHours: 1 })).toBeUndefined();
  });
});

describe("the time to look at what came", () => {
  const vienna = zoneOf("Europe/Vienna");
  it("comes at once, after so many minutes, or once a day on the register’s clock", () => {
    expect(isTime({}, day(1), day(1), vienna)).toBe(true);
    expect(isTime({ everyMinutes: 60 }, undefined, day(1), vienna)).toBe(true);
    expect([isTime({ everyMinutes: 60 }, day(1), day(1, "06:59"), vienna), isTime({ everyMinutes: 60 }, day(1), day(1, "07:00"), vienna)]).toEqual([
      false,
      true,
    ]);
    // 08:00 in Vienna is 07:00 of UTC in winter.
    const daily = { dailyAt: "08:00" };
    expect([isTime(daily, undefined, day(1, "06:59"), vienna), isTime(daily, undefined, day(1, "07:00"), vienna)]).toEqual([false, true]);
    expect([isTime(daily, day(1, "07:00"), day(1, "23:00"), vienna), isTime(daily, day(1, "06:59"), day(1, "07:30"), vienna)]).toEqual([false, true]);
    expect(isTime(daily, day(1, "07:00"), day(2, "07:00"), vienna)).toBe(true);
  });

  it("comes on a date whose clock skips it, after what is skipped, and once on one that has it twice", () => {
    // Europe/Vienna, 2026-03-29: 02:00 becomes 03:00; 2026-10-25: 03:00 becomes 02:00 (IANA).
    const daily = { dailyAt: "02:30" };
    const spring = (clock: string) => `2026-03-29T${clock}:00Z`;
    expect([isTime(daily, undefined, spring("00:59"), vienna), isTime(daily, undefined, spring("01:00"), vienna)]).toEqual([false, true]);
    const autumn = (clock: string) => `2026-10-25T${clock}:00Z`;
    expect(isTime(daily, undefined, autumn("00:30"), vienna)).toBe(true);
    expect(isTime(daily, autumn("00:30"), autumn("01:30"), vienna)).toBe(false);
  });
});
