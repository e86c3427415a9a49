import type { Position } from "../../compile/position-index";
import { carriersOf } from "../carrying";
import type { PathsByDoor } from "../carrying";
import type { FlagOf, Untold } from "../flag";
import { remembered } from "../../kernel/remembered";
import type { Judged } from "../judged";
import { rule, standards } from "../rule";

/** Doors by right: a level's position, or -1 - a grant's for one without a level. */
type DoorsByRight = ReadonlyMap<number, ReadonlySet<Position>>;

/** The rights to which the paths of one list carry, with their doors but floors; worked out once for all who have the same. */
function rightsOfPaths(judged: Judged): (paths: PathsByDoor) => DoorsByRight {
  return remembered((paths: PathsByDoor) => {
    const rights = new Map<number, Set<Position>>();
    for (const [door, carrying] of paths) {
      if (judged.door(door).door.kind === "floor") continue;
      for (const { level, grant } of carrying) {
        const right = level ?? -1 - grant;
        const doors = rights.get(right) ?? new Set<Position>();
        rights.set(right, doors.add(door));
      }
    }
    return rights;
  });
}

/** The same of several lists taken together. */
function together(all: readonly DoorsByRight[]): DoorsByRight {
  const [only] = all;
  if (only && all.length === 1) return only;
  const rights = new Map<number, ReadonlySet<Position>>();
  for (const own of all)
    for (const [right, doors] of own) {
      const known = rights.get(right);
      rights.set(right, known ? new Set([...known, ...doors]) : doors);
    }
  return rights;
}

/** A level, or a grant without one, of whose doors somebody has used only a few. */
export const rightUnused = rule({
  key: "right-unused",
  base: 12,
  source: standards.nist("AC-6(7)"),
  parameters: { days: 180, percent: 50 },
  find: (judged, { days, percent }) => {
    const rightsOf = rightsOfPaths(judged);
    const carriers = carriersOf(judged);
    const told = (right: number): readonly string[] =>
      right < 0 ? ["grant", judged.facility.grants[-1 - right]?.id ?? ""] : ["level", judged.facility.levels[right]?.id ?? ""];
    const flags: FlagOf<"right-unused">[] = [];
    const untold: Untold[] = [];
    for (const holder of judged.holders) {
      const used = new Set(
        holder.credentials.flatMap((credential) =>
          [...judged.events.lastGrantedByDoor(credential)].flatMap(([door, minute]) => (minute >= judged.daysBefore(days) ? [door] : [])),
        ),
      );
      for (const [right, doors] of together(holder.credentials.flatMap((credential) => carriers.of(credential).map(rightsOf)))) {
        const unused = [...doors].filter((door) => !used.has(door));
        const count = doors.size - unused.length;
        if (count * 100 >= percent * doors.size) continue;
        const cannot = judged.untoldAt(holder.id, judged.sitesConcerned(unused), () => days);
        if (cannot) untold.push(cannot);
        else
          flags.push({
            subject: { kind: holder.kind, id: holder.id },
            distinct: told(right),
            proof: { doors: doors.size, used: count, unused: judged.doorIds(unused) },
          });
      }
    }
    return { flags, untold };
  },
});
