import type { TimelineNumber } from "./timelines";
import type { RowNumber } from "./access-rows";
import { grown } from "../kernel/grown";
import { invariant, required } from "../kernel/invariant";
import { PairTable } from "../kernel/pair-table";
import type { Position } from "../compile/position-index";
import type { EpochMinute } from "../time/instant";
import { totalMinutes } from "../time/intervals";
import { MinuteCounter } from "../time/minute-counter";
import { RunningMinutes } from "../time/running-minutes";
import type { AccessTable } from "./access-table";
import { buckets } from "./internal/buckets";

/** What a pair comes to over the minutes of the reading. */
export interface PairSummary {
  readonly minutes: number;
  /** Minutes outside business hours. */
  readonly outOfHoursMinutes: number;
  readonly first: EpochMinute;
  /** End of the last opening. */
  readonly last: EpochMinute;
}

/** Summaries of pairs: minutes open, minutes out of hours, first and last opening; each worked out once per timeline and clock. */
export interface Summaries {
  readonly of: (timeline: TimelineNumber, door: Position) => PairSummary;
  /** Sums a row up, and gives the columns as they are now: look again after the next row. */
  readonly ofRow: (row: RowNumber) => SummaryColumns;
  /** What all pairs come to together, without visiting them one by one. */
  readonly totals: () => { readonly pairs: number; readonly minutes: number; readonly outOfHoursMinutes: number };
}

/** What the entries of the table's rows come to: equal ones share one summary. */
export interface SummaryColumns {
  /** Index e, beside the columns of the rows: where in `numbers` the summary of entry e stands, once its row was asked for. */
  readonly places: Int32Array;
  /** From a place on: minutes open, minutes out of hours, and, in minutes since the start of the reading, the first minute and the end of the last opening. */
  readonly numbers: Int32Array;
}

/** `businessLine` gives the timeline, in the table's book, of the business hours that count at a door. */
export function summaries(table: AccessTable, businessLine: (door: Position) => number): Summaries {
  const { timelines, rows, compiled, timeframe } = table;
  // Columns of 32 bits hold minutes since the start of the reading, which may lie in any year.
  const [begin = 0, end = 0] = timeframe.span;
  invariant(end - begin < 2 ** 31, "a summary is of less than 4000 years");
  const businessLines: number[] = [];
  /** Index d: which of the business timelines counts at door d. */
  const businessOfDoor = Int32Array.from(compiled.doors, ({ position }) => {
    const timeline = businessLine(position);
    const known = businessLines.indexOf(timeline);
    return known < 0 ? businessLines.push(timeline) - 1 : known;
  });
  const inBusiness = businessLines.map((timeline) => new MinuteCounter(timelines.set(timeline)));
  // Parts of one timeline are many: each person who came or left has their own of their schedule.
  const running = new PairTable();
  const runningMinutes: RunningMinutes[] = [];
  /** Minutes of a timeline, those of them in business hours, its first minute and its end. */
  const countsOf = (
    timeline: TimelineNumber,
    business: number,
  ): { readonly minutes: number; readonly common: number; readonly first: number; readonly last: number } => {
    const counter = inBusiness[business] as MinuteCounter;
    const part = timelines.cutOf(timeline);
    if (part === undefined) {
      const set = timelines.set(timeline);
      const bound = (index: number): number => required(set[index], "timelines of rows are not empty");
      return { minutes: totalMinutes(set), common: counter.common(set), first: bound(0), last: bound(set.length - 1) };
    }
    const at = running.getOrSet(part.of, business, runningMinutes.length);
    const { minutes, common } = (runningMinutes[at] ??= new RunningMinutes(timelines.set(part.of), counter)).ofPart(part);
    return { minutes, common, first: part.first, last: part.last };
  };
  // Index timeline × business timelines + business: the place of a summary in `stored`, four numbers from there on; 0 where there is none yet.
  let places = new Int32Array(0);
  let stored = new Int32Array(1024);
  let used = 4;
  /** The book grows while people are put together from several cards. */
  const makeRoom = (): void => {
    const room = timelines.size * businessLines.length;
    if (room > places.length) places = grown(places, Math.max(room, places.length * 2));
  };
  const placeOf = (timeline: TimelineNumber, business: number): number => {
    const at = timeline * businessLines.length + business;
    makeRoom();
    if (places[at] !== 0) return places[at] as number;
    if (used === stored.length) stored = grown(stored, used * 2);
    const { minutes, common, first, last } = countsOf(timeline, business);
    stored[used] = minutes;
    stored[used + 1] = minutes - common;
    stored[used + 2] = first - begin;
    stored[used + 3] = last - begin;
    places[at] = used;
    used += 4;
    return places[at];
  };
  let entries = new Int32Array(0);
  // Index r: 1 where the columns speak of row r.
  let isDone = new Int32Array(0);
  const ofRow = (row: RowNumber): SummaryColumns => {
    const { doors, times } = rows;
    // The rows grow while people are put together from several cards.
    if (row >= isDone.length) isDone = grown(isDone, Math.max(rows.count, isDone.length * 2));
    if (isDone[row] !== 1) {
      isDone[row] = 1;
      const endOfRow = rows.end(row);
      if (endOfRow > entries.length) entries = grown(entries, doors.length);
      const count = businessLines.length;
      makeRoom();
      for (let i = rows.start(row); i < endOfRow; i++) {
        const timeline = times[i] as number;
        const business = businessOfDoor[doors[i] as number] as number;
        // Most summaries are there already: looked up here, without a call.
        const place = places[timeline * count + business] as number;
        entries[i] = place === 0 ? placeOf(timeline, business) : place;
      }
    }
    return { places: entries, numbers: stored };
  };
  return {
    of: (timeline, door) => {
      const place = placeOf(timeline, businessOfDoor[door] as number);
      const at = (index: number): number => stored[place + index] as number;
      return { minutes: at(0), outOfHoursMinutes: at(1), first: (begin + at(2)) as EpochMinute, last: (begin + at(3)) as EpochMinute };
    },
    ofRow,
    totals: () => {
      const people = new Map<number, number>();
      for (let cardholder = 0; cardholder < compiled.cardholders.length; cardholder++) {
        const number = table.rowOfCardholder(cardholder);
        people.set(number, (people.get(number) ?? 0) + 1);
      }
      let [pairs, minutes, outOfHoursMinutes] = [0, 0, 0];
      for (const [number, count] of people) {
        const { places: of, numbers } = ofRow(number);
        pairs += count * (rows.end(number) - rows.start(number));
        for (let i = rows.start(number); i < rows.end(number); i++) {
          minutes += count * (numbers[of[i] as number] as number);
          outOfHoursMinutes += count * (numbers[(of[i] as number) + 1] as number);
        }
      }
      return { pairs, minutes, outOfHoursMinutes };
    },
  };
}

