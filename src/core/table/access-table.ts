import { NumberBuffer } from "./internal/number-buffer";
import type { Position } from "../compile/position-index";
import type { CompiledFacility } from "../compile/compiled-facility";
import { always, never as notEver } from "../time/instant";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { intersect, union } from "../time/intervals";
import { credentialsOf } from "../compile/holdings";
import type { AccessRows, RowNumber } from "./access-rows";
import { profilesOf } from "./internal/access-profiles";
import { RowBuilder, writeNarrowed } from "./internal/row-builder";
import { AccessWorld } from "./access-world";
import type { Timeframe } from "../paths/timeframe";
import { RowMaker } from "./internal/row-maker";
import { never } from "./timelines";
import type { Timelines, TimelineNumber } from "./timelines";

/**
 * The whole who × where of a facility on the minutes of a reading. Nothing in it is worked out per person: people fall into
 * profiles, profiles into rows, and rows hold numbers of shared timelines.
 */
export interface AccessTable {
  readonly compiled: CompiledFacility;
  readonly timeframe: Timeframe;
  readonly timelines: Timelines;
  /** Distinct rows; row 0 opens nothing. Tables of one world over the same layout of doors have them in common. */
  readonly rows: AccessRows;
  /** Index i: the row of credential i, were it live throughout. */
  readonly rowOfCredential: Int32Array;
  /** Index i: the timeline in which credential i is live. */
  readonly liveOfCredential: Int32Array;
  /** The row of a cardholder, all their credentials and when these are live taken together. Worked out once for all who have the same. */
  readonly rowOfCardholder: (cardholder: Position) => RowNumber;
  /** The row of a credential as it is live. */
  readonly liveRow: (credential: Position) => RowNumber;
}

/** The timeline of a window in which somebody or their card is in use; many came or left on one date, and these are looked up once. */
function windowTimelines(timeframe: Timeframe, timelines: Timelines): (from: EpochMinute, until: EpochMinute) => TimelineNumber {
  const span = timelines.number(timeframe.span);
  const byFrom = new Map<EpochMinute, Map<EpochMinute, TimelineNumber>>();
  return (from, until) => {
    let byUntil = byFrom.get(from);
    if (!byUntil) byFrom.set(from, (byUntil = new Map<EpochMinute, TimelineNumber>()));
    let timeline = byUntil.get(until);
    if (timeline === undefined) {
      const window = { from, until };
      byUntil.set(until, (timeline = timeframe.holdsThroughout(window) ? span : timelines.number(timeframe.window(window))));
    }
    return timeline;
  };
}

/** Index i: the timeline in which credential i and its holder are live; most are live throughout. */
function liveTimelines({ objects: { cards, holders } }: CompiledFacility, timeframe: Timeframe, timelines: Timelines): Int32Array {
  const times = new Int32Array(cards.holderOf.length).fill(timelines.number(timeframe.span));
  if (timeframe.mode.asIfLive) return times;
  const lineOf = windowTimelines(timeframe, timelines);
  const { from, until, holderOf } = cards;
  const { from: holderFrom, until: holderUntil } = holders;
  for (let i = 0; i < times.length; i++) {
    const holder = holderOf[i] as number;
    const isBounded = from[i] !== always || until[i] !== notEver;
    if (holder === -1) {
      if (isBounded) times[i] = lineOf(from[i] as EpochMinute, until[i] as EpochMinute);
    } else if (isBounded || holderFrom[holder] !== always || holderUntil[holder] !== notEver)
      times[i] = lineOf(
        Math.max(from[i] as number, holderFrom[holder] as number) as EpochMinute,
        Math.min(until[i] as number, holderUntil[holder] as number) as EpochMinute,
      );
  }
  return times;
}

/** Index i: the row of credential i, were it live throughout; the doors of each distinct profile are worked out once. */
function rowsOfCredentials(compiled: CompiledFacility, timeframe: Timeframe, world: AccessWorld): Int32Array {
  const { samples, profileOf } = profilesOf(compiled);
  const maker = new RowMaker(compiled, timeframe, world);
  const rowOfProfile = new Int32Array(samples.length);
  for (let profile = 0; profile < rowOfProfile.length; profile++) rowOfProfile[profile] = maker.rowOf(profile);
  const rowOfCredential = new Int32Array(profileOf.length);
  for (let i = 0; i < rowOfCredential.length; i++) rowOfCredential[i] = rowOfProfile[profileOf[i] as number] as number;
  return rowOfCredential;
}

