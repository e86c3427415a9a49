import type { Position } from "../../compile/position-index";
import { heldBy } from "../held";
import type { Holder, Judged } from "../judged";
import { rule, sources, standards } from "../rule";
import type { DutySide } from "../settings";

/** The doors of a side that a holder opens; undefined where they have not that side. */
function doorsOfSide(judged: Judged, holder: Holder, side: DutySide): readonly Position[] | undefined {
  const { compiled } = judged;
  const opened = judged.doorsOf(holder);
  if (side.area !== undefined) {
    const area = compiled.indexes.of("areas").get(side.area) ?? -1;
    return judged.reaches(holder, area) ? opened.filter((door) => judged.isInto(door, area)) : undefined;
  }
  const level = compiled.indexes.of("levels").get(side.level) ?? -1;
  if (!heldBy(judged, holder).levels.has(level)) return undefined;
  const covered = compiled.cover({ level: side.level });
  return opened.filter((door) => covered.has(door));
}

/** Somebody has two things that one person must not have. */
export const dutiesConflict = rule({
  key: "duties-conflict",
  base: 36,
  source: sources(standards.nist("AC-5"), standards.rbac("static separation of duty")),
  parameters: {},
  find: (judged) => {
    const { duties = [] } = judged.settings;
    if (duties.length === 0) return { flags: [] };
    return {
      flags: judged.holders.flatMap((holder) =>
        duties.flatMap(({ id, a, b }) => {
          const one = doorsOfSide(judged, holder, a);
          const other = one && doorsOfSide(judged, holder, b);
          return one && other
            ? [{ subject: { kind: holder.kind, id: holder.id }, distinct: [id], proof: { a: judged.doorIds(one), b: judged.doorIds(other) } }]
            : [];
        }),
      ),
    };
  },
});
