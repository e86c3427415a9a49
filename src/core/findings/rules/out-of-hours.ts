import type { Position } from "../../compile/position-index";
import { remembered } from "../../kernel/remembered";
import type { Zone } from "../../time/zone";
import { rule, standards } from "../rule";
import type { FlagOf, Untold } from "../flag";
import { intoAreas } from "../sensitive-areas";

/** Somebody opens a sensitive area outside of business hours for long, and does not come then. */
export const outOfHours = rule({
  key: "out-of-hours",
  base: 24,
  source: standards.nist("AC-6, PE-6"),
  parameters: { hours: 4, days: 90, sensitivity: 2 },
  find: (judged, { hours, days, sensitivity }) => {
    const { rows, timelines } = judged.ahead;
    const intoOf = intoAreas(judged, sensitivity);
    const businessOf = remembered((site: string) => timelines.number(judged.businessAhead(site)));
    const fullestOf = remembered((zone: Zone) => remembered((timeline: number) => judged.weeksOf(zone).fullest(timelines.set(timeline))));
    const longHours = remembered((row: number) => {
      const found: { readonly area: Position; readonly minutes: number; readonly week: string; readonly doors: readonly Position[] }[] = [];
      for (const [area, entries] of intoOf(row)) {
        let unusual = 0;
        const doors: Position[] = [];
        for (const entry of entries) {
          const door = rows.doors[entry] as Position;
          const outside = timelines.subtract(rows.times[entry] as number, businessOf(judged.siteOf(door)));
          if (outside === 0) continue;
          doors.push(door);
          unusual = timelines.union(unusual, outside);
        }
        const fullest = fullestOf(judged.zoneOfSite(judged.area(area).site))(unusual);
        if (fullest.minutes > hours * 60) found.push({ area, ...fullest, doors });
      }
      return found;
    });
    const flags: FlagOf<"out-of-hours">[] = [];
    const untold: Untold[] = [];
    for (const holder of judged.holders)
      for (const { area, minutes, week, doors } of longHours(judged.rowOf(holder))) {
        const came = holder.credentials.some((credential) =>
          [...judged.lastUsesOutOfHours(credential)].some(([door, minute]) => minute >= judged.daysBefore(days) && judged.isInto(door, area)),
        );
        if (came) continue;
        const wanting = judged.wantingFor(days)(doors);
        if (wanting) untold.push({ id: holder.id, sites: wanting });
        else
          flags.push({
            subject: { kind: holder.kind, id: holder.id },
            distinct: [judged.area(area).id],
            proof: { minutes, week, doors: judged.doorIds(doors) },
          });
      }
    return { flags, untold };
  },
});