/**
 * Lays out who opens which doors, and when, on the minutes of a timeframe. The world of another table may be shared where both are
 * read on the same minutes: equal timelines and rows then have equal numbers in both, and what is alike is worked out once.
 * Cost: the doors of each distinct profile, not of each person; each operation on timelines once. `known` are rows of the credentials that were worked
 * out in this world before: being live or not plays no part in them.
 */
export function accessTable(compiled: CompiledFacility, timeframe: Timeframe, world = new AccessWorld(), known?: Int32Array): AccessTable {
  world.mustRead(timeframe);
  const { timelines } = world;
  const layout = world.layoutOf(compiled.facility);
  const rowOfCredential = known ?? rowsOfCredentials(compiled, timeframe, world);
  const span = timelines.number(timeframe.span);
  const liveOfCredential = liveTimelines(compiled, timeframe, timelines);
  const { rows, livePieces, entitlements, rowOfLivePieces } = layout;

  const scratch = new RowBuilder(compiled.doors.length);
  const { pool } = rows;
  const awake = new NumberBuffer();
  const pieces = new NumberBuffer();
  /** The row of the credentials from `start` to `end` in a list, taken together. */
  const combine = (credentials: Int32Array, start: number, end: number): number => {
    awake.clear();
    let isOne = true;
    for (let i = start; i < end; i++) {
      const credential = credentials[i] as number;
      if (rowOfCredential[credential] === 0 || liveOfCredential[credential] === never) continue;
      awake.add(credential);
      isOne &&= rowOfCredential[credential] === rowOfCredential[awake.items[0] as number] && liveOfCredential[credential] === span;
    }
    if (awake.count === 0) return 0;
    if (isOne) return rowOfCredential[awake.items[0] as number] as number;
    // People carry the same few combinations, in whatever order: each is worked out once.
    pieces.clear();
    for (let k = 0; k < awake.count; k++)
      pieces.add(livePieces.number(rowOfCredential[awake.items[k] as number] as number, liveOfCredential[awake.items[k] as number] as number));
    const entitlement = entitlements.addSet(0, pieces);
    let number = rowOfLivePieces[entitlement];
    if (number === undefined) {
      for (let k = 0; k < awake.count; k++) {
        const row = rowOfCredential[awake.items[k] as number] as number;
        const live = liveOfCredential[awake.items[k] as number] as number;
        if (awake.count === 1) writeNarrowed(pool, row, live, timelines);
        else if (live === span) scratch.addRow(pool, row, timelines);
        else scratch.addNarrowed(pool, row, live, timelines);
      }
      if (awake.count > 1) scratch.moveTo(pool);
      number = rows.number();
      rowOfLivePieces[entitlement] = number;
    }
    return number;
  };
  return {
    compiled,
    timeframe,
    timelines,
    rows: pool,
    rowOfCredential,
    liveOfCredential,
    liveRow: (credential) => combine(Int32Array.of(credential), 0, 1),
    rowOfCardholder: (cardholder) => {
      const { start, positions } = compiled.holdings.credentials;
      const [first, end] = [start[cardholder] as number, start[cardholder + 1] as number];
      const only = positions[first] as number;
      return end === first + 1 && liveOfCredential[only] === span ? (rowOfCredential[only] as number) : combine(positions, first, end);
    },
  };
}

/** The doors that a credential opens with their times, in order of position. Keeps nothing, so that whole registers can stream by. */
export function* pairsOfCredential(
  { timelines, rows, rowOfCredential, liveOfCredential, timeframe }: AccessTable,
  credential: Position,
): Generator<readonly [door: Position, open: IntervalSet]> {
  const live = timelines.set(liveOfCredential[credential] as number);
  if (live.length === 0) return;
  const isWhole = live.length === 2 && live[0] === timeframe.span[0] && live[1] === timeframe.span[1];
  const row = rowOfCredential[credential] as number;
  const { doors, times } = rows;
  for (let i = rows.start(row); i < rows.end(row); i++) {
    const timeline = timelines.set(times[i] as number);
    const open = isWhole ? timeline : intersect(timeline, live);
    if (open.length > 0) yield [doors[i] as number, open];
  }
}

/** The doors that a cardholder opens with any credential, with their times, in order of position. Keeps nothing. */
export function pairsOfCardholder(table: AccessTable, cardholder: Position): Iterable<readonly [door: Position, open: IntervalSet]> {
  const credentials = credentialsOf(table.compiled.holdings, cardholder);
  const [only] = credentials;
  if (credentials.length === 1 && only !== undefined) return pairsOfCredential(table, only);
  const together = new Map<Position, IntervalSet>();
  for (const credential of credentials)
    for (const [door, open] of pairsOfCredential(table, credential)) together.set(door, union(together.get(door) ?? [], open));
  return [...together].sort((a, b) => a[0] - b[0]);
}
