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

/** Summaries of pairs: minutes open, minutes out of hours, first and last opening; each worked out once per timeline and clock. */
export interface Summaries {
  readonly of: (line: number, door: Position) => PairSummary;
  /** For each door of a row the place of its summary in `stored()`: four numbers from there on, in the order of `PairSummary`. */
  readonly ofRow: (row: number) => Int32Array;
  readonly stored: () => Int32Array;
  /** What all pairs come to together, without visiting them one by one. */
  readonly totals: () => { readonly pairs: number; readonly minutes: number; readonly oddMinutes: number };
}

/** `businessLine` gives the timeline, in the table's book, of the business hours that count at a door. */
export function summaries(table: AccessTable, businessLine: (door: Position) => number): Summaries {
  const { book, rows, compiled } = table;
  const businessOfDoor = Int32Array.from(compiled.doors, ({ position }) => businessLine(position));
  const known = new PairTable();
  let stored = new Int32Array(4096);
  let used = 0;
  const placeOf = (line: number, business: number): number => {
    let place = known.get(line, business);
    if (place < 0) {
      if (used === stored.length) {
        const more = new Int32Array(used * 2);
        more.set(stored);
        stored = more;
      }
      place = used;
      used += 4;
      const set = book.set(line);
      const minutes = totalMinutes(set);
      stored[place] = minutes;
      stored[place + 1] = minutes - totalMinutes(book.set(book.intersect(line, business)));
      stored[place + 2] = present(set[0], "timelines of rows are not empty");
      stored[place + 3] = present(set[set.length - 1], "timelines of rows are not empty");
      known.set(line, business, place);
    }
    return place;
  };
  const ofRows: (Int32Array | undefined)[] = [];
  const ofRow = (number: number): Int32Array => {
    let places = ofRows[number];
    if (!places) {
      const { doors, lines } = rows[number] as AccessRow;
      places = new Int32Array(doors.length);
      for (let i = 0; i < doors.length; i++) places[i] = placeOf(lines[i] as number, businessOfDoor[doors[i] as number] as number);
      ofRows[number] = places;
    }
    return places;
  };
  const of = (line: number, door: Position): PairSummary => {
    const place = placeOf(line, businessOfDoor[door] as number);
    const [minutes, oddMinutes, first, last] = stored.subarray(place, place + 4) as unknown as [number, number, EpochMinute, EpochMinute];
    return { minutes, oddMinutes, first, last };
  };
  return {
    of,
    ofRow,
    stored: () => stored,
    totals: () => {
      const people = new Map<number, number>();
      for (let cardholder = 0; cardholder < compiled.cardholders.length; cardholder++) {
        const number = table.rowOfCardholder(cardholder);
        people.set(number, (people.get(number) ?? 0) + 1);
      }
      let [pairs, minutes, oddMinutes] = [0, 0, 0];
      for (const [number, count] of people) {
        const places = ofRow(number);
        pairs += count * places.length;
        for (const place of places) {
          minutes += count * (stored[place] as number);
          oddMinutes += count * (stored[place + 1] as number);
        }
      }
      return { pairs, minutes, oddMinutes };
    },
  };
}

/** Columns of pairs: index i, below `length`, speaks of one cardholder and door that open at all. */
export interface PairColumns {
  readonly length: number;
  readonly cardholders: Int32Array;
  readonly doors: Int32Array;
  readonly minutes: Int32Array;
  readonly oddMinutes: Int32Array;
  readonly first: Int32Array;
  readonly last: Int32Array;
}

/** Small enough to stay in a processor's cache while it is filled and read. */
const pairsABlock = 1 << 14;

/**
 * The summary of every cardholder and door that open at all, in blocks of columns, in order of cardholders. The columns are filled
 * anew for each block: whoever wants to keep one copies it. Cost: the rows of the distinct combinations, and the writing.
 */
export function* pairBlocks(table: AccessTable, { ofRow, stored }: Summaries): Generator<PairColumns> {
  const size = Math.max(pairsABlock, table.compiled.doors.length);
  const column = () => new Int32Array(size);
  const [cardholders, doors, minutes, oddMinutes, first, last] = [column(), column(), column(), column(), column(), column()];
  let length = 0;
  for (let cardholder = 0; cardholder < table.compiled.cardholders.length; cardholder++) {
    const number = table.rowOfCardholder(cardholder);
    if (number === 0) continue;
    const places = ofRow(number);
    const numbers = stored();
    const { doors: opened } = table.rows[number] as AccessRow;
    if (length + places.length > size) {
      yield { length, cardholders, doors, minutes, oddMinutes, first, last };
      length = 0;
    }
    for (let i = 0; i < places.length; i++, length++) {
      const place = places[i] as number;
      cardholders[length] = cardholder;
      doors[length] = opened[i] as number;
      minutes[length] = numbers[place] as number;
      oddMinutes[length] = numbers[place + 1] as number;
      first[length] = numbers[place + 2] as number;
      last[length] = numbers[place + 3] as number;
    }
  }
  if (length > 0) yield { length, cardholders, doors, minutes, oddMinutes, first, last };
}
