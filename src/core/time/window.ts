import type { EpochMinute, Instant, Moment } from "./instant";
import { always, minuteDown, minuteUp, never } from "./instant";
import type { Zone } from "./zone";
import { endOfMinutesThrough, firstMinuteFrom } from "./zone";

/** `from <= t < until`, in minutes; may be empty (from at or after until). */
export interface Window {
  readonly from: EpochMinute;
  readonly until: EpochMinute;
}

/** Which way a bound with seconds is rounded: always the way that opens more. */
export type Rounding = "outward" | "inward";

export const unbounded: Window = { from: always, until: never };

export const windowHolds = (window: Window, minute: EpochMinute): boolean => window.from <= minute && minute < window.until;

export const windowIsEmpty = (window: Window): boolean => window.from >= window.until;

const rounded = (instant: Instant, up: boolean): EpochMinute => (up ? minuteUp(instant) : minuteDown(instant));

/**
 * The minutes of a window. Dates are read on the wall clock of `zone`. `outward` is for what allows (a `from` goes down,
 * an `until` up), `inward` for what blocks. Whether a window is empty is judged after this rounding.
 */
export function windowOf(from: Moment | undefined, until: Moment | undefined, zone: Zone, rounding: Rounding): Window {
  const inward = rounding === "inward";
  return {
    from: from === undefined ? always : from.kind === "date" ? firstMinuteFrom(zone, from.date) : rounded(from.instant, inward),
    until: until === undefined ? never : until.kind === "date" ? endOfMinutesThrough(zone, until.date) : rounded(until.instant, !inward),
  };
}

/** What both windows hold. */
export function intersectWindows(a: Window, b: Window): Window {
  if (a === unbounded) return b;
  if (b === unbounded) return a;
  return { from: Math.max(a.from, b.from) as EpochMinute, until: Math.min(a.until, b.until) as EpochMinute };
}
