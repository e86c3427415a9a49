import type { Position } from "../compile/position-index";
import type { RowNumber } from "../table/access-rows";
import type { Judged } from "./judged";

/** Of a row, the entries of doors into each sensitive area, by area. Not remembered: there are many rows, and whoever asks remembers what they made of it. */
export function intoAreas(judged: Judged, sensitivity: number): (row: RowNumber) => ReadonlyMap<Position, readonly number[]> {
  const { rows } = judged.ahead;
  const areasOfDoor = judged.compiled.doors.map(({ areas }) => areas.filter((area) => judged.isSensitiveArea(area, sensitivity)));
  return (row) => {
    const entries = new Map<Position, number[]>();
    for (let i = rows.start(row); i < rows.end(row); i++)
      for (const area of areasOfDoor[rows.doors[i] as Position] ?? []) {
        const known = entries.get(area);
        if (known) known.push(i);
        else entries.set(area, [i]);
      }
    return entries;
  };
}
