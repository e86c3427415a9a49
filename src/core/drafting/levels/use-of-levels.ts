import type { LevelRow } from "../../facility/document";
import type { Position } from "../../compile/position-index";
import { heldBy } from "../../findings/held";
import type { Holder, Judged } from "../../findings/judged";
import { doorsOfLevelRow } from "./equal-levels";

/** So many days back a use counts: as `right-unused` has it. */
export const daysOfUse = 180;

/** The doors of a row of a level. */
export const coverOf = ({ compiled }: Judged, row: LevelRow): Position[] => [...doorsOfLevelRow(compiled, row).keys()];

const isFloor = ({ facility }: Judged, door: Position): boolean => facility.doors[door]?.kind === "floor";

/** The doors of a level by position, each once. Floors of lifts are left out: what is used is told of the lift. */
export function doorsOfLevel(judged: Judged, level: Position): readonly Position[] {
  const rows = judged.facility.levels[level]?.rows ?? [];
  return [...new Set(rows.flatMap((row) => coverOf(judged, row)))].filter((door) => !isFloor(judged, door));
}

/** Who holds each level, in whatever way. Levels that nobody holds are not among them. */
export function holdersOfLevels(judged: Judged): ReadonlyMap<Position, readonly Holder[]> {
  const found = new Map<Position, Holder[]>();
  for (const holder of judged.holders)
    for (const level of heldBy(judged, holder).levels) {
      const holders = found.get(level);
      if (holders) holders.push(holder);
      else found.set(level, [holder]);
    }
  return found;
}

/** What holders used: the doors of the last days of each, worked out once. */
export function usedDoors(judged: Judged): (holder: Holder) => ReadonlySet<Position> {
  const known = new Map<Holder, ReadonlySet<Position>>();
  return (holder) => {
    let used = known.get(holder);
    if (!used) {
      const found = new Set<Position>();
      for (const credential of holder.credentials)
        for (const [door, minute] of judged.events.lastGrantedByDoor(credential)) if (minute >= judged.daysBefore(daysOfUse)) found.add(door);
      known.set(holder, (used = found));
    }
    return used;
  };
}

/** Whether events tell of doors for so long that what was not used can be told. */
export const isUseTold = (judged: Judged, doors: readonly Position[]): boolean => judged.wantingFor(daysOfUse)(judged.sitesConcerned(doors)) === undefined;

/** What holders of a level used of it in the last days. */
export interface UseOfLevel {
  readonly level: Position;
  readonly doors: number;
  readonly holders: number;
  /** False where events do not cover the days at each of its doors' sites: then what follows is only what was seen. */
  readonly isTold: boolean;
  /** How many of its holders used any of its doors. */
  readonly using: number;
  /** How many pairs of a holder and a door were used, of holders × doors. */
  readonly usedPairs: number;
  /** Its doors that none of its holders used. */
  readonly unused: readonly Position[];
}

/** Of each level what its holders use of it. Cost: what each holder used, once for each level that they hold. */
export function useOfLevels(judged: Judged): UseOfLevel[] {
  const usedBy = usedDoors(judged);
  const holdersOf = holdersOfLevels(judged);
  return judged.facility.levels.map((_level, level): UseOfLevel => {
    const doors = doorsOfLevel(judged, level);
    const holders = holdersOf.get(level) ?? [];
    const isOfLevel = new Set(doors);
    const isUsed = new Set<Position>();
    let [using, usedPairs] = [0, 0];
    for (const holder of holders) {
      const before = usedPairs;
      for (const door of usedBy(holder)) {
        if (!isOfLevel.has(door)) continue;
        isUsed.add(door);
        usedPairs++;
      }
      if (usedPairs > before) using++;
    }
    return {
      level,
      doors: doors.length,
      holders: holders.length,
      isTold: isUseTold(judged, doors),
      using,
      usedPairs,
      unused: doors.filter((door) => !isUsed.has(door)),
    };
  });
}
