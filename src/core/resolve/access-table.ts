import { present } from "../kernel/invariant";
import type { CompiledCredential, CompiledDoor, CompiledFacility, Life, Position, RouteList } from "../compile/compiled-facility";
import { always, never as notEver } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { intersect, union } from "../time/intervals";
import type { Window } from "../time/window";
import type { AccessRow } from "./access-row";
import { RowBook, Scratch } from "./access-row";
import { meetsEntry } from "./entry";
import { overrideCovers, siteAllows } from "./paths";
import { profilesOf } from "./profiles";
import type { Profile } from "./profiles";
import type { Reading } from "./reading";
import { TimelineBook, never } from "./timelines";
import type { TimelineNumber } from "./timelines";
import { freeIn, liveIn } from "./timetable";

/**
 * The whole who × where of a facility on the minutes of a reading. Nothing in it is worked out per person: people fall into
 * profiles, profiles into rows, and rows hold numbers of shared timelines.
 */
export interface AccessTable {
  readonly compiled: CompiledFacility;
  readonly reading: Reading;
  readonly book: TimelineBook;
  /** Distinct rows; row 0 opens nothing. */
  readonly rows: readonly AccessRow[];
  /** Index i: the row of credential i, were it live throughout. */
  readonly rowOfCredential: Int32Array;
  /** Index i: the timeline in which credential i is live. */
  readonly liveOfCredential: Int32Array;
  /** The row of a cardholder, all their credentials and when these are live taken together. Worked out once per combination. */
  readonly rowOfCardholder: (cardholder: Position) => number;
  /** The row of a credential as it is live. */
  readonly liveRow: (credential: Position) => number;
}

/** Doors that lie behind another, those nearest to the outside first, so that each is worked out after the one before it. */
function doorsBehindOthers(doors: readonly CompiledDoor[]): CompiledDoor[] {
  const depth = (door: CompiledDoor): number => {
    let steps = 0;
    for (let via = door.via; via !== undefined; via = doors[via]?.via) steps++;
    return steps;
  };
  return doors
    .filter(({ via }) => via !== undefined)
    .map((door) => ({ door, steps: depth(door) }))
    .sort((a, b) => a.steps - b.steps)
    .map(({ door }) => door);
}

