import type { EpochMinute } from "../time/instant";

/** A time over more snapshots than this is not answered at once. */
export const mostParts = 24;

/** A snapshot of the register, by the minute of its export. */
export interface SnapshotInTime {
  readonly id: number;
  readonly asOf: EpochMinute;
}

/** A stretch of an asked time and the snapshot that tells of it: minutes, the last one not included. */
export interface PastPart {
  readonly snapshot: number;
  readonly from: EpochMinute;
  readonly to: EpochMinute;
  /** Before the first export of all: the first snapshot is the nearest that there is. */
  readonly isBeforeAll: boolean;
}

/**
 * The snapshots that tell of the minutes from `from` to `to`, the last one not included, in the order of time: each from its export until the next one;
 * of what was before all of them the first tells. Several of one minute are told by the last of them. Empty without snapshots, or without minutes.
 */
export function partsOfTime(snapshots: readonly SnapshotInTime[], from: EpochMinute, to: EpochMinute): PastPart[] {
  const inTime = [...snapshots].sort((a, b) => a.asOf - b.asOf || a.id - b.id).filter(({ asOf }, i, all) => all[i + 1]?.asOf !== asOf);
  const [first] = inTime;
  if (!first) return [];
  const parts: PastPart[] = [];
  const add = (snapshot: number, begin: number, end: number, isBeforeAll: boolean): void => {
    const [start, stop] = [Math.max(from, begin) as EpochMinute, Math.min(to, end) as EpochMinute];
    if (start < stop) parts.push({ snapshot, from: start, to: stop, isBeforeAll });
  };
  add(first.id, -Infinity, first.asOf, true);
  inTime.forEach(({ id, asOf }, i) => add(id, asOf, inTime[i + 1]?.asOf ?? Infinity, false));
  return parts;
}
