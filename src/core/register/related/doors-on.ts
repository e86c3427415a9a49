import type { Position } from "../../compile/position-index";
import type { NamedRegister, ObjectRef, Related } from "./ways";
import { Ways, collect } from "./ways";

/** Doors that a row or a target covers by itself, through a door group, or through an area. */
export function doorsIn(
  { compiled, directory }: NamedRegister,
  { door, doorGroup, area }: { readonly door?: string; readonly doorGroup?: string; readonly area?: string },
): Position[] {
  if (door !== undefined) return [compiled.doorById.get(door)].filter((position) => position !== undefined);
  if (area !== undefined)
    return compiled.doors.filter(({ areas }) => areas.some((one) => compiled.facility.areas[one]?.id === area)).map(({ position }) => position);
  const found = new Set<Position>();
  const seen = new Set<string>();
  const walk = (group: string): void => {
    if (seen.has(group)) return;
    seen.add(group);
    const held = compiled.facility.doorGroups[directory.position("doorGroup", group) ?? -1];
    for (const one of held?.doors ?? []) {
      const position = compiled.doorById.get(one);
      if (position !== undefined) found.add(position);
    }
    for (const one of held?.groups ?? []) walk(one);
  };
  if (doorGroup !== undefined) walk(doorGroup);
  return [...found];
}

/** Doors that hang on an object. */
export function doorsOn(register: NamedRegister, { kind, id }: ObjectRef): Related {
  const { compiled, directory } = register;
  const { facility } = compiled;
  const ways = new Ways();
  const covered = (grant: Position, words: string): void => {
    for (const [door, by] of compiled.waysOf(grant))
      for (const { schedule } of by) ways.add(door, schedule === undefined ? words : `${facility.schedules[schedule]?.name ?? ""}${words}`);
  };
  const ofLevel = (level: string, words: string): void => {
    const rows = facility.levels[directory.position("level", level) ?? -1]?.rows ?? [];
    for (const row of rows) for (const door of doorsIn(register, row)) ways.add(door, `${directory.name("schedule", row.schedule)}${words}`);
  };
  switch (kind) {
    case "area":
      for (const { position, areas } of compiled.doors)
        areas.forEach((area, depth) => {
          if (facility.areas[area]?.id === id) ways.add(position, depth === 0 ? "leads into it" : `leads into ${facility.areas[areas[0] ?? -1]?.name ?? ""}`);
        });
      facility.doors.forEach(({ from }, position) => {
        if (from === id) ways.add(position, "leads out of it");
      });
      break;
    case "site":
      return collect(facility.doors, ({ site }) => (site === id ? "" : undefined));
    case "door":
      return collect(facility.doors, ({ via }) => (via === id ? "lies behind it" : undefined));
    case "doorGroup":
      for (const door of doorsIn(register, { doorGroup: id }))
        ways.add(
          door,
          (facility.doorGroups[directory.position("doorGroup", id) ?? -1]?.doors ?? []).includes(facility.doors[door]?.id ?? "")
            ? ""
            : "through a door group in it",
        );
      break;
    case "level":
      ofLevel(id, "");
      break;
    case "bundle":
      for (const level of facility.bundles[directory.position("bundle", id) ?? -1]?.levels ?? []) ofLevel(level, `, level ${directory.name("level", level)}`);
      break;
    case "grant":
      covered(directory.position("grant", id) ?? -1, "");
      break;
    case "schedule":
      facility.doors.forEach(({ unlock, entryRows }, position) => {
        if (unlock === id) ways.add(position, "unlocked by it");
        for (const { schedule, entry } of entryRows ?? []) if (schedule === id) ways.add(position, `entry by ${entry} while it is open`);
      });
      for (const level of facility.levels)
        for (const row of level.rows ?? []) if (row.schedule === id) for (const door of doorsIn(register, row)) ways.add(door, `level ${level.name}`);
      break;
    default:
  }
  return ways.all();
}
