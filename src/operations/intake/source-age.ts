import { firstMinuteFrom, localTime } from "@/core/time/zone";
import type { Zone } from "@/core/time/zone";
import { minuteDown, parseInstant } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import type { SourceRhythm } from "../ports/deliveries";

const hourMs = 3_600_000;
/** What comes within so long of each other is one delivery. */
const togetherMs = hourMs;
/** A rhythm of its own shows from so many intervals on, and is late by half of the usual one. */
const intervalsNeeded = 3;
const lateBy = 1.5;

/** The usual time between deliveries, in milliseconds, by when they came, in any order; undefined where too few came to tell. */
export function usualInterval(times: readonly string[]): number | undefined {
  const sorted = times.map((at) => Date.parse(at)).sort((a, b) => a - b);
  const intervals = sorted
    .flatMap((at, i) => (i === 0 ? [] : [at - (sorted[i - 1] ?? at)]))
    .filter((interval) => interval > togetherMs)
    .sort((a, b) => a - b);
  return intervals.length < intervalsNeeded ? undefined : intervals[Math.floor(intervals.length / 2)];
}

/** When a source is to have sent again: as is said of it, or by its own rhythm; undefined where neither tells. */
export function dueAt(times: readonly string[], { dueHours }: SourceRhythm): string | undefined {
  const last = Math.max(...times.map((at) => Date.parse(at)));
  if (!Number.isFinite(last)) return undefined;
  const own = usualInterval(times);
  const within = dueHours !== undefined ? dueHours * hourMs : own === undefined ? undefined : own * lateBy;
  return within === undefined ? undefined : new Date(last + within).toISOString();
}

/** Whether what came is to be looked at now: `lastAt` is when it was looked at last, undefined for never. */
export function isTime({ everyMinutes, dailyAt }: SourceRhythm, lastAt: string | undefined, now: string, zone: Zone): boolean {
  if (dailyAt !== undefined) {
    const minute = minuteOf(now);
    const { date } = localTime(zone, minute);
    const [hours = 0, minutes = 0] = dailyAt.split(":").map(Number);
    // Where the clock skips the time, it is the first minute after it; where it comes twice, the first.
    let at = firstMinuteFrom(zone, date);
    while (at <= minute && localTime(zone, at).date === date && localTime(zone, at).minuteOfDay < hours * 60 + minutes) at = (at + 1) as EpochMinute;
    return at <= minute && (lastAt === undefined || minuteOf(lastAt) < at);
  }
  return everyMinutes === undefined || lastAt === undefined || Date.parse(now) - Date.parse(lastAt) >= everyMinutes * 60_000;
}

const minuteOf = (text: string): EpochMinute => {
  const instant = parseInstant(text);
  if (!instant) throw new Error(`${text} is no instant.`);
  return minuteDown(instant);
};
