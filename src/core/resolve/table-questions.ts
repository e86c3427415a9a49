import { present } from "../kernel/invariant";
import { PairTable } from "../kernel/pair-table";
import type { Position } from "../compile/compiled-facility";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { contains, intersect, totalMinutes } from "../time/intervals";
import type { AccessRow } from "./access-row";
import type { AccessTable } from "./access-table";
import { lineAt } from "./access-row";

/** When a credential opens a door, within the minutes of the reading; a set that is shared, not copied, where it is live throughout. */
export function openOf({ book, rows, rowOfCredential, liveOfCredential, reading }: AccessTable, credential: Position, door: Position): IntervalSet {
  const open = book.set(lineAt(rows[rowOfCredential[credential] as number] as AccessRow, door));
  const live = book.set(liveOfCredential[credential] as number);
  const [from, to] = reading.whole;
  return live.length === 2 && live[0] === from && live[1] === to ? open : intersect(open, live);
}

/** The table by doors: for each door the rows that have it, and for each row its credentials. Built once, in the size of the rows. */
export interface DoorColumns {
  /** Index d .. d + 1: where the entries of door d lie in `rows` and `lines`. */
  readonly start: Int32Array;
  readonly rows: Int32Array;
  readonly lines: Int32Array;
  /** Index r .. r + 1: where the credentials of row r lie in `members`. */
  readonly memberStart: Int32Array;
  readonly members: Int32Array;
}

/** Positions sorted into buckets by counting: index b .. b + 1 of `start` bounds the places of bucket b. */
function bucketStarts(buckets: number, count: (add: (bucket: number) => void) => void): Int32Array {
  const start = new Int32Array(buckets + 1);
  count((bucket) => (start[bucket + 1] = (start[bucket + 1] as number) + 1));
  for (let i = 0; i < buckets; i++) start[i + 1] = (start[i + 1] as number) + (start[i] as number);
  return start;
}

export function doorColumns({ compiled, rows: tableRows, rowOfCredential }: AccessTable): DoorColumns {
  const memberStart = bucketStarts(tableRows.length, (add) => rowOfCredential.forEach(add));
  const members = new Int32Array(rowOfCredential.length);
  const nextMember = memberStart.slice();
  rowOfCredential.forEach((row, credential) => {
    members[nextMember[row] as number] = credential;
    nextMember[row] = (nextMember[row] as number) + 1;
  });
  // Rows that only stand for several credentials together have no members of their own.
  const inUse = (row: number): boolean => memberStart[row] !== memberStart[row + 1];
  const start = bucketStarts(compiled.doors.length, (add) => tableRows.forEach(({ doors }, row) => inUse(row) && doors.forEach(add)));
  const next = start.slice();
  const rows = new Int32Array(start[start.length - 1] as number);
  const lines = new Int32Array(rows.length);
  tableRows.forEach((row, number) => {
    if (!inUse(number)) return;
    for (let i = 0; i < row.doors.length; i++) {
      const door = row.doors[i] as number;
      const at = next[door] as number;
      rows[at] = number;
      lines[at] = row.lines[i] as number;
      next[door] = at + 1;
    }
  });
  return { start, rows, lines, memberStart, members };
}

/** The credentials that open a door at a minute, in no particular order. Cost: the rows that have the door, and the answer. */
export function whoOpensAt(table: AccessTable, columns: DoorColumns, door: Position, minute: EpochMinute): Position[] {
  const { book, liveOfCredential } = table;
  const { start, rows, lines, memberStart, members } = columns;
  const found: Position[] = [];
  // Of each timeline: 0 not looked at yet, 1 shut, 2 open at the minute.
  const state = new Uint8Array(book.size);
  const look = (line: number): number => (state[line] = contains(book.set(line), minute) ? 2 : 1);
  for (let i = start[door] as number; i < (start[door + 1] as number); i++) {
    const line = lines[i] as number;
    if (((state[line] as number) || look(line)) === 1) continue;
    const row = rows[i] as number;
    for (let m = memberStart[row] as number; m < (memberStart[row + 1] as number); m++) {
      const credential = members[m] as number;
      const live = liveOfCredential[credential] as number;
      if (((state[live] as number) || look(live)) === 2) found.push(credential);
    }
  }
  return found;
}

/** What a pair comes to over the minutes of the reading. */
export interface PairSummary {
  readonly minutes: number;
  /** Minutes outside business hours. */
  readonly oddMinutes: number;
  readonly first: EpochMinute;
  /** End of the last opening. */
  readonly last: EpochMinute;
}

/** What all doors of a row come to, as columns: index i speaks of the door at index i of `doors`. Shared; not to be written to. */
export interface RowSummary {
  readonly doors: Int32Array;
  readonly minutes: Int32Array;
  readonly oddMinutes: Int32Array;
  readonly first: Int32Array;
  readonly last: Int32Array;
}

