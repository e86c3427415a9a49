import type { CivilDay } from "../../time/civil-day";
import { addDays } from "../../time/civil-day";
import { rule, standards } from "../rule";
import type { FlagOf } from "../flag";
import { localDate, writtenDate } from "../written";

/** Two entries of a calendar that fall on one date with one priority, and only their order decides between them. */
export const holidayTie = rule({
  key: "holiday-tie",
  base: 8,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const { facility, compiled, zone, asOf, end } = judged;
    const [first, last] = [localDate(zone, asOf), localDate(zone, (end - 1) as typeof end)];
    const flags: FlagOf<"holiday-tie">[] = [];
    facility.calendars.forEach(({ id }, position) => {
      const calendar = compiled.calendars[position];
      const ties = new Map<string, { readonly names: readonly [string, string]; readonly dates: Set<CivilDay> }>();
      for (let date = first; date <= last; date = addDays(date, 1)) {
        const reading = calendar?.read(date);
        if (!reading) continue;
        for (const { name, priority, dayType } of reading.beaten) {
          if (priority !== reading.winner.priority || dayType === reading.winner.dayType) continue;
          const names = [reading.winner.name, name] as const;
          const tie = ties.get(JSON.stringify(names)) ?? { names, dates: new Set<CivilDay>() };
          ties.set(JSON.stringify(names), tie);
          tie.dates.add(date);
        }
      }
      for (const { names, dates } of ties.values())
        flags.push({
          subject: { kind: "calendar", id },
          distinct: names,
          proof: { first: writtenDate(Math.min(...dates) as CivilDay), dates: dates.size },
        });
    });
    return { flags };
  },
});
