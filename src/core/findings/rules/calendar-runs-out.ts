import { greatest, groupBy } from "../../kernel/compare";
import { calendarEntryOf } from "../../facility/time-rules";
import { addDays, civilDay, daysInMonth, yearMonthDay } from "../../time/civil-day";
import type { CivilDay } from "../../time/civil-day";
import { rule, standards } from "../rule";
import type { FlagOf } from "../flag";
import { localDate, writtenDate } from "../written";

interface OneOff {
  readonly name: string;
  readonly from: CivilDay;
  readonly to: CivilDay;
}

const yearOf = ({ from }: OneOff): number => yearMonthDay(from).year;

/** The same day of another year; 28 February for the 29th. */
function movedTo(date: CivilDay, year: number): CivilDay {
  const { month, day } = yearMonthDay(date);
  return civilDay(year, month, Math.min(day, daysInMonth(year, month)));
}

/** A calendar whose dates typed in singly come to an end, or of which one was forgotten this year or the next. */
export const calendarRunsOut = rule({
  key: "calendar-runs-out",
  base: 12,
  source: standards.practice,
  parameters: { entries: 2, days: 60 },
  find: (judged, { entries, days }) => {
    const { facility, zone, asOf, end } = judged;
    const today = localDate(zone, asOf);
    const lastAhead = localDate(zone, (end - 1) as typeof end);
    const named = new Set([...facility.sites, ...facility.cardholders].map(({ calendar }) => calendar));
    const flags: FlagOf<"calendar-runs-out">[] = [];
    for (const { id, days: written = [] } of facility.calendars) {
      if (!named.has(id)) continue;
      const oneOff = written.map(calendarEntryOf).flatMap(({ name, when }): OneOff[] => {
        if (when.rule === "on") return [{ name, from: when.date, to: when.date }];
        return when.rule === "span" && when.from <= when.to ? [{ name, from: when.from, to: when.to }] : [];
      });
      const last = oneOff.reduce<number>((latest, { to }) => Math.max(latest, to), -Infinity) as CivilDay;
      if (oneOff.length >= entries && last < addDays(today, days))
        flags.push({ subject: { kind: "calendar", id }, distinct: ["end"], proof: { last: writtenDate(last) } });
      for (const [name, own] of groupBy(oneOff, (entry) => entry.name)) {
        const byYear = groupBy(own, yearOf);
        const thisYear = yearMonthDay(today).year;
        for (const year of [thisYear, thisYear + 1]) {
          const before = byYear.get(year - 1);
          if (!before || !byYear.has(year - 2) || byYear.has(year)) continue;
          const expected = movedTo(greatest(before.map(({ from }) => from)) as CivilDay, year);
          if (expected >= today && expected <= lastAhead)
            flags.push({ subject: { kind: "calendar", id }, distinct: ["year", name, String(year)], proof: { expected: writtenDate(expected) } });
        }
      }
    }
    return { flags };
  },
});
