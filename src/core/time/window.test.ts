import { describe, expect, it } from "@jest/globals";
import { formatMinute, parseMoment } from "./instant";
import { intersectWindows, unbounded, windowHolds, windowIsEmpty, windowOf } from "./window";
import { zoneOf } from "./zone";

const vienna = zoneOf("Europe/Vienna");
const bounds = (from: string | undefined, until: string | undefined, rounding: "outward" | "inward" = "outward", zone = vienna) => {
  const window = windowOf(from === undefined ? undefined : parseMoment(from), until === undefined ? undefined : parseMoment(until), zone, rounding);
  return [window.from, window.until].map((minute) => (Number.isFinite(minute) ? formatMinute(minute) : String(minute)));
};

describe("a window", () => {
  it("is since always and never ends where a bound is missing", () => {
    expect(bounds(undefined, undefined)).toEqual(["-Infinity", "Infinity"]);
    expect(windowHolds(unbounded, 0 as never)).toBe(true);
  });

  it("holds whole dates of the facility's zone, the last one included", () => {
    expect(bounds("2026-03-29", "2026-03-29")).toEqual(["2026-03-28T23:00Z", "2026-03-29T22:00Z"]);
    expect(bounds("2026-10-25", "2026-10-25")).toEqual(["2026-10-24T22:00Z", "2026-10-25T23:00Z"]);
  });

  it("is rounded outward for an allow and inward for a block", () => {
    expect(bounds("2026-03-02T08:00:20Z", "2026-03-02T09:00:20Z")).toEqual(["2026-03-02T08:00Z", "2026-03-02T09:01Z"]);
    expect(bounds("2026-03-02T08:00:20Z", "2026-03-02T09:00:20Z", "inward")).toEqual(["2026-03-02T08:01Z", "2026-03-02T09:00Z"]);
  });

  it("may be empty, which is judged after rounding", () => {
    const inMinute = (rounding: "outward" | "inward") => windowOf(parseMoment("2026-03-02T08:00:20Z"), parseMoment("2026-03-02T08:00:40Z"), vienna, rounding);
    expect([windowIsEmpty(inMinute("outward")), windowIsEmpty(inMinute("inward"))]).toEqual([false, true]);
    expect(windowIsEmpty(windowOf(parseMoment("2026-03-03"), parseMoment("2026-03-02"), vienna, "outward"))).toBe(true);
  });

  it("meets another in what both hold", () => {
    const a = windowOf(parseMoment("2026-03-01"), undefined, vienna, "outward");
    const b = windowOf(undefined, parseMoment("2026-03-05"), vienna, "outward");
    expect(intersectWindows(a, b)).toEqual({ from: a.from, until: b.until });
  });
});
