import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { doorsOfRow, timelineAt } from "../access-rows";
import { RowNumbers, RowPool, RowBuilder } from "./row-builder";
import { Timelines } from "../timelines";

const doorCount = 70;
const timelines = new Timelines();
/** A handful of timelines, the empty one among them. */
const times = [0, ...[[0, 5], [3, 9], [0, 5, 8, 9], [20, 30]].map((set) => timelines.number(set))];
const entry = fc.tuple(fc.integer({ min: 0, max: doorCount - 1 }), fc.constantFrom(...times));
const rowsOf = (pool: RowPool, row: number): [number, number][] => [...doorsOfRow(pool, row)].map((door) => [door, timelineAt(pool, row, door)]);

describe("rows that are put together", () => {
  it("hold for each door the union of what was added, in order of the doors, however many came before them", () => {
    fc.assert(
      fc.property(fc.array(fc.array(entry, { maxLength: 40 }), { maxLength: 30 }), (wanted) => {
        const pool = new RowPool();
        const scratch = new RowBuilder(doorCount);
        const numbers = wanted.map((entries) => {
          for (const [door, timeline] of entries) scratch.add(door, timeline, timelines);
          return scratch.moveTo(pool);
        });
        wanted.forEach((entries, i) => {
          const expected = new Map<number, number>();
          for (const [door, timeline] of entries) expected.set(door, timelines.union(expected.get(door) ?? 0, timeline));
          const open = [...expected].filter(([, timeline]) => timeline !== 0).sort((a, b) => a[0] - b[0]);
          expect(rowsOf(pool, numbers[i] as number)).toEqual(open);
          for (let door = 0; door < doorCount; door++) expect(timelineAt(pool, numbers[i] as number, door)).toBe(new Map(open).get(door) ?? 0);
        });
      }),
    );
  });

  it("are one where they are equal, and the first of all where nothing opens", () => {
    fc.assert(
      fc.property(fc.array(fc.array(entry, { maxLength: 3 }), { maxLength: 40 }), (wanted) => {
        const rows = new RowNumbers();
        const scratch = new RowBuilder(doorCount);
        const numberOf = new Map<string, number>();
        for (const entries of wanted) {
          for (const [door, timeline] of entries) scratch.add(door, timeline, timelines);
          scratch.moveTo(rows.pool);
          const number = rows.number();
          const content = JSON.stringify(rowsOf(rows.pool, number));
          expect([content, numberOf.get(content) ?? number]).toEqual([content, number]);
          numberOf.set(content, number);
        }
        expect(numberOf.get("[]") ?? 0).toBe(0);
        expect(rows.pool.count).toBe(new Set([...numberOf.keys(), "[]"]).size);
      }),
    );
  });

  it("can be changed door by door before they are moved", () => {
    const pool = new RowPool();
    const scratch = new RowBuilder(doorCount);
    const [early, late] = [timelines.number([0, 5]), timelines.number([20, 30])];
    for (const door of [69, 3, 31, 32]) scratch.add(door, early, timelines);
    scratch.change((door, timeline) => (door === 31 ? 0 : door === 69 ? late : timeline));
    expect(rowsOf(pool, scratch.moveTo(pool))).toEqual([[3, early], [32, early], [69, late]]);
    // Nothing is left over for the next row.
    expect(rowsOf(pool, scratch.moveTo(pool))).toEqual([]);
  });
});
