import type { Position } from "../../compile/position-index";
import { doorsOfGroups } from "../covered-doors";
import { holderCounts } from "../held";
import { rule, sources, standards } from "../rule";
import type { FlagOf, Subject } from "../flag";

/** A level, bundle or group that opens nearly everything, and that many hold. */
export const allDoors = rule({
  key: "all-doors",
  base: 34,
  source: sources(standards.nist("AC-6"), standards.practice),
  parameters: { percent: 90, holders: 5 },
  find: (judged, { percent, holders: most }) => {
    const { facility, compiled } = judged;
    const isCounted = (door: Position): boolean => judged.door(door).door.kind !== "floor";
    const all = compiled.doors.filter(({ position }) => isCounted(position)).length;
    const flags: FlagOf<"all-doors">[] = [];
    const observe = (subject: Subject, covered: Iterable<Position>, holders: number): void => {
      const doors = [...covered].filter(isCounted).length;
      if (doors * 100 >= percent * all && holders > most) flags.push({ subject, proof: { doors, of: all, holders } });
    };
    const counts = holderCounts(judged);
    facility.levels.forEach(({ id }, i) => observe({ kind: "level", id }, compiled.cover({ level: id }).keys(), counts.levels.get(i) ?? 0));
    facility.bundles.forEach(({ id }, i) => observe({ kind: "bundle", id }, compiled.cover({ bundle: id }).keys(), counts.bundles.get(i) ?? 0));
    const coverOf = doorsOfGroups(judged);
    facility.groups.forEach(({ id }, i) => {
      const { doors, isGiven } = coverOf(i);
      if (isGiven) observe({ kind: "group", id }, doors, counts.groups.get(i) ?? 0);
    });
    return { flags };
  },
});
