import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { RowPool } from "./row-builder";
import { lineInSlots, rowSlots } from "./row-slots";
import { never } from "../timelines";

type Row = ReadonlyMap<number, number>;

const doorCounts = [1, 30, 5000, 0xffff, 0x10000, 200_000];
const lineCounts = [2, 300, 0x10000, 0x10001];

/** Rows of doors below a number, each with a timeline below a number, and those numbers. */
const arbitraryRows = fc.tuple(fc.constantFrom(...doorCounts), fc.constantFrom(...lineCounts)).chain(([doorCount, lineCount]) =>
  fc.record({
    doorCount: fc.constant(doorCount),
    // The last numbers are the ones that a narrow column may take for something else.
    rows: fc.array(
      fc.uniqueArray(
        fc.tuple(fc.oneof(fc.nat(doorCount - 1), fc.constant(doorCount - 1)), fc.oneof(fc.integer({ min: 1, max: lineCount - 1 }), fc.constant(lineCount - 1))),
        { selector: ([door]) => door, maxLength: 200, size: "max" },
      ),
      { maxLength: 8, size: "max" },
    ),
  }),
);

function poolOf(rows: readonly Row[]): RowPool {
  const pool = new RowPool();
  for (const row of rows) {
    let at = pool.reserve(row.size);
    for (const [door, timeline] of [...row].sort(([a], [b]) => a - b)) {
      pool.doors[at] = door;
      pool.times[at++] = timeline;
    }
    pool.close(at);
  }
  return pool;
}

function expectLaidOut(rows: readonly Row[], doorCount: number, asked: Iterable<number>): void {
  const pool = poolOf(rows);
  const { slots, codes } = rowSlots(
    pool,
    Int32Array.from({ length: pool.count }, (_, row) => row),
    doorCount,
    (timeline) => timeline,
  );
  const doors = [...asked];
  // Row 0 opens nothing.
  [new Map<number, number>(), ...rows].forEach((row, number) => {
    const found = doors.filter((door) => lineInSlots(slots, codes[number] as number, door) !== (row.get(door) ?? never));
    expect([number, found]).toEqual([number, []]);
  });
}

describe("rows laid out for single questions", () => {
  it("give the timeline of each door that they have, and no other", () => {
    fc.assert(
      fc.property(arbitraryRows, ({ doorCount, rows }) => {
        const maps = rows.map((row) => new Map(row));
        const asked = new Set([0, doorCount - 1, ...rows.flat().map(([door]) => door), ...rows.flat().map(([door]) => (door + 1) % doorCount)]);
        expectLaidOut(maps, doorCount, asked);
      }),
      { numRuns: 300 },
    );
  });

  it("have room for doors that would all like to lie in one place", () => {
    // Multiples of the inverse of the hash's factor, found by Newton's method: their hashes are small, so that the leading bits of most are alike.
    let inverse = 1;
    for (let i = 0; i < 5; i++) inverse = Math.imul(inverse, 2 - Math.imul(0x9e3779b1, inverse));
    const doors = Array.from({ length: 4000 }, (_, i) => Math.imul(inverse, i * 0x4000) >>> 0).filter((door) => door < 100_000_000);
    expect(doors.length).toBeGreaterThan(50);
    expect(Math.max(...doors.map((door) => Math.imul(door, 0x9e3779b1) >>> 26))).toBe(0);
    expectLaidOut([new Map(doors.map((door, i) => [door, i + 1]))], 100_000_000, doors);
  });

  it("take a row with every door", () => {
    const all = Array.from({ length: 20_000 }, (_, door) => door);
    expectLaidOut([new Map(all.map((door) => [door, 1 + (door % 7)]))], all.length, all);
  });

  it("are laid out where they are in use, with the numbers that timelines have there", () => {
    const pool = poolOf([new Map([[3, 70_000]]), new Map([[4, 70_001]]), new Map([[3, 70_002]])]);
    const asked: number[] = [];
    const { slots, codes } = rowSlots(pool, Int32Array.of(3, 1, 3), 10, (timeline) => asked.push(timeline));
    expect(asked).toEqual([70_002, 70_000]);
    expect([...codes].map((code) => code >= 0)).toEqual([false, true, false, true]);
    expect([1, 3].map((row) => lineInSlots(slots, codes[row] as number, 3))).toEqual([2, 1]);
  });

  it("are shared in half of the memory where numbers are small", () => {
    const bytesOf = (doorCount: number, timeline: number): number =>
      rowSlots(poolOf([new Map([[3, timeline]])]), Int32Array.of(1), doorCount, (number) => number).slots.BYTES_PER_ELEMENT;
    expect([bytesOf(0xffff, 0xffff), bytesOf(0x10000, 0xffff), bytesOf(0xffff, 0x10000)]).toEqual([2, 4, 4]);
  });
});
