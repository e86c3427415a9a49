import { addMonths } from "./civil-day";
import type { EpochMinute } from "./instant";
import { localTime, minuteAtWallClock } from "./zone";
import type { Zone } from "./zone";

/** How far ahead access is looked at: 13 months. */
export const horizonMonths = 13;

/**
 * The first minute whose local date and clock are those of another minute 13 months later, or come after them; the day is the last of its
 * month where that month is too short.
 */
export function monthsAhead(minute: EpochMinute, zone: Zone): EpochMinute {
  const { date, minuteOfDay } = localTime(zone, minute);
  return minuteAtWallClock(zone, addMonths(date, horizonMonths), minuteOfDay);
}
