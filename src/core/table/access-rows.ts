import type { NumberOf } from "../kernel/brand";
import type { Position } from "../compile/position-index";
import { never } from "./timelines";
import type { TimelineNumber } from "./timelines";

/** Number of a row; rows with equal doors and times are one. Row 0 has no doors. */
export type RowNumber = NumberOf<"row">;

/**
 * What people open, as rows that lie one behind the other in two columns: entry e says that a door opens on a timeline. The entries of a
 * row are those from `start(row)` to `end(row)`, in order of the doors' positions; row 0 has none.
 */
export interface AccessRows {
  readonly count: number;
  start(row: RowNumber): number;
  end(row: RowNumber): number;
  /** The columns as they are now: look again after a row has been added, as they may have moved. */
  readonly doors: Int32Array;
  readonly times: Int32Array;
}

/** The timeline at a door in a row; `never` where the row has none. */
export function timelineAt(rows: AccessRows, row: RowNumber, door: Position): TimelineNumber {
  const { doors, times } = rows;
  let low = rows.start(row);
  let high = rows.end(row) - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const at = doors[middle] as number;
    if (at === door) return times[middle] as number;
    if (at < door) low = middle + 1;
    else high = middle - 1;
  }
  return never;
}

/** The doors of a row, in order of position: a look into the columns, not a copy. */
export const doorsOfRow = (rows: AccessRows, row: RowNumber): Int32Array => rows.doors.subarray(rows.start(row), rows.end(row));
