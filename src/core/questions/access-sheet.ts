import type { Position } from "../compile/position-index";
import { compareCodePoints, groupBy } from "../kernel/compare";
import { remembered } from "../kernel/remembered";
import type { RowNumber } from "../table/access-rows";
import { timelineAt } from "../table/access-rows";
import { never } from "../table/timelines";
import type { IntervalSet } from "../time/intervals";
import { nothing, totalMinutes, union } from "../time/intervals";
import type { HolderNumber } from "./asked-people";
import type { Openings } from "./openings";

/** A row of a sheet: one holder, or all of a group that open anything. */
export interface SheetRow {
  /** Position of the department where people are taken together; -1 for those without; undefined for a single holder. */
  readonly group: Position | undefined;
  readonly holders: readonly HolderNumber[];
}

/** A column of a sheet: one door, or all doors of an area that open for anybody. */
export interface SheetColumn {
  /** Position of the area where doors are taken together; -1 for those of no area; undefined for a single door. */
  readonly group: Position | undefined;
  readonly doors: readonly Position[];
}

/** What stands where a row and a column meet. */
export interface SheetCell {
  /** How many of the row's holders open any of the column's doors at the asked time. */
  readonly people: number;
  /** How many of these open them only as if live; 0 where it is not asked as if live. */
  readonly asleep: number;
  /** Minutes of an ordinary week at which any of the doors opens, of whoever has most of them; and how many of these are out of business hours. */
  readonly weekMinutes: number;
  readonly outOfHoursMinutes: number;
}

type Names = readonly (string | undefined)[];

/** How the rows and columns of a sheet are made up: by whom people, and doors, are taken together, and in which order groups and single ones stand. */
export interface SheetAxes {
  readonly departmentOf: ((holder: HolderNumber) => Position) | undefined;
  readonly areaOf: ((door: Position) => Position) | undefined;
  /** The names by which rows are ordered first, and columns; one that is missing comes last. */
  readonly rowNames: (holder: HolderNumber) => Names;
  readonly columnNames: (door: Position) => Names;
  readonly compareNames: (a: string, b: string) => number;
  /** What of the week of a door is out of business hours there. */
  readonly outside: (door: Position, week: IntervalSet) => IntervalSet;
}

interface HoldersAlike {
  /** What they open at the asked time, and in an ordinary week. */
  readonly open: RowNumber;
  readonly week: RowNumber;
  /** What they open as things stand, where the sheet is laid out as if live. */
  readonly live: RowNumber | undefined;
  count: number;
}

/**
 * Who opens what, as a sheet of people by doors, of those who open anything at the asked time and of what anybody opens then. Rows of equal groups stand by
 * the doors that they open, so that likes stand together. Cells are worked out when they are asked for, once for all holders that open the same.
 */
export class AccessSheet {
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  private readonly alike: (readonly HoldersAlike[] | undefined)[] = [];
  private readonly cells = new Map<string, Omit<SheetCell, "people" | "asleep"> | undefined>();

  constructor(
    private readonly openings: Openings,
    private readonly weeks: Openings,
    holders: readonly HolderNumber[],
    private readonly axes: SheetAxes,
    /** What opens as things stand, where the sheet is laid out as if live. */
    private readonly live?: Openings,
  ) {
    const open = holders.filter((holder) => openings.doorsOf(openings.rowOf(holder)).length > 0);
    // Index d: 1 where somebody opens door d.
    const isOpened = new Uint8Array(openings.table.compiled.doors.length);
    for (const row of new Set(open.map((holder) => openings.rowOf(holder)))) for (const door of openings.doorsOf(row)) isOpened[door] = 1;
    this.columns = this.columnsOf(Array.from(isOpened.keys()).filter((door) => isOpened[door] === 1));
    this.rows = this.rowsOf(open);
  }

