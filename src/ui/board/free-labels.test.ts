import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { freeLabels } from "./free-labels";

const board = { width: 400, height: 300 };

describe("labels beside marks", () => {
  test("stand to the right where there is room, and elsewhere where there is not", () => {
    const mark = { y: 100, width: 60, rank: 0 };
    expect(freeLabels([{ ...mark, x: 100 }], board)).toEqual(["right"]);
    expect(freeLabels([{ ...mark, x: 380 }], board)).toEqual(["left"]);
    // The one of a higher rank is written first; the other gives way to it.
    expect(
      freeLabels(
        [
          { ...mark, x: 100 },
          { ...mark, x: 130, rank: 1 },
        ],
        board,
      ),
    ).toEqual(["left", "right"]);
  });

  test("are left out of the board, and where they would cover something", () => {
    const crowd = Array.from({ length: 60 }, (_, i) => ({ x: 100 + (i % 8) * 14, y: 100 + Math.floor(i / 8) * 14, width: 80, rank: 0 }));
    const shown = freeLabels([...crowd, { x: -5, y: 20, width: 10, rank: 9 }], board);
    expect(shown.at(-1)).toBeUndefined();
    expect(shown.filter((side) => side !== undefined).length).toBeLessThan(30);
  });

  test("never cover each other, whatever stands on a board", () => {
    const mark = fc.record({
      x: fc.integer({ min: -20, max: 420 }),
      y: fc.integer({ min: -20, max: 320 }),
      width: fc.integer({ min: 1, max: 200 }),
      rank: fc.nat(3),
    });
    fc.assert(
      fc.property(fc.array(mark, { maxLength: 40 }), (marks) => {
        const boxes = freeLabels(marks, board).flatMap((side, i) => {
          const { x = 0, y = 0, width = 0 } = marks[i] ?? {};
          if (side === undefined) return [];
          const left = { right: x + 14, left: x - 14 - width, below: x - width / 2, above: x - width / 2 }[side];
          const top = { right: y - 8, left: y - 8, below: y + 11, above: y - 27 }[side];
          return [{ left, top, right: left + width, bottom: top + 16 }];
        });
        for (const [i, a] of boxes.entries())
          for (const b of boxes.slice(i + 1)) expect(a.left >= b.right || b.left >= a.right || a.top >= b.bottom || b.top >= a.bottom).toBe(true);
      }),
    );
  });
});
