import { doorSensitivity } from "../compile/door-sensitivity";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { unreachable } from "../kernel/invariant";
import type { Where } from "./question";

/**
 * The doors that a question is about, in order of position; undefined for all of them. Empty where there is none, or no such place: ask `isPlaceThere`
 * to tell these apart.
 */
export function askedDoors(compiled: CompiledFacility, where: Where | undefined): readonly Position[] | undefined {
  if (where === undefined) return undefined;
  const doorsThat = (isMeant: (door: Position) => boolean): Position[] => compiled.doors.map(({ position }) => position).filter(isMeant);
  switch (where.kind) {
    case "anywhere":
      return undefined;
    case "door": {
      const door = compiled.doorById.get(where.id);
      return door === undefined ? [] : [door];
    }
    case "area": {
      const area = compiled.indexes.of("areas").get(where.id);
      return area === undefined ? [] : doorsThat((door) => compiled.doors[door]?.areas.includes(area) === true);
    }
    case "site":
      return doorsThat((door) => compiled.doors[door]?.door.site === where.id);
    case "doorGroup":
    case "level": {
      if (!isPlaceThere(compiled, where)) return [];
      const covered = compiled.cover(where.kind === "level" ? { level: where.id } : { doorGroup: where.id });
      return [...covered.keys()].sort((a, b) => a - b);
    }
    case "sensitivity":
      return doorsThat((door) => doorSensitivity(compiled, door) >= where.from);
    default:
      return unreachable(where);
  }
}

const lists = { door: "doors", area: "areas", site: "sites", doorGroup: "doorGroups", level: "levels" } as const;

/** Whether the register holds a place. */
export const isPlaceThere = (compiled: CompiledFacility, where: Where): boolean =>
  where.kind === "anywhere" || where.kind === "sensitivity" || compiled.indexes.of(lists[where.kind]).get(where.id) !== undefined;