  /** Where a row and a column meet; undefined where nobody of the row opens anything of the column at the asked time. */
  cell(row: number, column: number): SheetCell | undefined {
    let [people, asleep] = [0, 0];
    let [weekMinutes, outOfHoursMinutes] = [0, 0];
    for (const alike of this.alikeOf(row)) {
      const cell = this.cellOf(alike, column);
      if (!cell) continue;
      people += alike.count;
      const { live } = alike;
      if (live !== undefined && !this.columns[column]?.doors.some((door) => this.live?.opensAt(live, door))) asleep += alike.count;
      if (cell.weekMinutes > weekMinutes || (cell.weekMinutes === weekMinutes && cell.outOfHoursMinutes > outOfHoursMinutes))
        ({ weekMinutes, outOfHoursMinutes } = cell);
    }
    return people === 0 ? undefined : { people, asleep, weekMinutes, outOfHoursMinutes };
  }

  private columnsOf(doors: readonly Position[]): SheetColumn[] {
    const { areaOf, columnNames } = this.axes;
    const ranks = this.ranksOf(doors.map(columnNames));
    const ordered = doors.map((door, i) => ({ door, rank: ranks[i] as number })).sort((a, b) => a.rank - b.rank || a.door - b.door);
    if (!areaOf) return ordered.map(({ door }) => ({ group: undefined, doors: [door] }));
    const byArea = groupBy(
      ordered.map(({ door }) => door),
      areaOf,
    );
    return [...byArea].map(([group, own]) => ({ group, doors: own }));
  }

  private rowsOf(holders: readonly HolderNumber[]): SheetRow[] {
    const { departmentOf, rowNames } = this.axes;
    const rows = holders.map((holder) => this.openings.rowOf(holder));
    const likenessOf = this.likenessOfRows([...new Set(rows)]);
    const likeness = Int32Array.from(rows, (row) => likenessOf.get(row) as number);
    const ranks = Int32Array.from(this.ranksOf(holders.map(rowNames)));
    // By rank, within it by likeness, within that in the order of the holders: the last first, as each keeps what was before.
    const places = inOrderOf(ranks, inOrderOf(likeness, Int32Array.from(holders.keys())));
    const ordered = Array.from(places, (place) => holders[place] as HolderNumber);
    if (!departmentOf) return ordered.map((holder) => ({ group: undefined, holders: [holder] }));
    return [...groupBy(ordered, departmentOf)].map(([group, own]) => ({ group, holders: own }));
  }

  /** For each of some names its place in their order; equal ones have one. Many share theirs, and comparing them is what takes time. */
  private ranksOf(all: readonly Names[]): readonly number[] {
    // Lists that are the same object are written once.
    const keyOf = remembered((names: Names) => JSON.stringify(names));
    const keys = all.map(keyOf);
    const distinct = [...new Map(all.map((names, i) => [keys[i] as string, names]))].sort(([, a], [, b]) => this.compare(a, b));
    const rankOf = new Map(distinct.map(([key], rank) => [key, rank]));
    return keys.map((key) => rankOf.get(key) as number);
  }

  private compare(a: Names, b: Names): number {
    for (let i = 0; i < a.length; i++) {
      const [one, other] = [a[i], b[i]];
      if (one === other) continue;
      if (one === undefined) return 1;
      if (other === undefined) return -1;
      // Names that sort alike are told apart by their characters, so that each keeps its place.
      return this.axes.compareNames(one, other) || compareCodePoints(one, other);
    }
    return 0;
  }

  /** The place of each row in the order in which likes stand together: by the columns of the doors that it opens, the first of them first. */
  private likenessOfRows(rows: readonly RowNumber[]): ReadonlyMap<RowNumber, number> {
    const lists = this.columnsOfRows(rows);
    const ordered = Int32Array.from(rows.keys()).sort((a, b) => compareLists(lists, a, b) || (rows[a] as number) - (rows[b] as number));
    return new Map(Array.from(ordered, (i, likeness) => [rows[i] as RowNumber, likeness]));
  }

