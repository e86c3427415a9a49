import { grown } from "../../kernel/grown";
import { HashIndex } from "../../kernel/hash-index";
import { invariant } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import type { AccessRows, RowNumber } from "../access-rows";
import { never } from "../timelines";
import type { Timelines, TimelineNumber } from "../timelines";

type Column = Int32Array<ArrayBuffer>;

const twice = (column: Column): Column => grown(column, column.length * 2);

/** Rows under construction: entries are written behind the last row, and closed as a row of their own. */
export class RowPool implements AccessRows {
  doors: Column;
  times: Column;
  /** Index r: where row r begins, and the one before it ends. */
  private starts = new Int32Array(256);
  private rows = 1;
  private entries = 0;

  /** Room for so many entries at once; for more it grows. */
  constructor(expected = 1024) {
    this.doors = new Int32Array(expected);
    this.times = new Int32Array(expected);
  }

  get count(): number {
    return this.rows;
  }

  start(row: RowNumber): number {
    return this.starts[row] as number;
  }

  end(row: RowNumber): number {
    return this.starts[row + 1] as number;
  }

  /** Makes room for so many entries more, and gives the index at which to write the first of them. */
  reserve(count: number): number {
    while (this.entries + count > this.doors.length) {
      this.doors = twice(this.doors);
      this.times = twice(this.times);
    }
    return this.entries;
  }

  /** Makes a row of what was written up to an index, and gives its number. */
  close(end: number): number {
    if (this.rows + 1 === this.starts.length) this.starts = twice(this.starts);
    this.entries = end;
    this.starts[this.rows + 1] = end;
    return this.rows++;
  }

  /** Takes the last row away again. */
  drop(): void {
    this.entries = this.starts[--this.rows] as number;
  }
}

/** Rows as they are kept outside: row r has the entries from index `starts[r]` to `starts[r + 1]`. */
export interface FrozenRows {
  readonly starts: Int32Array;
  readonly doors: Int32Array;
  readonly times: Int32Array;
}

/** Rows by content: equal ones have one number. */
export class RowNumbers {
  readonly pool: RowPool;
  private readonly index = new HashIndex();

  /** Room for so many entries at once; for more it grows. */
  constructor(expected?: number) {
    this.pool = new RowPool(expected);
  }

  /** All rows, to be kept outside. */
  freeze(): FrozenRows {
    const { pool } = this;
    const starts = Int32Array.from({ length: pool.count + 1 }, (_, row) => (row === pool.count ? pool.end(row - 1) : pool.start(row)));
    const end = starts[pool.count] as number;
    return { starts, doors: pool.doors.slice(0, end), times: pool.times.slice(0, end) };
  }

  /** Takes rows in that were kept outside, with the numbers that they had; there must be none yet. */
  thaw({ starts, doors, times }: FrozenRows): void {
    const { pool } = this;
    invariant(pool.count === 1, "rows are thawed into an empty world");
    for (let row = 1; row + 1 < starts.length; row++) {
      const [start, end] = [starts[row] as number, starts[row + 1] as number];
      const at = pool.reserve(end - start);
      pool.doors.set(doors.subarray(start, end), at);
      pool.times.set(times.subarray(start, end), at);
      pool.close(at + end - start);
      invariant(this.number() === row, "frozen rows differ");
    }
  }

  /** The number of the pool's last row; it is taken away where there is an equal one. */
  number(): number {
    const { pool, index } = this;
    const last = pool.count - 1;
    const start = pool.start(last);
    const end = pool.end(last);
    if (start === end) {
      pool.drop();
      return 0;
    }
    const { doors, times } = pool;
    let hash = end - start;
    for (let i = start; i < end; i++)
      hash = (Math.imul(hash, 0x01000193) ^ Math.imul((doors[i] as number) ^ Math.imul(times[i] as number, 0x85ebca6b), 0x9e3779b1)) | 0;
    for (let row = index.first(hash); row !== 0; row = index.next())
      if (this.equal(row, start, end)) {
        pool.drop();
        return row;
      }
    index.add(last);
    return last;
  }

