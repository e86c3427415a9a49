import type { Position } from "../../compile/position-index";
import { carriersOf } from "../carrying";
import type { PathsByDoor } from "../carrying";
import { lazily, tellOnce } from "../flag";
import type { FlagOf, Untold } from "../flag";
import { remembered, rememberedByList } from "../../kernel/remembered";
import type { Holder, Judged } from "../judged";
import { rule, standards } from "../rule";

/** The doors but floors to which paths of a right carry, and what is said of all of them. */
interface RightDoors {
  readonly doors: readonly Position[];
  readonly ids: readonly string[];
  readonly sites: readonly string[];
}

/** By right: a level's position, or -1 - a grant's for one without a level. */
type RightsByNumber = ReadonlyMap<number, RightDoors>;

/** The rights to which paths carry; worked out once for all who have the same paths. */
function rightsOf(judged: Judged): (lists: readonly PathsByDoor[]) => RightsByNumber {
  const right = (doors: readonly Position[]): RightDoors => ({ doors, ids: judged.doorIds(doors), sites: judged.sitesConcerned(doors) });
  const ofList = remembered((paths: PathsByDoor): RightsByNumber => {
    const found = new Map<number, Set<Position>>();
    for (const [door, carrying] of paths) {
      if (judged.door(door).door.kind === "floor") continue;
      for (const { level, grant } of carrying) {
        const key = level ?? -1 - grant;
        const doors = found.get(key);
        if (doors) doors.add(door);
        else found.set(key, new Set([door]));
      }
    }
    return new Map(Array.from(found, ([key, doors]) => [key, right([...doors])]));
  });
  const together = rememberedByList((parts: readonly RightDoors[]) => right([...new Set(parts.flatMap(({ doors }) => doors))]));
  return (lists) => {
    const [only] = lists;
    if (lists.length === 1 && only) return ofList(only);
    const all = new Map<number, RightDoors>();
    for (const list of lists)
      for (const [key, part] of ofList(list)) {
        const known = all.get(key);
        all.set(key, known === undefined || known === part ? part : together([known, part]));
      }
    return all;
  };
}

/** A level, or a grant without one, of whose doors somebody has used only a few. */
export const rightUnused = rule({
  key: "right-unused",
  base: 12,
  source: standards.nist("AC-6(7)"),
  parameters: { days: 180, percent: 50 },
  find: (judged, { days, percent }) => {
    const carriers = carriersOf(judged);
    const rightsOfPaths = rightsOf(judged);
    const wantingFor = judged.wantingFor(days);
    const distinctOf = remembered((right: number): readonly string[] =>
      right < 0 ? ["grant", judged.facility.grants[-1 - right]?.id ?? ""] : ["level", judged.facility.levels[right]?.id ?? ""],
    );
    const usedBy = ({ credentials }: Holder): ReadonlySet<Position> => {
      const used = new Set<Position>();
      for (const credential of credentials)
        for (const [door, minute] of judged.events.lastGrantedByDoor(credential)) if (minute >= judged.daysBefore(days)) used.add(door);
      return used;
    };
    const untold: Untold[] = [];
    return {
      flags: lazily(function* (): Generator<FlagOf<"right-unused">> {
        for (const holder of judged.holders) {
          const used = usedBy(holder);
          const told = new Set<Untold["sites"]>();
          for (const [right, { doors: all, ids, sites }] of rightsOfPaths(carriers.ofHolder(holder))) {
            const unused = used.size === 0 ? all : all.filter((door) => !used.has(door));
            const count = all.length - unused.length;
            if (count * 100 >= percent * all.length) continue;
            const wanting = wantingFor(count === 0 ? sites : judged.sitesConcerned(unused));
            if (wanting) tellOnce(untold, told, holder.id, wanting);
            else
              yield {
                subject: holder,
                distinct: distinctOf(right),
                proof: { doors: all.length, used: count, unused: count === 0 ? ids : judged.doorIds(unused) },
              };
          }
        }
      }),
      untold,
    };
  },
});