/**
 * People who open the same, with what each of them opens: every one of `cardholders` from index `from` to `to` has every entry of
 * the columns from `start` to `end`, each a pair of a cardholder and a door.
 */
export interface SummaryGroup extends SummaryColumns {
  readonly cardholders: Int32Array;
  readonly from: number;
  readonly to: number;
  readonly doors: Int32Array;
  readonly start: number;
  readonly end: number;
}

/**
 * The summary of every cardholder and door that open at all, by people who open the same. Nothing is copied: the columns are the
 * table's own, and stay as they are. Cost: the people, and the rows of the distinct combinations.
 */
export function* summaryGroups(table: AccessTable, { ofRow }: Summaries): Generator<SummaryGroup> {
  const { rows, compiled } = table;
  const rowOf = new Int32Array(compiled.cardholders.length);
  for (let cardholder = 0; cardholder < rowOf.length; cardholder++) rowOf[cardholder] = table.rowOfCardholder(cardholder);
  const { start, members } = buckets(rowOf, rows.count);
  for (let row = 1; row < rows.count; row++) {
    const [from, to] = [start[row] as number, start[row + 1] as number];
    if (from === to) continue;
    yield { cardholders: members, from, to, doors: rows.doors, start: rows.start(row), end: rows.end(row), ...ofRow(row) };
  }
}

/**
 * Columns of pairs: index i, below `length`, speaks of one cardholder and door that open at all; `first` and `last` in minutes since the start of the reading.
 */
export interface PairColumns {
  readonly length: number;
  readonly cardholders: Int32Array;
  readonly doors: Int32Array;
  readonly minutes: Int32Array;
  readonly outOfHoursMinutes: Int32Array;
  readonly first: Int32Array;
  readonly last: Int32Array;
}

/** Small enough to stay in a processor's cache while it is filled and read. */
const pairsABlock = 1 << 14;

/**
 * The same with each pair written out, in blocks of columns. The columns are filled anew for each block: whoever wants to keep one
 * copies it. Cost: that of the groups, and the writing.
 */
export function* pairBlocks(table: AccessTable, summed: Summaries): Generator<PairColumns> {
  const size = Math.max(pairsABlock, table.compiled.doors.length);
  const column = () => new Int32Array(size);
  const block = { cardholders: column(), doors: column(), minutes: column(), outOfHoursMinutes: column(), first: column(), last: column() };
  let length = 0;
  for (const group of summaryGroups(table, summed)) {
    const entries = group.end - group.start;
    for (let m = group.from; m < group.to; m++) {
      if (length + entries > size) {
        yield { length, ...block };
        length = 0;
      }
      writePairs(block, length, group.cardholders[m] as number, group);
      length += entries;
    }
  }
  if (length > 0) yield { length, ...block };
}

/** Writes the entries of a group as the pairs of one cardholder, from index `at` of the block on. */
function writePairs(
  { cardholders, doors, minutes, outOfHoursMinutes, first, last }: Omit<PairColumns, "length">,
  at: number,
  cardholder: Position,
  { start, end, doors: opened, places, numbers }: SummaryGroup,
): void {
  for (let i = start, k = at; i < end; i++, k++) {
    const place = places[i] as number;
    cardholders[k] = cardholder;
    doors[k] = opened[i] as number;
    minutes[k] = numbers[place] as number;
    outOfHoursMinutes[k] = numbers[place + 1] as number;
    first[k] = numbers[place + 2] as number;
    last[k] = numbers[place + 3] as number;
  }
}
