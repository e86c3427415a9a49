import type { Position } from "../../compile/position-index";
import { remembered } from "../../kernel/remembered";
import type { TimelineNumber } from "../../table/timelines";
import { nothing, union } from "../../time/intervals";
import type { IntervalSet } from "../../time/intervals";
import type { Zone } from "../../time/zone";
import { rule, standards } from "../rule";
import { lazily, tellOnce } from "../flag";
import type { FlagOf, Untold } from "../flag";
import type { Holder } from "../judged";
import { intoAreas } from "../sensitive-areas";

/** What somebody opens for long outside of business hours, if they do not come then. */
interface LongHours extends Pick<FlagOf<"out-of-hours">, "distinct" | "proof"> {
  readonly area: Position;
  /** What would be needed to tell that they do not come; undefined where it can be told. */
  readonly wanting: Untold["sites"];
}

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
    // Of timelines taken together, which are many, only the fullest week is kept.
    const fullestOf = remembered((zone: Zone) =>
      remembered((numbers: string) => {
        const sets = numbers === "" ? [] : numbers.split(" ").map((number) => timelines.set(Number(number) as TimelineNumber));
        return judged.weeksOf(zone).fullest(sets.reduce<IntervalSet>(union, nothing));
      }),
    );
    const wantingFor = judged.wantingFor(days);
    const longHours = remembered((row: number) => {
      const found: LongHours[] = [];
      for (const [area, entries] of intoOf(row)) {
        const unusual = new Set<TimelineNumber>();
        const doors: Position[] = [];
        for (const entry of entries) {
          const door = rows.doors[entry] as Position;
          const outside = timelines.subtract(rows.times[entry] as number, businessOf(judged.siteOf(door)));
          if (outside === 0) continue;
          doors.push(door);
          unusual.add(outside);
        }
        const fullest = fullestOf(judged.zoneOfSite(judged.area(area).site))([...unusual].sort((a, b) => a - b).join(" "));
        if (fullest.minutes <= hours * 60) continue;
        found.push({
          area,
          distinct: [judged.area(area).id],
          proof: { ...fullest, doors: judged.doorIds(doors) },
          wanting: wantingFor(judged.sitesConcerned(doors)),
        });
      }
      return found;
    });
    /** The areas into which somebody came out of hours. */
    const cameInto = ({ credentials }: Holder): ReadonlySet<Position> => {
      const areas = new Set<Position>();
      for (const credential of credentials)
        for (const [door, minute] of judged.lastUsesOutOfHours(credential))
          if (minute >= judged.daysBefore(days)) for (const area of judged.door(door).areas) areas.add(area);
      return areas;
    };
    const untold: Untold[] = [];
    return {
      flags: lazily(function* (): Generator<FlagOf<"out-of-hours">> {
        for (const holder of judged.holders) {
          const found = longHours(judged.rowOf(holder));
          if (found.length === 0) continue;
          const came = cameInto(holder);
          const told = new Set<Untold["sites"]>();
          for (const { area, distinct, proof, wanting } of found) {
            if (came.has(area)) continue;
            if (wanting) tellOnce(untold, told, holder.id, wanting);
            else yield { subject: holder, distinct, proof };
          }
        }
      }),
      untold,
    };
  },
});
