import type { Position } from "../../compile/position-index";
import { carryingPaths } from "../carrying";
import { rule, standards } from "../rule";
import type { Flag, Untold } from "../flag";

/** A level, or a grant without one, of whose doors somebody has used only a few. */
export const rightUnused = rule({
  key: "right-unused",
  base: 12,
  source: standards.nist("AC-6(7)"),
  parameters: { days: 180, percent: 50 },
  find: (judged, { days, percent }) => {
    const { facility } = judged;
    const flags: Flag[] = [];
    const untold: Untold[] = [];
    for (const holder of judged.holders) {
      const rights = new Map<string, { readonly distinct: readonly string[]; readonly doors: Set<Position> }>();
      for (const credential of holder.credentials)
        for (const door of judged.doorsInRow(judged.liveRow(credential))) {
          if (judged.door(door).door.kind === "floor") continue;
          for (const { way, grant } of carryingPaths(judged, credential, door)) {
            const distinct = way.level === undefined ? ["grant", grant.grant.id] : ["level", facility.levels[way.level]?.id ?? ""];
            const key = JSON.stringify(distinct);
            const right = rights.get(key) ?? { distinct, doors: new Set<Position>() };
            rights.set(key, right);
            right.doors.add(door);
          }
        }
      const used = new Set(
        holder.credentials.flatMap((credential) =>
          judged.events.of(credential).flatMap(({ granted, at, minute }) => (granted && minute >= judged.daysBefore(days) ? [at] : [])),
        ),
      );
      for (const { distinct, doors } of rights.values()) {
        const unused = [...doors].filter((door) => !used.has(door));
        const count = doors.size - unused.length;
        if (count * 100 >= percent * doors.size) continue;
        const cannot = judged.untoldAt(holder.id, judged.sitesConcerned(unused), () => days);
        if (cannot) untold.push(cannot);
        else
          flags.push({
            subject: { kind: holder.kind, id: holder.id },
            distinct,
            proof: { doors: doors.size, used: count, unused: judged.doorIds(unused) },
          });
      }
    }
    return { flags, untold };
  },
});
