import type { Position } from "../../compile/position-index";
import { remembered } from "../../kernel/remembered";
import { rule, standards } from "../rule";
import { intoAreas } from "../sensitive-areas";
import { WeekProbes } from "../week-probes";

/** Somebody opens a sensitive area at every minute of some week. */
export const aroundTheClock = rule({
  key: "around-the-clock",
  base: 30,
  source: standards.nist("AC-6"),
  parameters: { sensitivity: 2 },
  find: (judged, { sensitivity }) => {
    const { rows, timelines } = judged.ahead;
    const intoOf = intoAreas(judged, sensitivity);
    const probes = remembered((zone: ReturnType<typeof judged.zoneOfSite>) => new WeekProbes(judged.ahead, zone));
    const wholeWeeks = remembered((row: number) => {
      const found: { readonly area: Position; readonly week: string; readonly doors: readonly Position[] }[] = [];
      for (const [area, entries] of intoOf(row)) {
        const zone = judged.zoneOfSite(judged.area(area).site);
        const times = entries.map((entry) => rows.times[entry] as number);
        if (!probes(zone).mayHoldWholeWeek(times)) continue;
        const week = judged.weeksOf(zone).firstWhole(timelines.set(times.reduce((open, timeline) => timelines.union(open, timeline), 0)));
        if (week !== undefined) found.push({ area, week, doors: entries.map((entry) => rows.doors[entry] as Position) });
      }
      return found;
    });
    return {
      flags: judged.holders.flatMap((holder) =>
        wholeWeeks(judged.rowOf(holder)).map(({ area, week, doors }) => {
          const { id, sensitivity: own = 0 } = judged.area(area);
          return { subject: { kind: holder.kind, id: holder.id }, distinct: [id], proof: { sensitivity: own, week, doors: judged.doorIds(doors) } };
        }),
      ),
    };
  },
});
