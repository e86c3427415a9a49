import type { CompiledFacility } from "../../compile/compiled-facility";
import { targetKey } from "../../compile/target-key";
import type { Grant, GrantTarget } from "../../facility/document";
import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";

/** A part of what a grant opens, as a grant of its own would say it. */
export interface GrantPart {
  readonly open: GrantTarget;
  readonly schedule: string | undefined;
}

export interface GrantParts {
  /** The largest parts that cover none of the asked doors. */
  readonly outside: readonly GrantPart[];
  /** What is left: single asked doors. */
  readonly asked: readonly GrantPart[];
}

/** What a target falls into, one step down; undefined where that cannot be said by grants. */
function below(compiled: CompiledFacility, { open, schedule }: GrantPart): readonly GrantPart[] | undefined {
  const { facility, indexes } = compiled;
  const same = (targets: readonly GrantTarget[]): GrantPart[] => targets.map((target) => ({ open: target, schedule }));
  if (open.bundle !== undefined)
    return same((facility.bundles[required(indexes.of("bundles").get(open.bundle), "references resolve")]?.levels ?? []).map((level) => ({ level })));
  if (open.level !== undefined) {
    const rows = facility.levels[required(indexes.of("levels").get(open.level), "references resolve")]?.rows ?? [];
    const parts: GrantPart[] = [];
    for (const { door, doorGroup, area, schedule: ofRow, actions = [] } of rows) {
      const target: GrantTarget = door !== undefined ? { door } : doorGroup !== undefined ? { doorGroup } : { area: area };
      if (compiled.cover(target).size === 0) continue;
      // A grant has no actions, and one schedule.
      if (actions.length > 0 || (schedule !== undefined && schedule !== ofRow)) return undefined;
      parts.push({ open: target, schedule: ofRow });
    }
    return parts;
  }
  if (open.doorGroup !== undefined) {
    const { doors = [], groups = [] } = required(
      facility.doorGroups[required(indexes.of("doorGroups").get(open.doorGroup), "references resolve")],
      "positions are valid",
    );
    return same([...doors.map((door) => ({ door })), ...groups.map((doorGroup) => ({ doorGroup }))]);
  }
  if (open.door !== undefined) return [];
  const { area } = open;
  return same([
    ...facility.doors.filter((door) => door.area === area).map(({ id }) => ({ door: id })),
    ...facility.areas.filter(({ parent }) => parent === area).map(({ id }) => ({ area: id })),
  ]);
}

/**
 * Splits what a grant opens at some doors: parts that cover no door fall away, parts that cover none of the asked ones stay whole, and the others
 * fall into what they are made of. Equal parts are one. Undefined where there is nothing outside the asked doors, or where grants cannot say
 * the parts. Cost: the targets within the grant's, each once.
 */
export function partsOf(compiled: CompiledFacility, grant: Grant, isAsked: (door: Position) => boolean): GrantParts | undefined {
  const [outside, asked]: [GrantPart[], GrantPart[]] = [[], []];
  const seen = new Set<string>();
  const open: GrantPart[] = [{ open: grant.open, schedule: grant.schedule }];
  // An explicit stack: door groups and areas may be nested as deep as their lists are long.
  for (let part = open.pop(); part !== undefined; part = open.pop()) {
    const key = JSON.stringify([targetKey(part.open), part.schedule ?? null]);
    if (seen.has(key)) continue;
    seen.add(key);
    const doors = [...compiled.cover(part.open).keys()];
    if (doors.length === 0) continue;
    if (!doors.some(isAsked)) outside.push(part);
    else if (part.open.door !== undefined) asked.push(part);
    else {
      const parts = below(compiled, part);
      if (parts === undefined) return undefined;
      open.push(...parts);
    }
  }
  return outside.length === 0 ? undefined : { outside, asked };
}
