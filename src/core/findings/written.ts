import { civilDay, formatCivilDay, formatClock, minutesADay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { formatMinute } from "../time/instant";
import type { EpochMinute } from "../time/instant";
import { localTime } from "../time/zone";
import type { Zone } from "../time/zone";

const firstWritten = civilDay(2, 1, 1) * minutesADay;
const endOfWritten = civilDay(9999, 1, 1) * minutesADay;

/** A minute as proofs have it; those before the year 2 and from 9999 on are one each, since they mean "always" and "never". */
export function writtenMinute(minute: EpochMinute): string {
  if (minute < firstWritten) return "0001-01-01T00:00Z";
  return minute >= endOfWritten ? "9999-12-31T23:59Z" : formatMinute(minute);
}

/** The instant of an event as it is written: `YYYY-MM-DDTHH:MM:SSZ`. */
export function writtenSecond(second: number): string {
  const minute = Math.floor(second / 60);
  return `${formatMinute(minute as EpochMinute).slice(0, -1)}:${String(second - minute * 60).padStart(2, "0")}Z`;
}

/** A minute on the wall clock of a zone: `YYYY-MM-DDTHH:MM`. */
export function writtenThere(minute: EpochMinute, zone: Zone): string {
  const { date, minuteOfDay } = localTime(zone, minute);
  return `${formatCivilDay(date)}T${formatClock(minuteOfDay)}`;
}

export const localDate = (zone: Zone, minute: EpochMinute): CivilDay => localTime(zone, minute).date;
export const writtenDate = (date: CivilDay): string => formatCivilDay(date);
