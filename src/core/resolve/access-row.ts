import type { Position } from "../compile/compiled-facility";
import { never } from "./timelines";
import type { TimelineBook, TimelineNumber } from "./timelines";

/** What somebody opens: index i of `lines` is the timeline of the door at index i of `doors`, which are in order of position. */
export interface AccessRow {
  readonly doors: Int32Array;
  readonly lines: Int32Array;
}

const nothingOpens: AccessRow = { doors: new Int32Array(0), lines: new Int32Array(0) };

/** Rows by content. */
export class RowBook {
  readonly rows: AccessRow[] = [nothingOpens];
  private readonly byHash = new Map<number, number[]>();

  number(doors: Int32Array, lines: Int32Array): number {
    if (doors.length === 0) return 0;
    let hash = doors.length;
    for (let i = 0; i < doors.length; i++) hash = (Math.imul(Math.imul(hash, 0x01000193) ^ (doors[i] as number), 0x01000193) ^ (lines[i] as number)) | 0;
    const same = this.byHash.get(hash);
    if (same)
      for (const number of same) {
        const row = this.rows[number] as AccessRow;
        if (equal(row.doors, doors) && equal(row.lines, lines)) return number;
      }
    const number = this.rows.push({ doors, lines }) - 1;
    if (same) same.push(number);
    else this.byHash.set(hash, [number]);
    return number;
  }
}

function equal(a: Int32Array, b: Int32Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

const wordBits = 32;

/** A dense line for each door while a row is put together, and a bit for each that was touched; taken out as a row, and empty again. */
export class Scratch {
  private readonly lines: Int32Array;
  private readonly touched: Int32Array;
  private readonly takenDoors: Int32Array;
  private readonly takenLines: Int32Array;

  constructor(doors: number) {
    this.lines = new Int32Array(doors);
    this.touched = new Int32Array(Math.ceil(doors / wordBits));
    this.takenDoors = new Int32Array(doors);
    this.takenLines = new Int32Array(doors);
  }

  get(door: Position): TimelineNumber {
    return this.lines[door] as number;
  }

  set(door: Position, line: TimelineNumber): void {
    this.touched[door >> 5] = (this.touched[door >> 5] as number) | (1 << (door & 31));
    this.lines[door] = line;
  }

  add(door: Position, line: TimelineNumber, book: TimelineBook): void {
    const before = this.lines[door] as number;
    if (before === never) {
      if (line !== never) this.set(door, line);
    } else if (before !== line) this.lines[door] = book.union(before, line);
  }

  addAll({ doors, lines }: AccessRow, book: TimelineBook): void {
    for (let i = 0; i < doors.length; i++) this.add(doors[i] as number, lines[i] as number, book);
  }

  /** Changes the line of every door that has one, in order of position. */
  change(next: (door: Position, line: TimelineNumber) => TimelineNumber): void {
    const { lines, touched } = this;
    for (let word = 0; word < touched.length; word++)
      for (let bits = touched[word] as number; bits !== 0; bits &= bits - 1) {
        const door = word * wordBits + (31 - Math.clz32(bits & -bits));
        const line = lines[door] as number;
        if (line !== never) lines[door] = next(door, line);
      }
  }

  /** The doors with a line, in order of position. */
  take(): AccessRow {
    const { touched, lines, takenDoors, takenLines } = this;
    let count = 0;
    for (let word = 0; word < touched.length; word++) {
      for (let bits = touched[word] as number; bits !== 0; bits &= bits - 1) {
        const door = word * wordBits + (31 - Math.clz32(bits & -bits));
        const line = lines[door] as number;
        if (line === never) continue;
        takenDoors[count] = door;
        takenLines[count++] = line;
        lines[door] = never;
      }
      touched[word] = 0;
    }
    return count === 0 ? nothingOpens : { doors: takenDoors.slice(0, count), lines: takenLines.slice(0, count) };
  }
}

/** The timeline at a door in a row; `never` where the row has none. */
export function lineAt({ doors, lines }: AccessRow, door: Position): TimelineNumber {
  let low = 0;
  let high = doors.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const at = doors[middle] as number;
    if (at === door) return lines[middle] as number;
    if (at < door) low = middle + 1;
    else high = middle - 1;
  }
  return never;
}
