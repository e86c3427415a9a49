import { greatest } from "../../kernel/compare";
import { addMonths } from "../../time/civil-day";
import { localTime, minuteAtWallClock } from "../../time/zone";
import { remembered } from "../../kernel/remembered";
import { rule, sources, standards } from "../rule";
import type { FlagOf } from "../flag";
import { writtenMinute } from "../written";

/** Access to an area that nobody has decided to keep for too long. */
export const notCertified = rule({
  key: "not-certified",
  base: 12,
  source: sources(standards.pci("7.2.4"), standards.cip("R4.3 (15 months)")),
  parameters: { months: 6, sensitivity: 0 },
  find: (judged, { months, sensitivity }) => {
    const { decisions, asOf, zone } = judged;
    if (decisions === undefined) return { flags: [], without: "decisions" };
    const { date, minuteOfDay } = localTime(zone, asOf);
    const limit = minuteAtWallClock(zone, addMonths(date, -months), minuteOfDay);
    /** Minutes of what was kept, by holder and area. */
    const kept = new Map<string, Map<string, number[]>>();
    for (const { at, holder, area, decision } of decisions) {
      if (at > asOf || (decision !== "keep" && decision !== "narrow")) continue;
      const key = `${holder.kind} ${holder.id}`;
      const ofHolder = kept.get(key) ?? new Map<string, number[]>();
      kept.set(key, ofHolder);
      ofHolder.set(area, [...(ofHolder.get(area) ?? []), at]);
    }
    const areasOfRow = remembered((row: number) =>
      [...new Set(judged.doorsInRow(row).flatMap((door) => judged.door(door).areas.slice(0, 1)))].filter((area) => judged.isSensitiveArea(area, sensitivity)),
    );
    const flags: FlagOf<"not-certified">[] = [];
    for (const holder of judged.holders) {
      const ofHolder = kept.get(`${holder.kind} ${holder.id}`);
      for (const area of areasOfRow(judged.rowOf(holder))) {
        const minutes = !ofHolder ? [] : judged.chainOfArea(area).flatMap((above) => ofHolder.get(judged.area(above).id) ?? []);
        if (minutes.some((minute) => minute > limit)) continue;
        const last = greatest(minutes);
        flags.push({
          subject: { kind: holder.kind, id: holder.id },
          distinct: [judged.area(area).id],
          proof: { last: minutes.length === 0 ? undefined : writtenMinute(last as typeof asOf) },
        });
      }
    }
    return { flags };
  },
});