/** Summaries of pairs: minutes open, minutes out of hours, first and last opening; each worked out once per timeline and clock. */
export interface Summaries {
  readonly of: (line: number, door: Position) => PairSummary;
  readonly ofRow: (row: number) => RowSummary;
  /** What all pairs come to together, without visiting them one by one. */
  readonly totals: () => { readonly pairs: number; readonly minutes: number; readonly oddMinutes: number };
}

/** `businessLine` gives the timeline, in the table's book, of the business hours that count at a door. */
export function summaries(table: AccessTable, businessLine: (door: Position) => number): Summaries {
  const { book, rows, compiled } = table;
  const businessOfDoor = Int32Array.from(compiled.doors, ({ position }) => businessLine(position));
  const known = new PairTable();
  const found: PairSummary[] = [];
  const of = (line: number, door: Position): PairSummary => {
    const business = businessOfDoor[door] as number;
    const at = known.get(line, business);
    if (at >= 0) return found[at] as PairSummary;
    const set = book.set(line);
    const minutes = totalMinutes(set);
    const summary = {
      minutes,
      oddMinutes: minutes - totalMinutes(book.set(book.intersect(line, business))),
      first: present(set[0], "timelines of rows are not empty") as EpochMinute,
      last: present(set[set.length - 1], "timelines of rows are not empty") as EpochMinute,
    };
    known.set(line, business, found.push(summary) - 1);
    return summary;
  };
  const ofRows: (RowSummary | undefined)[] = [];
  const ofRow = (number: number): RowSummary => {
    let summed = ofRows[number];
    if (!summed) {
      const { doors, lines } = rows[number] as AccessRow;
      const count = doors.length;
      const columns = new Int32Array(4 * count);
      const column = (i: number) => columns.subarray(i * count, (i + 1) * count);
      summed = { doors, minutes: column(0), oddMinutes: column(1), first: column(2), last: column(3) };
      for (let i = 0; i < count; i++) {
        const { minutes, oddMinutes, first, last } = of(lines[i] as number, doors[i] as number);
        columns[i] = minutes;
        columns[count + i] = oddMinutes;
        columns[2 * count + i] = first;
        columns[3 * count + i] = last;
      }
      ofRows[number] = summed;
    }
    return summed;
  };
  return {
    of,
    ofRow,
    totals: () => {
      const people = new Map<number, number>();
      for (let cardholder = 0; cardholder < compiled.cardholders.length; cardholder++) {
        const number = table.rowOfCardholder(cardholder);
        people.set(number, (people.get(number) ?? 0) + 1);
      }
      let [pairs, minutes, oddMinutes] = [0, 0, 0];
      for (const [number, count] of people) {
        const summed = ofRow(number);
        pairs += count * summed.doors.length;
        for (let i = 0; i < summed.doors.length; i++) {
          minutes += count * (summed.minutes[i] as number);
          oddMinutes += count * (summed.oddMinutes[i] as number);
        }
      }
      return { pairs, minutes, oddMinutes };
    },
  };
}

/** Columns of pairs: index i speaks of one cardholder and door that open at all. */
export type PairColumns = RowSummary & { readonly cardholders: Int32Array };

/** How many pairs a block of columns has room for; a cardholder who opens more has a block to themselves. */
const pairsABlock = 1 << 18;

/**
 * The summary of every cardholder and door that open at all, written out in blocks of columns, in order of cardholders. A block is
 * the reader's to keep. Cost: the rows of the distinct combinations, and the copying.
 */
export function* pairBlocks(table: AccessTable, { ofRow }: Summaries): Generator<PairColumns> {
  const people = table.compiled.cardholders.length;
  const rows = new Int32Array(people);
  for (let cardholder = 0; cardholder < people; cardholder++) rows[cardholder] = table.rowOfCardholder(cardholder);
  const widthOf = (cardholder: Position): number => (table.rows[rows[cardholder] as number] as AccessRow).doors.length;
  for (let start = 0; start < people; ) {
    let pairs = widthOf(start);
    let end = start + 1;
    while (end < people && pairs + widthOf(end) <= pairsABlock) pairs += widthOf(end++);
    const column = () => new Int32Array(pairs);
    const block = { cardholders: column(), doors: column(), minutes: column(), oddMinutes: column(), first: column(), last: column() };
    for (let at = 0; start < end; start++) {
      if (rows[start] === 0) continue;
      const row = ofRow(rows[start] as number);
      block.cardholders.fill(start, at, at + row.doors.length);
      for (const name of ["doors", "minutes", "oddMinutes", "first", "last"] as const) block[name].set(row[name], at);
      at += row.doors.length;
    }
    if (pairs > 0) yield block;
  }
}
