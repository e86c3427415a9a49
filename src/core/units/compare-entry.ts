import type { EntryRule } from "../facility/document";
import { entryRuleTimes } from "../paths/entry-rule-times";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { intersect, nothing, subtract, totalMinutes } from "../time/intervals";
import { zoneOf } from "../time/zone";
import { HeldTimelines } from "./held-times";
import type { HeldDoor, UnitMemory } from "./unit-memory";
import type { UnitSources } from "./unit-sources";

/** A door at which a unit asks for something else than the register says, at so many minutes ahead. */
export interface EntryDifference {
  readonly door: string;
  readonly first: EpochMinute;
  readonly minutes: number;
  /** The rules at the first of these minutes. */
  readonly register: EntryRule;
  readonly held: EntryRule;
}

/** When each entry rule is in force at a unit; the first that holds counts, as there. */
function heldRules({ entry, rules, timeZone }: HeldDoor, held: HeldTimelines): ReadonlyMap<EntryRule, IntervalSet> {
  const zone = zoneOf(timeZone);
  const times = new Map<EntryRule, IntervalSet>();
  let rest: IntervalSet = held.from < held.to ? [held.from, held.to] : nothing;
  for (const rule of rules) {
    const inForce = intersect(rest, held.of(rule.times, zone));
    times.set(rule.entry, inForce);
    rest = subtract(rest, inForce);
  }
  return times.set(entry, rest);
}

/** Doors of a unit at which it asks for something else to be presented than the register says; doors that it does not hold are shut, and not told of here. */
export function compareEntry(sources: UnitSources, unit: string, memory: UnitMemory): readonly EntryDifference[] {
  const held = new HeldTimelines(memory, sources.from, sources.to);
  const heldDoors = new Map(memory.doors.map((door) => [door.id, door]));
  return (sources.doorsOf.get(unit) ?? []).flatMap((door): EntryDifference[] => {
    const heldDoor = heldDoors.get(door.door.id);
    if (!heldDoor) return [];
    const atUnit = heldRules(heldDoor, held);
    let first: { readonly at: number; readonly register: EntryRule; readonly held: EntryRule } | undefined;
    let minutes = 0;
    for (const [register, inForce] of entryRuleTimes(sources.table.timeframe, door))
      for (const [rule, times] of atUnit) {
        const both = rule === register ? nothing : intersect(inForce, times);
        const at = both[0];
        if (at === undefined) continue;
        minutes += totalMinutes(both);
        if (!first || at < first.at) first = { at, register, held: rule };
      }
    return first ? [{ door: door.door.id, first: first.at as EpochMinute, minutes, register: first.register, held: first.held }] : [];
  });
}
