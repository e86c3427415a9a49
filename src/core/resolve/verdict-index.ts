import type { Position } from "../compile/compiled-facility";
import { minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import type { AccessRow } from "./access-row";
import type { AccessTable } from "./access-table";
import type { TimelineNumber } from "./timelines";

const wordBits = 32;

/** A timeline to be asked at random. Index d of `firstRange`: place in `set` of the first range that ends after the start of day d of the reading. */
interface LineIndex {
  readonly set: IntervalSet;
  readonly firstRange: Int32Array;
}

/** A row to be asked at random: a bit for each door that it has, how many bits come before each word of them, and their timelines in order. */
interface RowIndex {
  readonly bits: Int32Array;
  readonly rank: Uint16Array;
  readonly lines: readonly LineIndex[];
}

/** All that a verdict needs of a credential, reached by its id in one step. */
interface CredentialIndex {
  readonly row: RowIndex;
  /** When it is live; undefined for throughout. */
  readonly live: LineIndex | undefined;
}

/**
 * An access table made ready for single questions: a verdict takes a handful of look-ups and no search. A credential is indexed
 * when it is first asked about. Must give what `reasonAt` gives.
 */
export interface VerdictIndex {
  readonly table: AccessTable;
  readonly from: number;
  readonly byId: Map<string, CredentialIndex>;
  readonly rows: (RowIndex | undefined)[];
  readonly lines: (LineIndex | undefined)[];
}

export const verdictIndex = (table: AccessTable): VerdictIndex => ({
  table,
  from: table.reading.whole[0] ?? 0,
  byId: new Map(),
  rows: new Array<undefined>(table.rows.length).fill(undefined),
  lines: new Array<undefined>(table.book.size).fill(undefined),
});

function bitCount(word: number): number {
  let n = word - ((word >>> 1) & 0x55555555);
  n = (n & 0x33333333) + ((n >>> 2) & 0x33333333);
  return Math.imul((n + (n >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}

function lineIndex(index: VerdictIndex, number: TimelineNumber): LineIndex {
  const known = index.lines[number];
  if (known) return known;
  const set = index.table.book.set(number);
  const [from = 0, to = 0] = index.table.reading.whole;
  const days = Math.ceil((to - from) / minutesADay) + 1;
  const firstRange = new Int32Array(days);
  let i = 0;
  for (let day = 0; day < days; day++) {
    while (i < set.length && (set[i + 1] as number) <= from + day * minutesADay) i += 2;
    firstRange[day] = i;
  }
  const made = { set, firstRange };
  index.lines[number] = made;
  return made;
}

function rowIndex(index: VerdictIndex, number: number): RowIndex {
  const known = index.rows[number];
  if (known) return known;
  const { doors, lines } = index.table.rows[number] as AccessRow;
  const words = Math.ceil(index.table.compiled.doors.length / wordBits);
  const bits = new Int32Array(words);
  for (const door of doors) bits[door >> 5] = (bits[door >> 5] as number) | (1 << (door & 31));
  const rank = new Uint16Array(words);
  for (let word = 1; word < words; word++) rank[word] = (rank[word - 1] as number) + bitCount(bits[word - 1] as number);
  const made = { bits, rank, lines: Array.from(lines, (line) => lineIndex(index, line)) };
  index.rows[number] = made;
  return made;
}

function credentialIndex(index: VerdictIndex, id: string): CredentialIndex | undefined {
  const position = index.table.compiled.credentialById.get(id);
  if (position === undefined) return undefined;
  const live = lineIndex(index, index.table.liveOfCredential[position] as number);
  const [from, to] = index.table.reading.whole;
  const throughout = live.set.length === 2 && live.set[0] === from && live.set[1] === to;
  const made = { row: rowIndex(index, index.table.rowOfCredential[position] as number), live: throughout ? undefined : live };
  index.byId.set(id, made);
  return made;
}

function holds({ set, firstRange }: LineIndex, minute: number, from: number): boolean {
  let i = firstRange[Math.floor((minute - from) / minutesADay)] as number;
  while (i < set.length && (set[i + 1] as number) <= minute) i += 2;
  return i < set.length && (set[i] as number) <= minute;
}

function opens(index: VerdictIndex, { row, live }: CredentialIndex, door: Position, minute: EpochMinute): boolean {
  const word = row.bits[door >> 5] as number;
  const bit = 1 << (door & 31);
  if ((word & bit) === 0) return false;
  const line = row.lines[(row.rank[door >> 5] as number) + bitCount(word & (bit - 1))] as LineIndex;
  return holds(line, minute, index.from) && (live === undefined || holds(live, minute, index.from));
}

/** Whether a credential opens a door at a minute of the reading, by the ids of the document; false for ids that it does not hold. */
export function opensById(index: VerdictIndex, credential: string, door: string, minute: EpochMinute): boolean {
  const who = index.byId.get(credential) ?? credentialIndex(index, credential);
  const where = index.table.compiled.doorById.get(door);
  return who !== undefined && where !== undefined && opens(index, who, where, minute);
}
