import type { Position } from "../../compile/position-index";
import { required } from "../../kernel/invariant";
import { remembered } from "../../kernel/remembered";
import type { RowNumber } from "../../table/access-rows";
import { timelineAt } from "../../table/access-rows";
import type { AccessTable } from "../../table/access-table";
import { never } from "../../table/timelines";
import type { TimelineNumber } from "../../table/timelines";
import type { CivilDay } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import type { Zone } from "../../time/zone";
import type { Holder } from "../judged";
import { localDate } from "../written";

/** What of access is over after a date, or is there for the first time on it. */
export interface ReachOfDay {
  /** How many pairs of a holder and a door, and the holders and doors that are in any. */
  pairs: number;
  holders: number;
  readonly doors: Set<Position>;
  /** The first few of the holders. */
  readonly named: Holder[];
}

export interface DayOfForecast {
  readonly date: CivilDay;
  /** Doors that are opened for the last time in the 13 months ahead. */
  readonly lost: ReachOfDay;
  /** Doors that are opened for the first time, and that are not opened in an ordinary week at the export. */
  readonly gained: ReachOfDay;
}

const holdersNamed = 12;
const nothingOfDay = (): ReachOfDay => ({ pairs: 0, holders: 0, doors: new Set(), named: [] });

/** On which of its dates a row opens doors for the last time, and for the first. */
type ByDate = readonly (readonly [date: CivilDay, change: "lost" | "gained", doors: readonly Position[]])[];

/**
 * What of access is over and what is new, date by date in a zone, from the export to a minute. `week` is the ordinary week at the export. Cost: the entries
 * of each distinct row once.
 */
export function reachByDay(
  holders: readonly Holder[],
  ahead: { readonly table: AccessTable; readonly rowOf: (holder: Holder) => RowNumber },
  week: { readonly table: AccessTable; readonly rowOf: (holder: Holder) => RowNumber },
  to: EpochMinute,
  zone: Zone,
): readonly DayOfForecast[] {
  const { rows, timelines } = ahead.table;
  const dateOf = remembered((minute: number): CivilDay => localDate(zone, minute as EpochMinute));
  const firstDate = remembered((timeline: TimelineNumber) => {
    const [first] = timelines.set(timeline);
    return first === undefined || first >= to ? undefined : dateOf(first);
  });
  const lastDate = remembered((timeline: TimelineNumber) => {
    const last = timelines.set(timeline).at(-1);
    return last === undefined || last > to ? undefined : dateOf(last - 1);
  });
  const changesOf = (row: RowNumber, weekRow: RowNumber): ByDate => {
    const found = new Map<string, [CivilDay, "lost" | "gained", Position[]]>();
    const note = (date: CivilDay, change: "lost" | "gained", door: Position): void => {
      const key = `${date} ${change}`;
      const known = found.get(key);
      if (known) known[2].push(door);
      else found.set(key, [date, change, [door]]);
    };
    for (let i = rows.start(row); i < rows.end(row); i++) {
      const [door, timeline] = [rows.doors[i] as Position, rows.times[i] as TimelineNumber];
      const [first, last] = [firstDate(timeline), lastDate(timeline)];
      if (last !== undefined) note(last, "lost", door);
      if (first !== undefined && timelineAt(week.table.rows, weekRow, door) === never) note(first, "gained", door);
    }
    return [...found.values()];
  };
  const known = new Map<string, ByDate>();
  const days = new Map<CivilDay, { lost: ReachOfDay; gained: ReachOfDay }>();
  for (const holder of holders) {
    const [row, weekRow] = [ahead.rowOf(holder), week.rowOf(holder)];
    const key = `${row} ${weekRow}`;
    let changes = known.get(key);
    if (!changes) known.set(key, (changes = changesOf(row, weekRow)));
    for (const [date, change, doors] of changes) {
      if (!days.has(date)) days.set(date, { lost: nothingOfDay(), gained: nothingOfDay() });
      const of = required(days.get(date), "it was just put there")[change];
      of.pairs += doors.length;
      of.holders++;
      for (const door of doors) of.doors.add(door);
      if (of.named.length < holdersNamed) of.named.push(holder);
    }
  }
  return [...days].sort(([a], [b]) => a - b).map(([date, { lost, gained }]) => ({ date, lost, gained }));
}
