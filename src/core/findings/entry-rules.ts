import type { Position } from "../compile/position-index";
import type { IntervalSet } from "../time/intervals";
import { intersect, nothing, subtract, union } from "../time/intervals";
import type { Judged } from "./judged";

/** When each entry rule of a door is in force ahead; those that never are, are not there. */
export function entryRuleTimes({ compiled, timeframe }: Judged, door: Position): ReadonlyMap<string, IntervalSet> {
  const at = compiled.doors[door];
  const times = new Map<string, IntervalSet>();
  if (!at) return times;
  const add = (entry: string, open: IntervalSet): void => {
    if (open.length > 0) times.set(entry, union(times.get(entry) ?? nothing, open));
  };
  let rest = timeframe.span;
  for (const { schedule, entry } of at.entryRows) {
    const inForce = intersect(rest, timeframe.schedule(schedule, at.calendar, at.zone));
    add(entry, inForce);
    rest = subtract(rest, inForce);
  }
  add(at.entry, rest);
  return times;
}
