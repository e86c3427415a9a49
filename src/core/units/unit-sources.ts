import type { CompiledDoor, CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { compareCodePoints } from "../kernel/compare";
import { required } from "../kernel/invariant";
import { PairTable } from "../kernel/pair-table";
import { ordinary, inLockdown } from "../paths/paths";
import type { RowNumber } from "../table/access-rows";
import { timelineAt } from "../table/access-rows";
import type { AccessTable } from "../table/access-table";
import type { Horizon } from "../table/horizon";
import type { IntervalSet } from "../time/intervals";
import type { EpochMinute } from "../time/instant";
import type { Zone } from "../time/zone";
import { isExact } from "./held-times";
import type { WeeklyTimes } from "./lay-out-times";
import { rangeByRange, weeklyTimes } from "./lay-out-times";

/** What a credential opens, in both ways of asking, whenever it is live: the same for many. */
export interface RowsOfCards {
  readonly ordinary: RowNumber;
  readonly lockdown: RowNumber;
  readonly cards: Position[];
}

/** Doors by the unit that they hang on; doors without one hang on none. */
export function doorsByUnit({ doors }: CompiledFacility): ReadonlyMap<string, readonly CompiledDoor[]> {
  const units = new Map<string, CompiledDoor[]>();
  for (const door of doors) {
    const unit = door.door.controller;
    if (unit === undefined || unit === "") continue;
    const known = units.get(unit);
    if (known) known.push(door);
    else units.set(unit, [door]);
  }
  return new Map([...units].sort(([a], [b]) => compareCodePoints(a, b)));
}

/**
 * A register made ready for what its units are to hold. Cost: the rows of its tables once; then each unit costs what opens its own doors. Weekly patterns of a
 * timeline are worked out once, whatever the units that hold them.
 */
export class UnitSources {
  readonly compiled: CompiledFacility;
  readonly table: AccessTable;
  readonly lockdownTable: AccessTable;
  readonly from: EpochMinute;
  readonly to: EpochMinute;
  readonly doorsOf: ReadonlyMap<string, readonly CompiledDoor[]>;
  private readonly same = new PairTable();
  private readonly rowsOf = new Map<string, RowsOfCards[]>();
  /** By zone and by the array that holds a timeline, which is one for all who have it. */
  private readonly patterns = new Map<string, WeakMap<IntervalSet, readonly WeeklyTimes[]>>();

  constructor(readonly horizon: Horizon) {
    this.compiled = horizon.compiled;
    this.table = horizon.table(ordinary);
    this.lockdownTable = horizon.table(inLockdown);
    this.from = horizon.ahead.from;
    this.to = horizon.ahead.to;
    this.doorsOf = doorsByUnit(this.compiled);
    this.sortRows();
  }

  /** Puts each distinct pair of rows to the units of whose doors it has some. */
  private sortRows(): void {
    const { table, lockdownTable, compiled } = this;
    const pairs = new Map<string, RowsOfCards>();
    for (let card = 0; card < table.rowOfCredential.length; card++) {
      const [row, inLockdownToo] = [table.rowOfCredential[card] as number, lockdownTable.rowOfCredential[card] as number];
      if (row === 0) continue;
      const key = `${row} ${inLockdownToo}`;
      const known = pairs.get(key);
      if (known) known.cards.push(card);
      else pairs.set(key, { ordinary: row, lockdown: inLockdownToo, cards: [card] });
    }
    const unitOf = compiled.doors.map(({ door }) => (door.controller === "" ? undefined : door.controller));
    const { rows } = table;
    for (const pair of pairs.values()) {
      const touched = new Set<string>();
      for (let i = rows.start(pair.ordinary); i < rows.end(pair.ordinary); i++) {
        const unit = unitOf[rows.doors[i] as number];
        if (unit !== undefined) touched.add(unit);
      }
      for (const unit of touched) {
        const known = this.rowsOf.get(unit);
        if (known) known.push(pair);
        else this.rowsOf.set(unit, [pair]);
      }
    }
  }

  /** What opens doors of a unit, and the cards that do. */
  rowsAt(unit: string): readonly RowsOfCards[] {
    return this.rowsOf.get(unit) ?? [];
  }

  /** When a row opens a door, in both ways of asking. */
  openAt(pair: Pick<RowsOfCards, "ordinary" | "lockdown">, door: Position): { readonly open: IntervalSet; readonly inLockdown: IntervalSet } {
    const { table, lockdownTable } = this;
    return {
      open: table.timelines.set(timelineAt(table.rows, pair.ordinary, door)),
      inLockdown: lockdownTable.timelines.set(timelineAt(lockdownTable.rows, pair.lockdown, door)),
    };
  }

  /** Times as weekly patterns on a wall clock. */
  patternsOf(open: IntervalSet, zone: Zone): readonly WeeklyTimes[] {
    let ofZone = this.patterns.get(zone.name);
    if (!ofZone) this.patterns.set(zone.name, (ofZone = new WeakMap<IntervalSet, readonly WeeklyTimes[]>()));
    const known = ofZone.get(open);
    if (known) return known;
    let found = weeklyTimes(open, zone, this.from, this.to);
    if (!isExact(found, open, zone, this.from, this.to)) found = rangeByRange(open);
    ofZone.set(open, found);
    return found;
  }

  /** From when until when a credential and its holder are in use; bounds that are none are infinite. */
  lifeOf(card: Position): { readonly from: number; readonly until: number } {
    const { cards, holders } = this.compiled.objects;
    const holder = cards.holderOf[card] as number;
    const [from, until] = [cards.from[card] as number, cards.until[card] as number];
    return holder === -1 ? { from, until } : { from: Math.max(from, holders.from[holder] as number), until: Math.min(until, holders.until[holder] as number) };
  }

  idOf(card: Position): string {
    return required(this.compiled.facility.credentials[card], "positions are valid").id;
  }

  /** Whether a row is the same in a lockdown, at a door; looked at once for each two timelines. */
  isSameInLockdown(pair: Pick<RowsOfCards, "ordinary" | "lockdown">, door: Position): boolean {
    const { table, lockdownTable, same } = this;
    const [open, inLockdownToo] = [timelineAt(table.rows, pair.ordinary, door), timelineAt(lockdownTable.rows, pair.lockdown, door)];
    let known = same.get(open, inLockdownToo);
    if (known < 0) {
      const [set, other] = [table.timelines.set(open), lockdownTable.timelines.set(inLockdownToo)];
      known = set.length === other.length && set.every((bound, i) => bound === other[i]) ? 1 : 0;
      same.set(open, inLockdownToo, known);
    }
    return known === 1;
  }
}
