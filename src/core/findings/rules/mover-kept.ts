import type { CompiledFacility } from "../../compile/compiled-facility";
import type { Position } from "../../compile/position-index";
import { required } from "../../kernel/invariant";
import { rule, sources, standards } from "../rule";
import type { FlagOf } from "../flag";
import { writtenMinute } from "../written";

/** Ids of the doors that paths of somebody's credentials through their department cover; windows play no part. */
function doorsThroughDepartment(compiled: CompiledFacility, cardholder: Position): ReadonlySet<string> {
  const holder = required(compiled.cardholders.at(cardholder), "positions are valid");
  const doors = new Set<string>();
  if (holder.credentials.length === 0) return doors;
  for (const { list } of holder.routes) {
    if (list.by !== "department") continue;
    for (const { grant } of list.routes) {
      if (compiled.facility.grants[grant]?.effect === "block") continue;
      for (const door of compiled.waysOf(grant).keys()) doors.add(required(compiled.doors[door], "positions are valid").door.id);
    }
  }
  return doors;
}

/** Somebody changed department and still opens what only the former one gave them. */
export const moverKept = rule({
  key: "mover-kept",
  base: 34,
  source: sources(standards.nist("PS-5"), standards.cip("R5.2")),
  parameters: { days: 30 },
  find: (judged, { days }) => {
    if (judged.earlier.length === 0) return { flags: [], without: "documents" };
    const flags: FlagOf<"mover-kept">[] = [];
    for (const holder of judged.holders) {
      if (holder.cardholder === undefined) continue;
      const { id, department } = judged.lives.cardholder(holder.cardholder);
      const departmentIn = (compiled: CompiledFacility): string | undefined => compiled.facility.cardholders[compiled.cardholderById.get(id) ?? -1]?.department;
      const last = judged.earlier.findLastIndex(({ compiled }) => {
        const former = departmentIn(compiled);
        return former !== undefined && former !== department;
      });
      const before = judged.earlier[last];
      if (!before) continue;
      const moved = judged.earlier[last + 1]?.asOf ?? judged.asOf;
      if (moved > judged.daysBefore(days)) continue;
      const then = doorsThroughDepartment(before.compiled, required(before.compiled.cardholderById.get(id), "it has a department there"));
      const now = doorsThroughDepartment(judged.compiled, holder.cardholder);
      const doors = judged.doorIds(judged.doorsOf(holder)).filter((door) => then.has(door) && !now.has(door));
      if (doors.length > 0)
        flags.push({
          subject: { kind: "cardholder", id },
          distinct: [required(departmentIn(before.compiled), "it has a department there")],
          proof: { moved: writtenMinute(moved), doors },
          since: moved,
        });
    }
    return { flags };
  },
});
