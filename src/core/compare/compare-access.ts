import type { TimelineNumber } from "../table/timelines";
import { invariant, required } from "../kernel/invariant";
import { PairTable } from "../kernel/pair-table";
import type { Position } from "../compile/position-index";
import type { HolderId } from "../facility/holder-id";
import type { AccessRows, RowNumber } from "../table/access-rows";
import { doorsOfRow } from "../table/access-rows";
import type { AccessTable } from "../table/access-table";
import { totalMinutes } from "../time/intervals";
import { never } from "../table/timelines";

/** A door that a cardholder opens more or less than before. Lines are numbers in the timelines that both tables share. */
export interface DoorChange {
  readonly door: string;
  readonly change: "gained" | "lost" | "hours";
  readonly before: number;
  readonly after: number;
  /** Minutes that open only now, and minutes that opened only before. */
  readonly minutesMore: number;
  readonly minutesLess: number;
}

const unchanged: readonly DoorChange[] = [];

/** Doors of both facilities on one scale: a number for each id, in the order before, then those that are new. */
function doorScale(before: AccessTable, after: AccessTable) {
  const ids = before.compiled.facility.doors.map(({ id }) => id);
  const numbers = new Map(ids.map((id, i) => [id, i]));
  let same = before.compiled.doors.length === after.compiled.doors.length;
  const ofAfter = Int32Array.from(after.compiled.facility.doors, ({ id }, i) => {
    let number = numbers.get(id);
    if (number === undefined) {
      number = ids.push(id) - 1;
      numbers.set(id, number);
    }
    same &&= number === i;
    return number;
  });
  return { ids, ofAfter, same };
}

interface Entries {
  readonly doors: Int32Array;
  readonly times: Int32Array;
}

/** The entries of a row, a look into the columns. */
const entriesOf = (rows: AccessRows, row: RowNumber): Entries => ({ doors: doorsOfRow(rows, row), times: rows.times.subarray(rows.start(row), rows.end(row)) });

function onScale(row: Entries, { ofAfter, same }: { readonly ofAfter: Int32Array; readonly same: boolean }): Entries {
  if (same) return row;
  const order = [...row.doors.keys()].sort((a, b) => (ofAfter[row.doors[a] as number] as number) - (ofAfter[row.doors[b] as number] as number));
  return { doors: Int32Array.from(order, (i) => ofAfter[row.doors[i] as number] as number), times: Int32Array.from(order, (i) => row.times[i] as number) };
}

/** A cardholder, or a credential that nobody holds, who opens something more or less than before. */
export interface HolderChange extends HolderId {
  readonly changes: readonly DoorChange[];
}

/** Doors gained, lost, and with other hours, from a row of one table to one of another; each distinct pair of rows is looked at once. */
function rowDifferences(before: AccessTable, after: AccessTable): (rowBefore: RowNumber, rowAfter: RowNumber) => readonly DoorChange[] {
  invariant(before.timelines === after.timelines, "tables that are compared share their timelines");
  const { timelines } = before;
  const scale = doorScale(before, after);
  const scaled = new Map<number, Entries>();
  const differences = new PairTable();
  const changeLists: (readonly DoorChange[])[] = [];
  const minutes = new Map<number, number>();
  const length = (timeline: TimelineNumber): number => {
    let found = minutes.get(timeline);
    if (found === undefined) {
      found = totalMinutes(timelines.set(timeline));
      minutes.set(timeline, found);
    }
    return found;
  };
  const changeOf = (door: number, was: number, is: number): DoorChange => ({
    door: required(scale.ids[door], "doors are on the scale"),
    change: was === never ? "gained" : is === never ? "lost" : "hours",
    before: was,
    after: is,
    minutesMore: length(timelines.subtract(is, was)),
    minutesLess: length(timelines.subtract(was, is)),
  });
  return (rowBefore, rowAfter) => {
    if (rowBefore === rowAfter && before.rows === after.rows) return unchanged;
    const known = differences.get(rowBefore, rowAfter);
    if (known >= 0) return changeLists[known] as readonly DoorChange[];
    let b = scaled.get(rowAfter);
    if (!b) {
      b = onScale(entriesOf(after.rows, rowAfter), scale);
      scaled.set(rowAfter, b);
    }
    const a = entriesOf(before.rows, rowBefore);
    const changes: DoorChange[] = [];
    let i = 0;
    let j = 0;
    while (i < a.doors.length || j < b.doors.length) {
      const doorA = i < a.doors.length ? (a.doors[i] as number) : Infinity;
      const doorB = j < b.doors.length ? (b.doors[j] as number) : Infinity;
      const door = Math.min(doorA, doorB);
      const was = doorA === door ? (a.times[i++] as number) : never;
      const is = doorB === door ? (b.times[j++] as number) : never;
      if (was !== is) changes.push(changeOf(door, was, is));
    }
    const found = changes.length === 0 ? unchanged : changes;
    differences.set(rowBefore, rowAfter, changeLists.push(found) - 1);
    return found;
  };
}

/** The row of a credential that nobody holds; 0 where there is no such credential. */
const ownerlessRow = (table: AccessTable, position: Position | undefined): number =>
  position === undefined || table.compiled.objects.cards.holderOf[position] !== -1 ? 0 : table.liveRow(position);

/** Positions and ids of credentials that nobody holds. */
function* ownerless({ compiled: { facility, objects } }: AccessTable): Generator<readonly [Position, string]> {
  const { holderOf } = objects.cards;
  for (let i = 0; i < holderOf.length; i++) if (holderOf[i] === -1) yield [i, required(facility.credentials[i], "positions are valid").id];
}

/**
 * What changed in access between two facilities, by holder: cardholders first, then credentials that nobody holds, those of the second facility
 * alone after the others. Both tables must be laid out on the same minutes in one world. Rows are compared, not people: each distinct pair of
 * rows once. A holder who is in one facility only opens nothing in the other.
 */
export function* compareAccess(before: AccessTable, after: AccessTable): Generator<HolderChange> {
  const difference = rowDifferences(before, after);
  const [was, is] = [before.compiled, after.compiled];
  const cardholderRow = (position: Position | undefined): number => (position === undefined ? 0 : after.rowOfCardholder(position));
  for (const [position, { id }] of was.facility.cardholders.entries()) {
    const changes = difference(before.rowOfCardholder(position), cardholderRow(is.cardholderById.get(id)));
    if (changes.length > 0) yield { kind: "cardholder", id, changes };
  }
  for (const [position, { id }] of is.facility.cardholders.entries()) {
    if (was.cardholderById.has(id)) continue;
    const changes = difference(0, after.rowOfCardholder(position));
    if (changes.length > 0) yield { kind: "cardholder", id, changes };
  }
  for (const [position, id] of ownerless(before)) {
    const changes = difference(before.liveRow(position), ownerlessRow(after, is.credentialById.get(id)));
    if (changes.length > 0) yield { kind: "credential", id, changes };
  }
  for (const [position, id] of ownerless(after)) {
    const had = was.credentialById.get(id);
    if (had !== undefined && was.objects.cards.holderOf[had] === -1) continue;
    const changes = difference(0, after.liveRow(position));
    if (changes.length > 0) yield { kind: "credential", id, changes };
  }
}
