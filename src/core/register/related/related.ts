import type { CompiledFacility } from "../../compile/compiled-facility";
import { directoryOf } from "../directory";
import type { RegisterKind } from "../kinds";
import { cardholdersOn } from "./cardholders-on";
import { doorsOn } from "./doors-on";
import { grantsOn } from "./grants-on";
import { groupsOn } from "./groups-on";
import { levelsOn } from "./levels-on";
import type { NamedRegister, ObjectRef, Related } from "./ways";
import { Ways, collect, nothingRelated } from "./ways";

/** Objects of a kind that hang on another; empty where the two have nothing to do with each other. */
function relatedIn(register: NamedRegister, kind: RegisterKind, object: ObjectRef): Related {
  const { compiled, directory } = register;
  const { facility } = compiled;
  switch (kind) {
    case "cardholder":
      return cardholdersOn(register, object);
    case "door":
      return doorsOn(register, object);
    case "level":
      return levelsOn(register, object);
    case "grant":
      return grantsOn(register, object);
    case "group":
      return groupsOn(register, object);
    case "credential":
      return object.kind === "cardholder"
        ? new Map((compiled.cardholders.at(compiled.cardholderById.get(object.id) ?? -1)?.credentials ?? []).map((position) => [position, ""]))
        : nothingRelated;
    case "bundle":
      return object.kind === "level" ? collect(facility.bundles, ({ levels }) => (levels?.includes(object.id) ? "" : undefined)) : nothingRelated;
    case "area":
      return collect(facility.areas, ({ site, parent, owner }) =>
        object.kind === "site" && site === object.id
          ? ""
          : object.kind === "area" && parent === object.id
            ? "inside it"
            : object.kind === "cardholder" && owner === object.id
              ? "owns it"
              : undefined,
      );
    case "doorGroup":
      return collect(facility.doorGroups, ({ doors, groups }) =>
        object.kind === "door" && doors?.includes(object.id) ? "" : object.kind === "doorGroup" && groups?.includes(object.id) ? "holds it" : undefined,
      );
    case "site":
      return collect(facility.sites, ({ calendar }) => (object.kind === "calendar" && calendar === object.id ? "" : undefined));
    case "schedule": {
      const ways = new Ways();
      if (object.kind === "level")
        for (const { schedule } of facility.levels[directory.position("level", object.id) ?? -1]?.rows ?? [])
          ways.add(directory.position("schedule", schedule), "in its rows");
      if (object.kind === "door") {
        const door = facility.doors[compiled.doorById.get(object.id) ?? -1];
        if (door?.unlock !== undefined) ways.add(directory.position("schedule", door.unlock), "unlocks it");
        for (const { schedule, entry } of door?.entryRows ?? []) ways.add(directory.position("schedule", schedule), `entry by ${entry}`);
      }
      return ways.all();
    }
    default:
      return nothingRelated;
  }
}

interface RememberedRelations {
  readonly register: NamedRegister;
  /** The last few that were asked for: a list is paged through. */
  readonly found: Map<string, Related>;
}

const remembered = new WeakMap<CompiledFacility, RememberedRelations>();
const relationsRemembered = 32;

/** Objects of a kind that hang on another, each with the ways in words. Cost: a pass over the lists that can name it, once. */
export function relatedTo(compiled: CompiledFacility, kind: RegisterKind, object: ObjectRef): Related {
  const { register, found } = remembered.get(compiled) ?? { register: { compiled, directory: directoryOf(compiled) }, found: new Map<string, Related>() };
  remembered.set(compiled, { register, found });
  const key = `${kind} ${object.kind} ${object.id}`;
  let related = found.get(key);
  if (!related) {
    related = relatedIn(register, kind, object);
    const oldest = found.keys().next().value;
    if (found.size >= relationsRemembered && oldest !== undefined) found.delete(oldest);
    found.set(key, related);
  }
  return related;
}

/** For each kind the kinds of what can hang on it, in the order in which its page shows them. */
export const relatedKinds: Readonly<Record<RegisterKind, readonly RegisterKind[]>> = {
  cardholder: ["credential", "group", "level", "grant", "area", "cardholder"],
  credential: ["grant", "level"],
  group: ["grant", "level", "cardholder", "group"],
  door: ["level", "grant", "schedule", "doorGroup", "door"],
  area: ["door", "area", "level", "grant"],
  site: ["area", "door", "cardholder"],
  doorGroup: ["door", "level", "grant", "doorGroup"],
  level: ["door", "cardholder", "group", "grant", "bundle", "schedule"],
  bundle: ["level", "door", "cardholder", "group", "grant"],
  grant: ["door", "cardholder"],
  schedule: ["level", "door", "grant", "cardholder"],
  calendar: ["site", "cardholder"],
};
