import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import { groupBy } from "../../kernel/compare";
import type { AccessTable } from "../../table/access-table";
import { never } from "../../table/timelines";
import type { TimelineNumber } from "../../table/timelines";
import { remembered } from "../../kernel/remembered";
import type { Judged } from "../judged";
import { rule, standards } from "../rule";
import type { FlagOf, Untold } from "../flag";

/** Outside, as a place beside the areas. */
const outside = -1;

interface Passage {
  readonly door: Position;
  readonly from: Position;
  readonly to: Position;
}

/**
 * When each place can be got to from outside, through passages that can be taken at some times. Grows until nothing is added to any place, or all that
 * are wanted can be got to at some time.
 */
function reachable(
  { timelines, timeframe }: AccessTable,
  leaving: ReadonlyMap<Position, readonly Passage[]>,
  takenAt: (door: Position) => TimelineNumber,
  wanted: ReadonlySet<Position>,
): ReadonlyMap<Position, TimelineNumber> {
  const span = timelines.number(timeframe.span);
  const times = new Map<Position, TimelineNumber>([[outside, span]]);
  const waiting = [outside];
  const missing = new Set(wanted);
  missing.delete(outside);
  for (let place = waiting.pop(); place !== undefined && missing.size > 0; place = waiting.pop()) {
    const there = times.get(place) ?? never;
    for (const { door, to } of leaving.get(place) ?? []) {
      const before = times.get(to) ?? never;
      const taken = takenAt(door);
      const after = taken === never || before === span ? before : timelines.union(before, there === span ? taken : timelines.intersect(there, taken));
      if (after === before) continue;
      missing.delete(to);
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
    const leaving = groupBy(passages, ({ from }) => from);
    const fromOf = new Map(passages.map(({ door, from }) => [door, from]));
    const span = timelines.number(timeframe.span);
    const places = new Set(passages.flatMap(({ from, to }) => [from, to]));
    const ever = reachable(judged.ahead, leaving, () => span, places);
    const freeOf = remembered((door: Position) => timelines.number(judged.freeAhead(door)));
    const stranded = remembered((row: number) => {
      const inside = judged.doorsInRow(row).filter((door) => fromOf.get(door) !== outside);
      if (inside.length === 0) return { doors: [], isUntold: false };
      const open = new Map<Position, TimelineNumber>();
      for (let i = rows.start(row); i < rows.end(row); i++) open.set(rows.doors[i] as Position, rows.times[i] as TimelineNumber);
      const takenAt = (door: Position): TimelineNumber => timelines.union(open.get(door) ?? never, freeOf(door));
      const wanted = new Set(inside.map((door) => fromOf.get(door) ?? outside));
      // What cannot be got to even if all that opens at some time opened always needs no clock.
      const atLeast = reachable(judged.ahead, leaving, (door) => (takenAt(door) === never ? never : span), wanted);
      const reached = reachable(judged.ahead, leaving, takenAt, new Set([...wanted].filter((place) => atLeast.has(place))));
      const isThere = (places: ReadonlyMap<Position, TimelineNumber>, door: Position): boolean => (places.get(fromOf.get(door) ?? outside) ?? never) !== never;
      return {
        doors: inside.filter((door) => isThere(ever, door) && !isThere(reached, door)),
        isUntold: inside.some((door) => !isThere(ever, door)),
      };
    });
    const flags: FlagOf<"stranded-right">[] = [];
    const untold: Untold[] = [];
    for (const holder of judged.holders) {
      const { doors, isUntold } = stranded(judged.rowOf(holder));
      if (isUntold) untold.push({ id: holder.id });
      for (const door of doors)
        flags.push({
          subject: { kind: holder.kind, id: holder.id },
          distinct: judged.doorIds([door]),
          proof: { from: required(judged.door(door).door.from, "only doors that lead out of an area are looked at") },
        });
    }
    return { flags, untold };
  },
});
