/** A mark on a board with the words beside it, in pixels. */
export interface LabelledMark {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  /** Words of a higher rank are written first, where there is not room for all. */
  readonly rank: number;
}

export type LabelSide = "right" | "left" | "below" | "above";

const markRadius = 11;
const gap = 3;
export const labelHeight = 16;

interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

const sides: readonly LabelSide[] = ["right", "left", "below", "above"];

function boxOf({ x, y, width }: LabelledMark, side: LabelSide): Box {
  const left = side === "right" ? x + markRadius + gap : side === "left" ? x - markRadius - gap - width : x - width / 2;
  const top = side === "below" ? y + markRadius : side === "above" ? y - markRadius - labelHeight : y - labelHeight / 2;
  return { left, top, right: left + width, bottom: top + labelHeight };
}

const overlaps = (a: Box, b: Box): boolean => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/** On which side of its mark each label can be written so that it covers neither a mark nor another label; undefined where none. Cost: their square. */
export function freeLabels(marks: readonly LabelledMark[], board: { readonly width: number; readonly height: number }): (LabelSide | undefined)[] {
  const taken: Box[] = marks.map(({ x, y }) => ({ left: x - markRadius, top: y - markRadius, right: x + markRadius, bottom: y + markRadius }));
  const found: (LabelSide | undefined)[] = marks.map(() => undefined);
  const order = marks.map((_, i) => i).sort((a, b) => (marks[b]?.rank ?? 0) - (marks[a]?.rank ?? 0) || a - b);
  for (const i of order) {
    const mark = marks[i];
    if (!mark || mark.x < 0 || mark.y < 0 || mark.x > board.width || mark.y > board.height) continue;
    const side = sides.find((one) => {
      const box = boxOf(mark, one);
      return (
        box.left >= 0 && box.top >= 0 && box.right <= board.width && box.bottom <= board.height && !taken.some((other, j) => j !== i && overlaps(box, other))
      );
    });
    if (side === undefined) continue;
    taken.push(boxOf(mark, side));
    found[i] = side;
  }
  return found;
}
