import type { CompiledFacility } from "../../compile/compiled-facility";
import { directoryOf } from "../directory";
import type { RegisterKind } from "../kinds";
import { cardholdersOn } from "./cardholders-on";
import { doorsOn } from "./doors-on";
import { grantsOn } from "./grants-on";
import { groupsOn } from "./groups-on";
import { levelsOn } from "./levels-on";
import type { Book, Hook, Related } from "./ways";
import { Ways, collect, nothingHangs } from "./ways";

/** Objects of a kind that hang on another; empty where the two have nothing to do with each other. */
function relatedIn(book: Book, kind: RegisterKind, hook: Hook): Related {
  const { compiled, directory } = book;
  const { facility } = compiled;
  switch (kind) {
    case "cardholder":
      return cardholdersOn(book, hook);
    case "door":
      return doorsOn(book, hook);
    case "level":
      return levelsOn(book, hook);
    case "grant":
      return grantsOn(book, hook);
    case "group":
      return groupsOn(book, hook);
    case "credential":
      return hook.kind === "cardholder" ? new Map((compiled.cardholders.at(compiled.cardholderById.get(hook.id) ?? -1)?.credentials ?? []).map((position) => [position, ""])) : nothingHangs;
    case "bundle":
      return hook.kind === "level" ? collect(facility.bundles, ({ levels }) => (levels?.includes(hook.id) ? "" : undefined)) : nothingHangs;
    case "area":
      return collect(facility.areas, ({ site, parent, owner }) =>
        hook.kind === "site" && site === hook.id ? "" : hook.kind === "area" && parent === hook.id ? "inside it" : hook.kind === "cardholder" && owner === hook.id ? "owns it" : undefined,
      );
    case "doorGroup":
      return collect(facility.doorGroups, ({ doors, groups }) => (hook.kind === "door" && doors?.includes(hook.id) ? "" : hook.kind === "doorGroup" && groups?.includes(hook.id) ? "holds it" : undefined));
    case "site":
      return collect(facility.sites, ({ calendar }) => (hook.kind === "calendar" && calendar === hook.id ? "" : undefined));
    case "schedule": {
      const ways = new Ways();
      if (hook.kind === "level") for (const { schedule } of facility.levels[directory.position("level", hook.id) ?? -1]?.rows ?? []) ways.add(directory.position("schedule", schedule), "in its rows");
      if (hook.kind === "door") {
        const door = facility.doors[compiled.doorById.get(hook.id) ?? -1];
        if (door?.unlock !== undefined) ways.add(directory.position("schedule", door.unlock), "unlocks it");
        for (const { schedule, entry } of door?.entryRows ?? []) ways.add(directory.position("schedule", schedule), `entry by ${entry}`);
      }
      return ways.all();
    }
    default:
      return nothingHangs;
  }
}

interface Kept {
  readonly book: Book;
  /** The last few that were asked for: a list is paged through. */
  readonly found: Map<string, Related>;
}

const kept = new WeakMap<CompiledFacility, Kept>();
const foundKept = 32;

/** Objects of a kind that hang on another, each with the ways in words. Cost: a pass over the lists that can name it, once. */
export function relatedTo(compiled: CompiledFacility, kind: RegisterKind, hook: Hook): Related {
  const { book, found } = kept.get(compiled) ?? { book: { compiled, directory: directoryOf(compiled) }, found: new Map<string, Related>() };
  kept.set(compiled, { book, found });
  const key = `${kind} ${hook.kind} ${hook.id}`;
  let related = found.get(key);
  if (!related) {
    related = relatedIn(book, kind, hook);
    const oldest = found.keys().next().value;
    if (found.size >= foundKept && oldest !== undefined) found.delete(oldest);
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
