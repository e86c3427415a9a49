import { formatInstant, parseMoment } from "../time/instant";
import type { CivilDay } from "../time/civil-day";
import { parseCivilDay } from "../time/civil-day";
import type { Zone } from "../time/zone";
import { localTime, minuteAtWallClock } from "../time/zone";
import { typedDate } from "./typed-date";

const withClock = /^(.+?),?\s+(\d{1,2}):(\d{2})(?::(\d{2}))?$/;

/**
 * A moment as people type it (`31.12.2026`, `31 Dec 2026, 18:00`), or as a document writes it, as the document writes it: a date, or an instant; undefined
 * for what is neither, could be two, or names a time that the clocks of the zone skip. A time that comes twice is the first of the two. `today` is the date
 * that a year left out is counted from.
 */
export function typedMoment(text: string, today: CivilDay, zone: Zone): string | undefined {
  const typed = text.trim();
  if (parseMoment(typed)) return typed;
  const date = typedDate(typed, today);
  if (date !== undefined) return date;
  const [, day = "", hour = "", minute = "", second = "0"] = withClock.exec(typed) ?? [];
  const on = parseCivilDay(typedDate(day, today) ?? "");
  const clock = Number(hour) * 60 + Number(minute);
  if (on === undefined || Number(hour) > 23 || Number(minute) > 59 || Number(second) > 59) return undefined;
  const at = minuteAtWallClock(zone, on, clock);
  const local = localTime(zone, at);
  return local.date === on && local.minuteOfDay === clock ? formatInstant({ seconds: at * 60 + Number(second), fraction: "" }) : undefined;
}