  /** For each row the places of the doors that it opens, ascending. Gone through door by door, so that no row has to be sorted. */
  private columnsOfRows(rows: readonly RowNumber[]): Lists {
    const placeOf = new Int32Array(this.openings.table.compiled.doors.length);
    let count = 0;
    for (const { doors } of this.columns) for (const door of doors) placeOf[door] = count++;
    const starts = new Int32Array(rows.length + 1);
    // Place p is opened by the rows `opening[opened[p]]` up to that of the next one.
    const opened = new Int32Array(count + 1);
    rows.forEach((row, i) => {
      const doors = this.openings.doorsOf(row);
      starts[i + 1] = (starts[i] as number) + doors.length;
      for (const door of doors) {
        const place = (placeOf[door] as number) + 1;
        opened[place] = (opened[place] as number) + 1;
      }
    });
    for (let place = 0; place < count; place++) opened[place + 1] = (opened[place + 1] as number) + (opened[place] as number);
    const next = opened.slice();
    const opening = new Int32Array(opened[count] as number);
    rows.forEach((row, i) => {
      for (const door of this.openings.doorsOf(row)) {
        const place = placeOf[door] as number;
        const at = next[place] as number;
        opening[at] = i;
        next[place] = at + 1;
      }
    });
    const items = new Int32Array(opening.length);
    const filled = starts.slice();
    for (let place = 0; place < count; place++)
      for (let k = opened[place] as number, end = opened[place + 1] as number; k < end; k++) {
        const i = opening[k] as number;
        const at = filled[i] as number;
        items[at] = place;
        filled[i] = at + 1;
      }
    return { starts, items };
  }

  private alikeOf(row: number): readonly HoldersAlike[] {
    let alike = this.alike[row];
    if (!alike) {
      const found = new Map<string, HoldersAlike>();
      for (const holder of this.rows[row]?.holders ?? []) {
        const [open, week] = [this.openings.rowOf(holder), this.weeks.rowOf(holder)];
        const live = this.live?.rowOf(holder);
        const key = `${open} ${week} ${live}`;
        const known = found.get(key);
        if (known) known.count++;
        else found.set(key, { open, week, live, count: 1 });
      }
      this.alike[row] = alike = [...found.values()];
    }
    return alike;
  }

  private cellOf({ open, week }: HoldersAlike, column: number): Omit<SheetCell, "people" | "asleep"> | undefined {
    const key = `${open} ${week} ${column}`;
    if (this.cells.has(key)) return this.cells.get(key);
    const { rows, timelines } = this.weeks.table;
    let isOpen = false;
    let [minutes, outside]: [IntervalSet, IntervalSet] = [nothing, nothing];
    for (const door of this.columns[column]?.doors ?? []) {
      if (!this.openings.opensAt(open, door)) continue;
      isOpen = true;
      const timeline = timelineAt(rows, week, door);
      if (timeline === never) continue;
      const times = timelines.set(timeline);
      minutes = union(minutes, times);
      outside = union(outside, this.axes.outside(door, times));
    }
    const cell = isOpen ? { weekMinutes: totalMinutes(minutes), outOfHoursMinutes: totalMinutes(outside) } : undefined;
    this.cells.set(key, cell);
    return cell;
  }
}

/** Places in the order of their keys (whole numbers from 0), those of equal keys in the order in which they come. Cost: the places and the greatest key. */
function inOrderOf(keys: Int32Array, places: Int32Array): Int32Array {
  const starts = new Int32Array(keys.reduce((most, key) => Math.max(most, key), -1) + 2);
  for (const key of keys) starts[key + 1] = (starts[key + 1] as number) + 1;
  for (let key = 0; key + 1 < starts.length; key++) starts[key + 1] = (starts[key + 1] as number) + (starts[key] as number);
  const ordered = new Int32Array(places.length);
  for (const place of places) {
    const key = keys[place] as number;
    ordered[starts[key] as number] = place;
    starts[key] = (starts[key] as number) + 1;
  }
  return ordered;
}

/** Lists one after the other: list i is `items[starts[i]]` up to where the next one starts. */
interface Lists {
  readonly starts: Int32Array;
  readonly items: Int32Array;
}

/** Which of two lists stands first: that with the lesser item where they first differ, or the shorter one. */
function compareLists({ starts, items }: Lists, a: number, b: number): number {
  const [endA, endB] = [starts[a + 1] as number, starts[b + 1] as number];
  let [i, j] = [starts[a] as number, starts[b] as number];
  for (; i < endA && j < endB; i++, j++) {
    const difference = (items[i] as number) - (items[j] as number);
    if (difference !== 0) return difference;
  }
  return endA - i - (endB - j);
}
