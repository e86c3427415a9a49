import { required } from "../kernel/invariant";
import type { Position, PositionIndex } from "./position-index";
import type { DoorTarget, GrantTarget, LevelRow } from "../facility/document";
import type { Facility } from "../facility/facility";
import type { CompiledDoor, DoorWay } from "./compiled-facility";
import type { PositionIndexes } from "./position-indexes";
import { targetKey } from "./target-key";

type Ways = ReadonlyMap<Position, readonly DoorWay[]>;

/** Which doors a grant's target covers and by which ways; worked out once per target. */
export function coverageOf({ doorGroups, levels, bundles }: Facility, doors: readonly CompiledDoor[], indexes: PositionIndexes): (target: GrantTarget) => Ways {
  const [doorById, groupById, areaById, levelById, bundleById] = [
    indexes.of("doors"),
    indexes.of("doorGroups"),
    indexes.of("areas"),
    indexes.of("levels"),
    indexes.of("bundles"),
  ];
  const at = (positions: PositionIndex, id: string): Position => required(positions.get(id), "references resolve");

  const inGroup = new Map<Position, ReadonlySet<Position>>();
  const doorsInGroup = (group: Position): ReadonlySet<Position> => {
    const known = inGroup.get(group);
    if (known) return known;
    const found = new Set<Position>();
    const seen = new Set([group]);
    const open = [group];
    for (let next = open.pop(); next !== undefined; next = open.pop()) {
      const doorGroup = required(doorGroups[next], "positions are valid");
      for (const id of doorGroup.doors ?? []) found.add(at(doorById, id));
      for (const id of doorGroup.groups ?? []) {
        const below = at(groupById, id);
        if (!seen.has(below)) open.push(below);
        seen.add(below);
      }
    }
    inGroup.set(group, found);
    return found;
  };

  const inArea = new Map<Position, Position[]>();
  for (const door of doors)
    for (const area of door.areas) {
      const list = inArea.get(area);
      if (list) list.push(door.position);
      else inArea.set(area, [door.position]);
    }

  const doorsOf = (target: DoorTarget): Iterable<Position> => {
    if (target.door !== undefined) return [at(doorById, target.door)];
    if (target.doorGroup !== undefined) return doorsInGroup(at(groupById, target.doorGroup));
    return inArea.get(at(areaById, target.area)) ?? [];
  };

  const schedules = indexes.of("schedules");
  const levelWays = (level: Position, bundle: Position | undefined, ways: Map<Position, DoorWay[]>): void => {
    (levels[level]?.rows ?? []).forEach((row: LevelRow, i) => {
      const way: DoorWay = { bundle, level, row: i, schedule: at(schedules, row.schedule) };
      for (const door of doorsOf(row)) {
        const list = ways.get(door);
        if (list) list.push(way);
        else ways.set(door, [way]);
      }
    });
  };

  const known = new Map<string, Ways>();
  return (target) => {
    const key = targetKey(target);
    const before = known.get(key);
    if (before) return before;
    const ways = new Map<Position, DoorWay[]>();
    if (target.level !== undefined) levelWays(at(levelById, target.level), undefined, ways);
    else if (target.bundle !== undefined) {
      const bundle = at(bundleById, target.bundle);
      for (const id of new Set(bundles[bundle]?.levels ?? [])) levelWays(at(levelById, id), bundle, ways);
    } else {
      const way: DoorWay = { bundle: undefined, level: undefined, row: undefined, schedule: undefined };
      for (const door of doorsOf(target)) ways.set(door, [way]);
    }
    known.set(key, ways);
    return ways;
  };
}