/** Works out rows; everything that several of them have in common is kept. */
class RowMaker {
  private readonly clockOfDoor: Int32Array;
  private readonly clocks: { readonly zone: CompiledDoor["zone"]; readonly calendar: Position | undefined }[] = [];
  private readonly clockNumbers = new Map<string, number>();
  private readonly scheduleLines = new Map<number, TimelineNumber>();
  private readonly ownClocks = new Map<number, Int32Array>();
  private readonly windowLines = new Map<Window, TimelineNumber>();
  private readonly allows = new Map<string, AccessRow>();
  private readonly blocks = new Map<string, AccessRow>();
  private readonly entryLines = new Map<string, Int32Array>();
  private readonly behind: readonly CompiledDoor[];
  private readonly free = new Map<Position, TimelineNumber>();
  private readonly scratch: Scratch;
  private readonly whole: TimelineNumber;

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly reading: Reading,
    private readonly book: TimelineBook,
  ) {
    this.scratch = new Scratch(compiled.doors.length);
    this.whole = book.number(reading.whole);
    this.clockOfDoor = Int32Array.from(compiled.doors, ({ zone, calendar }) => this.clock(zone, calendar));
    this.behind = doorsBehindOthers(compiled.doors);
  }

  private clock(zone: CompiledDoor["zone"], calendar: Position | undefined): number {
    const key = `${calendar ?? ""} ${zone.name}`;
    let number = this.clockNumbers.get(key);
    if (number === undefined) {
      number = this.clocks.push({ zone, calendar }) - 1;
      this.clockNumbers.set(key, number);
    }
    return number;
  }

  /** The clock of each door for somebody with a calendar of their own, or for anybody else. */
  private clocksFor(own: Position | undefined): Int32Array {
    if (own === undefined) return this.clockOfDoor;
    let clocks = this.ownClocks.get(own);
    if (!clocks) {
      clocks = Int32Array.from(this.compiled.doors, ({ zone }) => this.clock(zone, own));
      this.ownClocks.set(own, clocks);
    }
    return clocks;
  }

  private scheduleLine(schedule: Position, clock: number): TimelineNumber {
    const key = schedule * 0x100000 + clock;
    let line = this.scheduleLines.get(key);
    if (line === undefined) {
      const { zone, calendar } = present(this.clocks[clock], "clocks are numbered");
      line = this.book.number(this.reading.schedule(schedule, calendar, zone));
      this.scheduleLines.set(key, line);
    }
    return line;
  }

  private windowLine(window: Window): TimelineNumber {
    let line = this.windowLines.get(window);
    if (line === undefined) {
      line = this.book.number(this.reading.window(window));
      this.windowLines.set(window, line);
    }
    return line;
  }

  /** What the routes of a list allow, or block, by door. */
  private partial(list: RouteList, own: Position | undefined, pass: boolean, blocking: boolean): AccessRow {
    const { lockdown } = this.reading.mode;
    const known = blocking ? this.blocks : this.allows;
    const key = `${list.number} ${own ?? ""} ${lockdown && pass}`;
    const before = known.get(key);
    if (before) return before;
    const clocks = this.clocksFor(own);
    for (const route of list.routes) {
      const grant = present(this.compiled.grants[route.grant], "positions are valid");
      if (grant.blocks !== blocking || (!blocking && lockdown && !pass && !grant.grant.inLockdown)) continue;
      const window = this.windowLine(route.window);
      if (window === never) continue;
      for (const [door, ways] of this.compiled.waysOf(route.grant)) {
        const clock = clocks[door] as number;
        const narrowed = grant.schedule === undefined ? window : this.book.intersect(window, this.scheduleLine(grant.schedule, clock));
        if (narrowed === never) continue;
        // The schedules of a level's rows play no part in a block.
        if (blocking) this.scratch.add(door, narrowed, this.book);
        else
          for (const { schedule } of ways)
            this.scratch.add(door, schedule === undefined ? narrowed : this.book.intersect(narrowed, this.scheduleLine(schedule, clock)), this.book);
      }
    }
    const made = this.scratch.take();
    known.set(key, made);
    return made;
  }

  /** Index i: when a credential of this sort meets the entry rule of door i. */
  private entryMet({ sample }: Profile): Int32Array {
    const key = `${sample.credential.kind === "pin"} ${sample.hasPin} ${!!sample.holder?.cardholder.pinExempt}`;
    let lines = this.entryLines.get(key);
    if (!lines) {
      const { book, whole } = this;
      lines = Int32Array.from(this.compiled.doors, (door) => {
        const clock = this.clockOfDoor[door.position] as number;
        let rest = whole;
        let met: TimelineNumber = never;
        for (const { schedule, entry } of door.entryRows) {
          const inForce = book.intersect(rest, this.scheduleLine(schedule, clock));
          if (meetsEntry(sample, entry)) met = book.union(met, inForce);
          rest = book.subtract(rest, inForce);
        }
        return meetsEntry(sample, door.entry) ? book.union(met, rest) : met;
      });
      this.entryLines.set(key, lines);
    }
    return lines;
  }

  private freeLine(door: Position): TimelineNumber {
    let line = this.free.get(door);
    if (line === undefined) {
      line = this.book.number(freeIn(this.reading, present(this.compiled.doors[door], "positions are valid")));
      this.free.set(door, line);
    }
    return line;
  }

  /** The row of a profile, its credentials taken as live throughout. The order is that of section 8 of the semantics. */
  row(profile: Profile): AccessRow {
    const { compiled, scratch, book } = this;
    const { sample, routes } = profile;
    const { holder } = sample;
    const pass = !!holder?.cardholder.lockdownPass;
    const allowed = routes.map(({ list }) => this.partial(list, holder?.calendar, pass, false));
    const blocked = routes.map(({ list }) => this.partial(list, holder?.calendar, pass, true));
    const entry = this.entryMet(profile);
    const clocks = this.clocksFor(holder?.calendar);
    for (const partial of allowed) scratch.addAll(partial, book);
    const hours = holder?.hours;
    if (hours !== undefined) scratch.change((door, line) => book.intersect(line, this.scheduleLine(hours, clocks[door] as number)));
    if (holder?.override) for (const door of compiled.doors) if (overrideCovers(sample, door)) scratch.set(door.position, this.whole);
    for (const { doors, lines } of blocked)
      for (let i = 0; i < doors.length; i++) {
        const door = doors[i] as number;
        scratch.set(door, book.subtract(scratch.get(door), lines[i] as number));
      }
    if (holder?.sites) scratch.change((door, line) => (siteAllows(sample, present(compiled.doors[door], "positions are valid")) ? line : never));
    scratch.change((door, line) => book.intersect(line, entry[door] as number));
    for (const { position, via } of this.behind) {
      const line = scratch.get(position);
      if (line !== never && via !== undefined) scratch.set(position, book.intersect(line, book.union(scratch.get(via), this.freeLine(via))));
    }
    return scratch.take();
  }
}

/**
 * Lays out who opens which doors, and when, on the minutes of a reading. A book of another table may be shared where both are
 * read on the same minutes: equal timelines then have equal numbers in both.
 * Cost: the doors of each distinct profile, not of each person; each operation on timelines once.
 */
