import { minutesADay, parseCivilDay } from "../../time/civil-day";
import type { ClockInterval } from "../../time/schedule";
import { rule, standards } from "../rule";
import type { FlagOf } from "../flag";
import { scheduleRows, schedulesNamed } from "../schedule-rows";
import { localDate } from "../written";

/** 23:59, which some sources write for the end of a day (common practice, no source). */
const almostMidnight = minutesADay - 1;

/** An interval on its own day: one over midnight counts to its end. */
const onItsDay = ([start, end]: ClockInterval): ClockInterval => (start > end ? [start, minutesADay] : [start, end]);

function overlap(intervals: readonly ClockInterval[]): boolean {
  const filled = intervals
    .map(onItsDay)
    .filter(([start, end]) => start < end)
    .sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  let reached = 0;
  return filled.some(([start, end]) => {
    const isWithin = start < reached;
    reached = Math.max(reached, end);
    return isWithin;
  });
}

const oddities: Readonly<Record<string, (intervals: readonly ClockInterval[]) => boolean>> = {
  "empty-interval": (intervals) => intervals.some(([start, end]) => start === end),
  "minute-gap": (intervals) => intervals.some(([, end]) => end === almostMidnight),
  overlap,
};

/** A schedule written in a way that hardly anybody means. */
export const scheduleOdd = rule({
  key: "schedule-odd",
  base: 4,
  source: standards.practice,
  parameters: {},
  find: ({ facility, zone, asOf }) => {
    const named = schedulesNamed(facility);
    const today = localDate(zone, asOf);
    const flags: FlagOf<"schedule-odd">[] = [];
    for (const schedule of facility.schedules) {
      const subject = { kind: "schedule" as const, id: schedule.id };
      for (const [what, isOdd] of Object.entries(oddities)) {
        const rows = scheduleRows(schedule).flatMap(({ name, intervals }) => (isOdd(intervals) ? [name] : []));
        if (rows.length > 0) flags.push({ subject, distinct: [what], proof: { rows } });
      }
      const { until } = schedule;
      if (until !== undefined && named.has(schedule.id) && (parseCivilDay(until) ?? Infinity) < today)
        flags.push({ subject, distinct: ["over"], proof: { until } });
    }
    return { flags };
  },
});
