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

/** The same of several lists taken together; of the same lists once. */
function together(): (all: readonly DoorsByRight[]) => DoorsByRight {
  const numbers = new Map<DoorsByRight, number>();
  const numberOf = (one: DoorsByRight): number => {
    const number = numbers.get(one) ?? numbers.size;
    numbers.set(one, number);
    return number;
  };
  const known = new Map<string, DoorsByRight>();
  return (all) => {
    const [only] = all;
    if (only && all.length === 1) return only;
    const key = all.map(numberOf).join(" ");
    const before = known.get(key);
    if (before) return before;
    const rights = new Map<number, ReadonlySet<Position>>();
    for (const own of all)
      for (const [right, doors] of own) {
        const other = rights.get(right);
        rights.set(right, other ? new Set([...other, ...doors]) : doors);
      }
    known.set(key, rights);
    return rights;
  };
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
    const rightsOfAll = together();
    const wantingFor = judged.wantingFor(days);
    // Most people use none of the doors of a right, or all that speak of it alike.
    const allOf = remembered((doors: ReadonlySet<Position>): readonly Position[] => [...doors]);
    const idsOf = remembered((doors: readonly Position[]) => judged.doorIds(doors));
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
      for (const [right, doors] of rightsOfAll(holder.credentials.flatMap((credential) => carriers.of(credential).map(rightsOf)))) {
        const all = allOf(doors);
        const unused = used.size === 0 ? all : all.filter((door) => !used.has(door));
        const count = doors.size - unused.length;
        if (count * 100 >= percent * doors.size) continue;
        const wanting = unused === all ? wantingFor(all) : judged.untoldAt(holder.id, judged.sitesConcerned(unused), () => days)?.sites;
        if (wanting) untold.push({ id: holder.id, sites: wanting });
        else
          flags.push({
            subject: { kind: holder.kind, id: holder.id },
            distinct: told(right),
            proof: { doors: doors.size, used: count, unused: unused === all ? idsOf(all) : judged.doorIds(unused) },
          });
      }
    }
    return { flags, untold };
  },
});
