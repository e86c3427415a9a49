import type { ClockRange } from "../facility/document";
import { clockIntervalOf } from "../facility/time-rules";
import { formatClock, minutesADay, parseClock } from "../time/civil-day";
import type { IntervalSet } from "../time/intervals";
import { fromRanges, range, subtract, union } from "../time/intervals";

/** Hours of one row of a schedule, as they are drawn and typed: `08:00–12:00, 22:00–06:00`. Intervals over midnight end on the next day. */

/** Minutes of the day on which a row begins, and of the next one as far as an interval runs over midnight. */
export function minutesOfRow(row: readonly ClockRange[]): { readonly own: IntervalSet; readonly tail: IntervalSet } {
  const intervals = row.map(clockIntervalOf);
  const overnight = intervals.filter(([start, end]) => start > end);
  return {
    own: fromRanges([...intervals.filter(([start, end]) => start < end), ...overnight.map(([start]) => [start, minutesADay] as const)]),
    tail: fromRanges(overnight.map(([, end]) => [0, end] as const)),
  };
}

const rowOf = (own: IntervalSet, tails: readonly ClockRange[]): ClockRange[] => {
  const ranges: ClockRange[] = [];
  for (let i = 0; i < own.length; i += 2) ranges.push([formatClock(own[i] ?? 0), formatClock(own[i + 1] ?? 0)]);
  return [...ranges, ...tails];
};

/** Opens or closes a stretch of the day; what runs over midnight keeps its tail as long as the last minute of the day is open. */
export function drawnOnRow(row: readonly ClockRange[], from: number, to: number, isOpen: boolean): ClockRange[] {
  const { own, tail } = minutesOfRow(row);
  const next = isOpen ? union(own, range(from, to)) : subtract(own, range(from, to));
  const end = tail[tail.length - 1];
  const last = next.length - 2;
  if (end === undefined || next[last + 1] !== minutesADay) return rowOf(next, []);
  // An interval runs over midnight only if it begins later in the day than it ends in the next.
  const start = next[last] ?? 0;
  if (start > end) return rowOf(next.slice(0, last), [[formatClock(start), formatClock(end)]]);
  return rowOf(next, [[formatClock(end + 1), formatClock(end)]]);
}

export const writtenRow = (row: readonly ClockRange[]): string => row.map(([start, end]) => `${start}–${end}`).join(", ");

const typed = /^(\d{1,2})(?::?(\d{2}))?\s*(?:-|–|—|to|until)\s*(\d{1,2})(?::?(\d{2}))?$/;

/** Hours as somebody typed them; the part that cannot be read where there is one. `8-18` and `0800–1800` are read, too. */
export function readRow(text: string): { readonly row: ClockRange[] } | { readonly unread: string } {
  const row: ClockRange[] = [];
  for (const part of text.split(/[,;]/).map((one) => one.trim())) {
    if (part === "" || part.toLowerCase() === "closed") continue;
    const found = typed.exec(part);
    const clock = (hour: string | undefined, minute: string | undefined): string => `${(hour ?? "").padStart(2, "0")}:${minute ?? "00"}`;
    const [start, end] = [clock(found?.[1], found?.[2]), clock(found?.[3], found?.[4])];
    if (!found || parseClock(start, false) === undefined || parseClock(end, true) === undefined) return { unread: part };
    row.push([start, end]);
  }
  return { row };
}
