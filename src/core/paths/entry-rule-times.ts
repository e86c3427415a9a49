import type { CompiledDoor } from "../compile/compiled-facility";
import type { EntryRule } from "../facility/document";
import type { IntervalSet } from "../time/intervals";
import { intersect, nothing, subtract, union } from "../time/intervals";
import type { Timeframe } from "./timeframe";

/** When each entry rule of a door is in force; those that never are, are not there. */
export function entryRuleTimes(timeframe: Timeframe, door: CompiledDoor): ReadonlyMap<EntryRule, IntervalSet> {
  const times = new Map<EntryRule, IntervalSet>();
  const add = (entry: EntryRule, open: IntervalSet): void => {
    if (open.length > 0) times.set(entry, union(times.get(entry) ?? nothing, open));
  };
  let rest = timeframe.span;
  for (const { schedule, entry } of door.entryRows) {
    const inForce = intersect(rest, timeframe.schedule(schedule, door.calendar, door.zone));
    add(entry, inForce);
    rest = subtract(rest, inForce);
  }
  add(door.entry, rest);
  return times;
}
