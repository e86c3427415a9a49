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

/** A dense line for each door while a row is put together, and which doors were touched; taken out as a row, and empty again. */
export class Scratch {
  private readonly lines: Int32Array;
  private readonly touched: Int32Array;
  private count = 0;

  constructor(doors: number) {
    this.lines = new Int32Array(doors);
    this.touched = new Int32Array(doors);
  }

  get(door: Position): TimelineNumber {
    return this.lines[door] as number;
  }

  /** Sets the line of a door that has one; of one without only where the line is not empty. */
  set(door: Position, line: TimelineNumber): void {
    if (this.lines[door] === never && line !== never) {
      if (this.count === this.touched.length) this.forgetEmptied();
      this.touched[this.count++] = door;
    }
    this.lines[door] = line;
  }

  /** Makes room in the list of touched doors: each door with a line once. */
  private forgetEmptied(): void {
    this.count = 0;
    for (let door = 0; door < this.lines.length; door++) if (this.lines[door] !== never) this.touched[this.count++] = door;
  }

  add(door: Position, line: TimelineNumber, book: TimelineBook): void {
    const before = this.lines[door] as number;
    if (before === never) this.set(door, line);
    else if (before !== line) this.lines[door] = book.union(before, line);
  }

  addAll({ doors, lines }: AccessRow, book: TimelineBook): void {
    for (let i = 0; i < doors.length; i++) this.add(doors[i] as number, lines[i] as number, book);
  }

  /** Changes the line of every door that has one. A door that was emptied and filled again may come twice, so a change must be one that does nothing the second time. */
  change(next: (door: Position, line: TimelineNumber) => TimelineNumber): void {
    const { lines, touched } = this;
    for (let i = 0; i < this.count; i++) {
      const door = touched[i] as number;
      const line = lines[door] as number;
      if (line !== never) lines[door] = next(door, line);
    }
  }

  /** The doors with a line, in order of position. */
  take(): AccessRow {
    const { touched, lines, count } = this;
    // A short list is sorted; of a long one all doors are looked through, which is then quicker.
    const sorted = count * 8 < lines.length ? touched.subarray(0, count).slice().sort() : undefined;
    const doors = new Int32Array(count);
    const taken = new Int32Array(count);
    let n = 0;
    const end = sorted ? count : lines.length;
    for (let i = 0; i < end; i++) {
      const door = sorted ? (sorted[i] as number) : i;
      const line = lines[door] as number;
      if (line === never) continue;
      doors[n] = door;
      taken[n++] = line;
      lines[door] = never;
    }
    this.count = 0;
    return { doors: doors.slice(0, n), lines: taken.slice(0, n) };
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