export function accessTable(compiled: CompiledFacility, reading: Reading, book = new TimelineBook()): AccessTable {
  const { profiles, ofCredential } = profilesOf(compiled);
  const rowBook = new RowBook();
  const maker = new RowMaker(compiled, reading, book);
  const rowOfProfile = Int32Array.from(profiles, (profile) => {
    const { doors, lines } = maker.row(profile);
    return rowBook.number(doors, lines);
  });
  const whole = book.number(reading.whole);
  const count = compiled.credentials.length;
  const rowOfCredential = new Int32Array(count);
  const liveOfCredential = new Int32Array(count);
  for (let i = 0; i < count; i++) {
    rowOfCredential[i] = rowOfProfile[ofCredential[i] as number] as number;
    liveOfCredential[i] = lineOfLife(book, reading, compiled.credentials[i] as CompiledCredential, whole);
  }

  const combined = new Map<string, number>();
  const scratch = new Scratch(compiled.doors.length);
  const combine = (parts: readonly { readonly row: number; readonly live: TimelineNumber }[]): number => {
    const awake = parts.filter(({ row, live }) => row !== 0 && live !== never);
    const [first] = awake;
    if (!first) return 0;
    if (awake.every(({ row, live }) => row === first.row && live === whole)) return first.row;
    const key = awake.map(({ row, live }) => `${row}:${live}`).sort().join();
    let number = combined.get(key);
    if (number === undefined) {
      for (const { row, live } of awake) {
        const { doors, lines } = rowBook.rows[row] as AccessRow;
        for (let i = 0; i < doors.length; i++) scratch.add(doors[i] as number, live === whole ? (lines[i] as number) : book.intersect(lines[i] as number, live), book);
      }
      const { doors, lines } = scratch.take();
      number = rowBook.number(doors, lines);
      combined.set(key, number);
    }
    return number;
  };
  const part = (credential: Position) => ({ row: rowOfCredential[credential] as number, live: liveOfCredential[credential] as number });
  return {
    compiled,
    reading,
    book,
    rows: rowBook.rows,
    rowOfCredential,
    liveOfCredential,
    liveRow: (credential) => combine([part(credential)]),
    rowOfCardholder: (cardholder) => {
      const { credentials } = present(compiled.cardholders[cardholder], "positions are valid");
      const [only] = credentials;
      if (credentials.length === 1 && only !== undefined && liveOfCredential[only] === whole) return rowOfCredential[only] as number;
      return combine(credentials.map(part));
    },
  };
}

/** Most credentials are live throughout; for them no set is made. */
function lineOfLife(book: TimelineBook, reading: Reading, credential: CompiledCredential, whole: TimelineNumber): TimelineNumber {
  const throughout = ({ window, inactiveFrom }: Life): boolean => reading.holdsThroughout(window) && (inactiveFrom === notEver || reading.holdsThroughout({ from: always, until: inactiveFrom }));
  if (reading.mode.asIfLive || (throughout(credential.life) && (!credential.holder || throughout(credential.holder.life)))) return whole;
  return book.number(liveIn(reading, credential));
}

/** The doors that a credential opens with their times, in order of position. Keeps nothing, so that whole registers can stream by. */
export function* pairsOfCredential({ book, rows, rowOfCredential, liveOfCredential, reading }: AccessTable, credential: Position): Generator<readonly [door: Position, open: IntervalSet]> {
  const live = book.set(liveOfCredential[credential] as number);
  if (live.length === 0) return;
  const isWhole = live.length === 2 && live[0] === reading.whole[0] && live[1] === reading.whole[1];
  const { doors, lines } = rows[rowOfCredential[credential] as number] as AccessRow;
  for (let i = 0; i < doors.length; i++) {
    const line = book.set(lines[i] as number);
    const open = isWhole ? line : intersect(line, live);
    if (open.length > 0) yield [doors[i] as number, open];
  }
}

/** The doors that a cardholder opens with any credential, with their times, in order of position. Keeps nothing. */
export function pairsOfCardholder(table: AccessTable, cardholder: Position): Iterable<readonly [door: Position, open: IntervalSet]> {
  const { credentials } = present(table.compiled.cardholders[cardholder], "positions are valid");
  const [only] = credentials;
  if (credentials.length === 1 && only !== undefined) return pairsOfCredential(table, only);
  const together = new Map<Position, IntervalSet>();
  for (const credential of credentials)
    for (const [door, open] of pairsOfCredential(table, credential)) together.set(door, union(together.get(door) ?? [], open));
  return [...together].sort((a, b) => a[0] - b[0]);
}
