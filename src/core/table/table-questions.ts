import type { TimelineNumber } from "./timelines";
import type { RowNumber } from "./access-rows";
import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { contains, intersect } from "../time/intervals";
import type { AccessTable } from "./access-table";
import { doorsOfRow, timelineAt } from "./access-rows";
import { bucketStarts, buckets } from "./internal/buckets";

/** When a credential opens a door, within the minutes of the reading; a set that is shared, not copied, where it is live throughout. */
export function openOf({ timelines, rows, rowOfCredential, liveOfCredential, timeframe }: AccessTable, credential: Position, door: Position): IntervalSet {
  const open = timelines.set(timelineAt(rows, rowOfCredential[credential] as number, door));
  const live = timelines.set(liveOfCredential[credential] as number);
  const [from, to] = timeframe.span;
  return live.length === 2 && live[0] === from && live[1] === to ? open : intersect(open, live);
}

/** The table by doors: for each door the rows that have it, and for each row its credentials. Built once, in the size of the rows. */
export interface DoorColumns {
  /** Index d .. d + 1: where the entries of door d lie in `rows` and `times`. */
  readonly start: Int32Array;
  readonly rows: Int32Array;
  readonly times: Int32Array;
  /** Index r .. r + 1: where the credentials of row r lie in `ids`, and in `live` the timelines in which they are live. */
  readonly memberStart: Int32Array;
  readonly ids: readonly string[];
  readonly live: Int32Array;
}

export function doorColumns({ compiled, rows: tableRows, rowOfCredential, liveOfCredential }: AccessTable): DoorColumns {
  const { start: memberStart, members } = buckets(rowOfCredential, tableRows.count);
  // Rows that only stand for several credentials together have no members of their own.
  const inUse = (row: RowNumber): boolean => memberStart[row] !== memberStart[row + 1];
  const start = bucketStarts(compiled.doors.length, (add) => {
    for (let row = 0; row < tableRows.count; row++) if (inUse(row)) doorsOfRow(tableRows, row).forEach(add);
  });
  const next = start.slice();
  const rows = new Int32Array(start[start.length - 1] as number);
  const times = new Int32Array(rows.length);
  for (let row = 0; row < tableRows.count; row++) {
    if (!inUse(row)) continue;
    for (let i = tableRows.start(row); i < tableRows.end(row); i++) {
      const door = tableRows.doors[i] as number;
      const at = next[door] as number;
      rows[at] = row;
      times[at] = tableRows.times[i] as number;
      next[door] = at + 1;
    }
  }
  const { credentials } = compiled.facility;
  return {
    start,
    rows,
    times,
    memberStart,
    ids: Array.from(members, (credential) => required(credentials[credential], "positions are valid").id),
    live: members.map((credential) => liveOfCredential[credential] as number),
  };
}

/** The ids of the credentials that open a door at a minute, in no particular order. Cost: the rows that have the door, and the answer. */
export function whoOpensAt({ timelines }: AccessTable, columns: DoorColumns, door: Position, minute: EpochMinute): string[] {
  const { start, rows, times, memberStart, ids, live } = columns;
  const found: string[] = [];
  // Of each timeline: 0 not looked at yet, 1 shut, 2 open at the minute.
  const state = new Uint8Array(timelines.size);
  const look = (timeline: TimelineNumber): number => (state[timeline] = contains(timelines.set(timeline), minute) ? 2 : 1);
  for (let i = start[door] as number; i < (start[door + 1] as number); i++) {
    const timeline = times[i] as number;
    if (((state[timeline] as number) || look(timeline)) === 1) continue;
    const row = rows[i] as number;
    for (let m = memberStart[row] as number; m < (memberStart[row + 1] as number); m++) {
      const life = live[m] as number;
      if (((state[life] as number) || look(life)) === 2) found.push(ids[m] as string);
    }
  }
  return found;
}