  private equal(row: RowNumber, start: number, end: number): boolean {
    const { doors, times } = this.pool;
    const other = this.pool.start(row);
    if (this.pool.end(row) - other !== end - start) return false;
    for (let i = start, j = other; i < end; i++, j++) if (doors[i] !== doors[j] || times[i] !== times[j]) return false;
    return true;
  }
}

/** Writes what of a row lies in one timeline as the pool's last row. */
export function writeNarrowed(pool: RowPool, row: RowNumber, live: TimelineNumber, timelines: Timelines): void {
  let at = pool.reserve(pool.end(row) - pool.start(row));
  const { doors, times } = pool;
  let [before, narrowed] = [never, never];
  for (let i = pool.start(row), end = pool.end(row); i < end; i++) {
    const timeline = times[i] as number;
    if (timeline !== before) narrowed = timelines.intersect((before = timeline), live);
    if (narrowed === never) continue;
    doors[at] = doors[i] as number;
    times[at++] = narrowed;
  }
  pool.close(at);
}

const wordBits = 32;

/** A dense timeline for each door while a row is put together, and a bit for each that was touched; moved into a pool as a row, and empty again. */
export class RowBuilder {
  private readonly times: Int32Array;
  private readonly touched: Int32Array;

  constructor(doors: number) {
    this.times = new Int32Array(doors);
    this.touched = new Int32Array(Math.ceil(doors / wordBits));
  }

  get(door: Position): TimelineNumber {
    return this.times[door] as number;
  }

  set(door: Position, timeline: TimelineNumber): void {
    this.touched[door >> 5] = (this.touched[door >> 5] as number) | (1 << (door & 31));
    this.times[door] = timeline;
  }

  add(door: Position, timeline: TimelineNumber, timelines: Timelines): void {
    const before = this.times[door] as number;
    if (before === never) {
      if (timeline !== never) this.set(door, timeline);
    } else if (before !== timeline) this.times[door] = timelines.union(before, timeline);
  }

  addRow(rows: AccessRows, row: RowNumber, timelines: Timelines): void {
    const { doors, times } = rows;
    for (let i = rows.start(row), end = rows.end(row); i < end; i++) this.add(doors[i] as number, times[i] as number, timelines);
  }

  /** The same of what of a row lies in one timeline, such as that of a card's life. */
  addNarrowed(rows: AccessRows, row: RowNumber, live: TimelineNumber, timelines: Timelines): void {
    const { doors, times } = rows;
    // Doors side by side often have one timeline.
    let [before, narrowed] = [never, never];
    for (let i = rows.start(row), end = rows.end(row); i < end; i++) {
      const timeline = times[i] as number;
      if (timeline !== before) narrowed = timelines.intersect((before = timeline), live);
      this.add(doors[i] as number, narrowed, timelines);
    }
  }

  /** Changes the timeline of every door that has one, in order of position. */
  change(next: (door: Position, timeline: TimelineNumber) => TimelineNumber): void {
    const { times, touched } = this;
    for (let word = 0; word < touched.length; word++)
      for (let bits = touched[word] as number; bits !== 0; bits &= bits - 1) {
        const door = word * wordBits + (31 - Math.clz32(bits & -bits));
        const timeline = times[door] as number;
        if (timeline !== never) times[door] = next(door, timeline);
      }
  }

  /** Moves the doors with a timeline into a pool, in order of position; gives the number of their row. */
  moveTo(pool: RowPool): number {
    const { touched, times } = this;
    let end = pool.reserve(times.length);
    const { doors: toDoors, times: toLines } = pool;
    for (let word = 0; word < touched.length; word++) {
      let bits = touched[word] as number;
      if (bits === 0) continue;
      touched[word] = 0;
      for (; bits !== 0; bits &= bits - 1) {
        const door = word * wordBits + (31 - Math.clz32(bits & -bits));
        const timeline = times[door] as number;
        if (timeline === never) continue;
        toDoors[end] = door;
        toLines[end++] = timeline;
        times[door] = never;
      }
    }
    return pool.close(end);
  }
}
