import type { Position } from "../../compile/position-index";
import type { IntervalSet } from "../../time/intervals";
import { intersect, nothing, union } from "../../time/intervals";
import { remembered } from "../judged";
import type { Judged } from "../judged";
import { rule, standards } from "../rule";
import type { Flag, Untold } from "../flag";

/** Outside, as a place beside the areas. */
const outside = -1;

interface Passage {
  readonly door: Position;
  readonly from: Position;
  readonly to: Position;
}

/** When each place can be got to from outside, through passages that can be taken at some times. Grows until nothing is added to any place. */
function reachable(passages: readonly Passage[], span: IntervalSet, takenAt: (door: Position) => IntervalSet): ReadonlyMap<Position, IntervalSet> {
  const times = new Map<Position, IntervalSet>([[outside, span]]);
  const leaving = new Map<Position, Passage[]>();
  for (const passage of passages) {
    const known = leaving.get(passage.from);
    if (known) known.push(passage);
    else leaving.set(passage.from, [passage]);
  }
  const waiting = [outside];
  for (let place = waiting.pop(); place !== undefined; place = waiting.pop()) {
    const there = times.get(place) ?? nothing;
    for (const { door, to } of leaving.get(place) ?? []) {
      const before = times.get(to) ?? nothing;
      const after = union(before, intersect(there, takenAt(door)));
      if (after.length === before.length && after.every((bound, i) => bound === before[i])) continue;
      times.set(to, after);
      waiting.push(to);
    }
  }
  return times;
}

function passagesOf({ compiled }: Judged): Passage[] {
  const areas = compiled.indexes.of("areas");
  const place = (id: string | undefined): Position => (id === undefined ? outside : (areas.get(id) ?? outside));
  return compiled.doors.map(({ position, door }) => ({ door: position, from: place(door.from), to: place(door.area) }));
}

/** A door that somebody opens and cannot get to. */
export const strandedRight = rule({
  key: "stranded-right",
  base: 6,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const { rows, timelines, timeframe } = judged.ahead;
    const passages = passagesOf(judged);
    const fromOf = new Map(passages.map(({ door, from }) => [door, from]));
    const ever = reachable(passages, timeframe.span, () => timeframe.span);
    const stranded = remembered((row: number) => {
      const inside = judged.doorsInRow(row).filter((door) => fromOf.get(door) !== outside);
      if (inside.length === 0) return { doors: [], isUntold: false };
      const open = new Map<Position, number>();
      for (let i = rows.start(row); i < rows.end(row); i++) open.set(rows.doors[i] as Position, rows.times[i] as number);
      const places = reachable(passages, timeframe.span, (door) => union(timelines.set(open.get(door) ?? 0), judged.freeAhead(door)));
      const isThere = (places: ReadonlyMap<Position, IntervalSet>, door: Position): boolean => (places.get(fromOf.get(door) ?? outside) ?? nothing).length > 0;
      return {
        doors: inside.filter((door) => isThere(ever, door) && !isThere(places, door)),
        isUntold: inside.some((door) => !isThere(ever, door)),
      };
    });
    const flags: Flag[] = [];
    const untold: Untold[] = [];
    for (const holder of judged.holders) {
      const { doors, isUntold } = stranded(judged.rowOf(holder));
      if (isUntold) untold.push({ id: holder.id });
      for (const door of doors)
        flags.push({
          subject: { kind: holder.kind, id: holder.id },
          distinct: judged.doorIds([door]),
          proof: { from: judged.door(door).door.from },
        });
    }
    return { flags, untold };
  },
});
