import { present } from "../kernel/invariant";
import { PositionIndex } from "../kernel/position-index";
import type { CompiledCardholder, CompiledCredential, CompiledDoor, CompiledFacility, Position } from "../compile/compiled-facility";
import { meansOf } from "../compile/access-columns";
import { targetKey } from "../compile/coverage";
import type { GrantTarget, LevelRow } from "../facility/draft";
import { unbounded } from "../time/window";
import type { Window } from "../time/window";
import type { AccessRow } from "./access-row";
import { Scratch } from "./access-row";
import type { AccessWorld, DoorArrangement } from "./access-world";
import { meetsEntry } from "./entry";
import { overrideCovers, siteAllows } from "./paths";
import type { Reading } from "./reading";
import { never } from "./timelines";
import type { TimelineNumber } from "./timelines";
import { freeIn } from "./timetable";

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

const coveredBy = ({ door, doorGroup, area }: Pick<LevelRow, "door" | "doorGroup" | "area">): string =>
  door !== undefined ? `d${door}` : doorGroup !== undefined ? `g${doorGroup}` : `a${area ?? ""}`;

/** The numbers of the lists by which grants come to a credential. */
function listsOf({ columns }: CompiledFacility, credential: Position): number[] {
  const lists: number[] = [];
  const own = columns.ownList.get(credential);
  if (own !== undefined) lists.push(own);
  const holder = columns.holderOf[credential] as number;
  if (holder === -1) return lists;
  if (columns.directList[holder] !== -1) lists.push(columns.directList[holder] as number);
  if (columns.departmentList[holder] !== -1) lists.push(columns.departmentList[holder] as number);
  for (let m = columns.firstMembership[holder] as number; m !== -1; m = columns.nextMembership[m] as number) lists.push(columns.membershipList[m] as number);
  return lists;
}

/** Works out the rows of one facility; what its world knows already is taken from there. */
export class RowMaker {
  private readonly arrangement: DoorArrangement;
  private readonly schedules: Int32Array;
  private readonly calendars: Int32Array;
  private readonly clockOfDoor: Int32Array;
  private readonly clocks: { readonly zone: CompiledDoor["zone"]; readonly calendar: Position | undefined }[] = [];
  private readonly ownClocks = new Map<number, Int32Array>();
  private readonly windowLines = new Map<Window, TimelineNumber>();
  private readonly levelNumbers = new Map<string, number>();
  private readonly otherNumbers = new Map<string, number>();
  private readonly levels: ReadonlyMap<string, readonly LevelRow[]>;
  private readonly listNumbers: (number | undefined)[] = [];
  private readonly scheduleById: PositionIndex;
  private readonly surroundings: number;
  private readonly entryLines = new Map<string, Int32Array | undefined>();
  private readonly behind: readonly CompiledDoor[];
  private readonly free = new Map<Position, TimelineNumber>();
  private readonly scratch: Scratch;
  private readonly whole: TimelineNumber;

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly reading: Reading,
    private readonly world: AccessWorld,
  ) {
    const { facility } = compiled;
    this.arrangement = world.arrangementOf(facility);
    this.scratch = new Scratch(compiled.doors.length);
    this.whole = world.book.number(reading.whole);
    this.schedules = Int32Array.from(facility.schedules, ({ always, week, holidays, onHoliday, from, until }) => world.schedules.number(JSON.stringify([always, week, holidays, onHoliday, from, until])));
    this.calendars = Int32Array.from(facility.calendars, ({ days }) => world.calendars.number(JSON.stringify(days ?? [])));
    this.scheduleById = new PositionIndex(facility.schedules);
    this.levels = new Map(facility.levels.map(({ id, rows }) => [id, rows ?? []]));
    this.clockOfDoor = Int32Array.from(compiled.doors, ({ zone, calendar }) => this.clock(zone, calendar));
    this.behind = doorsBehindOthers(compiled.doors);
    this.surroundings = this.arrangement.surroundings.number(this.describeSurroundings());
  }

  private calendarNumber(calendar: Position | undefined): number {
    return calendar === undefined ? 0 : (this.calendars[calendar] as number);
  }

  private describeSurroundings(): string {
    const number = (schedule: Position): number => this.schedules[schedule] as number;
    const particular = this.compiled.doors.flatMap(({ position, entry, entryRows, unlock }) =>
      entry === "card" && entryRows.length === 0 && unlock === undefined ? [] : [position, entry, ...entryRows.flatMap((row) => [number(row.schedule), row.entry]), unlock === undefined ? -1 : number(unlock)],
    );
    return `${this.clockOfDoor.join()} ${particular.join()}`;
  }

  private clock(zone: CompiledDoor["zone"], calendar: Position | undefined): number {
    const number = this.world.clocks.number(`${this.calendarNumber(calendar)} ${zone.name}`);
    this.clocks[number] ??= { zone, calendar };
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
    const { scheduleLines, book } = this.world;
    const number = this.schedules[schedule] as number;
    let line = scheduleLines.get(number, clock);
    if (line < 0) {
      const { zone, calendar } = present(this.clocks[clock], "clocks are numbered");
      line = book.number(this.reading.schedule(schedule, calendar, zone));
      scheduleLines.set(number, clock, line);
    }
    return line;
  }

  private windowLine(window: Window): TimelineNumber {
    if (window === unbounded) return this.whole;
    let line = this.windowLines.get(window);
    if (line === undefined) {
      line = this.reading.holdsThroughout(window) ? this.whole : this.world.book.number(this.reading.window(window));
      this.windowLines.set(window, line);
    }
    return line;
  }

  /** Grants of targets with one number cover the same doors by ways on the same schedules. */
  private targetNumber(open: GrantTarget): number {
    const { level, bundle } = open;
    // Most grants open a level: looked up by its id as it stands, without putting a key together.
    const known = level === undefined ? this.otherNumbers : this.levelNumbers;
    const key = level ?? targetKey(open);
    let number = known.get(key);
    if (number === undefined) {
      const ofLevel = (id: string): string =>
        `l${JSON.stringify((this.levels.get(id) ?? []).map((row) => [coveredBy(row), this.schedules[present(this.scheduleById.get(row.schedule), "references resolve")]]))}`;
      const levelsOf = (id: string): readonly string[] => present(this.compiled.facility.bundles.find((one) => one.id === id), "references resolve").levels ?? [];
      number = this.arrangement.targets.number(level !== undefined ? ofLevel(level) : bundle !== undefined ? `b${JSON.stringify(levelsOf(bundle).map(ofLevel))}` : key);
      known.set(key, number);
    }
    return number;
  }

  /** Lists with one number allow and block the same, on the minutes of the reading. */
  private listNumber(at: number): number {
    let number = this.listNumbers[at];
    if (number === undefined) {
      const { contents } = this.arrangement;
      number = 0;
      for (const route of this.compiled.routeList(at).routes) {
        const { grant, schedule, blocks } = present(this.compiled.grants[route.grant], "positions are valid");
        const window = this.windowLine(route.window);
        if (window === never) continue;
        const flags = (blocks ? 1 : 0) + (grant.inLockdown ? 2 : 0);
        const what = contents.number(this.targetNumber(grant.open), schedule === undefined ? 0 : (this.schedules[schedule] as number));
        number = contents.number(number, contents.number(what, contents.number(window, flags)));
      }
      this.listNumbers[at] = number;
    }
    return number;
  }

  /** Profiles with one number have the same row in the same surroundings. */
  private profileNumber(sample: Position): number {
    const { contents, peculiarities } = this.arrangement;
    const { facility, columns } = this.compiled;
    const numbers = listsOf(this.compiled, sample).map((list) => this.listNumber(list));
    if (numbers.length > 1) numbers.sort((a, b) => a - b);
    let number = 0;
    for (let i = 0; i < numbers.length; i++) if (numbers[i] !== numbers[i - 1]) number = contents.number(number, numbers[i] as number);
    const means = meansOf(present(facility.credentials[sample], "positions are valid"));
    const isPeculiar = columns.isPeculiar[columns.holderOf[sample] as number] === 1;
    // 0 to 2 say that there is nothing peculiar.
    return contents.number(number, isPeculiar ? 2 + peculiarities.number(`${means} ${this.peculiarity(present(this.compiled.credentials.at(sample)?.holder, "a card has a holder"))}`) : means);
  }

  /** What beside grants decides what a cardholder opens, in numbers that hold for the whole world. */
  private peculiarity(holder: CompiledCardholder): string {
    const sorted = (set: ReadonlySet<string> | undefined): readonly string[] | undefined => set && [...set].sort();
    return JSON.stringify([
      this.calendarNumber(holder.calendar),
      holder.hours === undefined ? 0 : this.schedules[holder.hours],
      sorted(holder.sites) ?? 0,
      holder.override === "everywhere" ? 1 : (sorted(holder.override) ?? 0),
      !!holder.cardholder.lockdownPass,
      !!holder.cardholder.pinExempt,
    ]);
  }

  /** What the routes of a list allow, or block, by door. */
  private partial(at: number, own: Position | undefined, pass: boolean, blocking: boolean): AccessRow {
    const { lockdown } = this.reading.mode;
    const { arrangement, compiled, scratch } = this;
    const { book } = this.world;
    const known = blocking ? arrangement.blocking : arrangement.allowing;
    const number = this.listNumber(at);
    const variant = arrangement.contents.number(this.surroundings, this.calendarNumber(own) * 2 + (lockdown && pass ? 1 : 0));
    const before = known.get(number, variant);
    if (before >= 0) return arrangement.partials[before] as AccessRow;
    const clocks = this.clocksFor(own);
    for (const route of compiled.routeList(at).routes) {
      const grant = present(compiled.grants[route.grant], "positions are valid");
      if (grant.blocks !== blocking || (!blocking && lockdown && !pass && !grant.grant.inLockdown)) continue;
      const window = this.windowLine(route.window);
      if (window === never) continue;
      for (const [door, ways] of compiled.waysOf(route.grant)) {
        const clock = clocks[door] as number;
        const narrowed = grant.schedule === undefined ? window : book.intersect(window, this.scheduleLine(grant.schedule, clock));
        if (narrowed === never) continue;
        // The schedules of a level's rows play no part in a block.
        if (blocking) scratch.add(door, narrowed, book);
        else for (const { schedule } of ways) scratch.add(door, schedule === undefined ? narrowed : book.intersect(narrowed, this.scheduleLine(schedule, clock)), book);
      }
    }
    known.set(number, variant, arrangement.partials.push(scratch.take()) - 1);
    return arrangement.partials[arrangement.partials.length - 1] as AccessRow;
  }

  /** Index i: when a credential of this sort meets the entry rule of door i; undefined where it always does, at every door. */
  private entryMet(sample: CompiledCredential): Int32Array | undefined {
    const key = `${meansOf(sample.credential)} ${!!sample.holder?.cardholder.pinExempt}`;
    if (this.entryLines.has(key)) return this.entryLines.get(key);
    const { whole } = this;
    const { book } = this.world;
    const lines = Int32Array.from(this.compiled.doors, (door) => {
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
    const found = lines.every((line) => line === whole) ? undefined : lines;
    this.entryLines.set(key, found);
    return found;
  }

  private freeLine(door: Position): TimelineNumber {
    let line = this.free.get(door);
    if (line === undefined) {
      line = this.world.book.number(freeIn(this.reading, present(this.compiled.doors[door], "positions are valid")));
      this.free.set(door, line);
    }
    return line;
  }

  /** The number of the row that credentials like the sample have, taken as live throughout. */
  rowOf(sample: Position): number {
    const { rowOfProfile, rows } = this.arrangement;
    const profile = this.profileNumber(sample);
    const known = rowOfProfile.get(profile, this.surroundings);
    if (known >= 0) return known;
    const { doors, lines } = this.workOut(present(this.compiled.credentials.at(sample), "positions are valid"));
    const number = rows.number(doors, lines);
    rowOfProfile.set(profile, this.surroundings, number);
    return number;
  }

  /** The order is that of section 8 of the semantics. */
  private workOut(sample: CompiledCredential): AccessRow {
    const { compiled, scratch } = this;
    const { book } = this.world;
    const { holder } = sample;
    const pass = !!holder?.cardholder.lockdownPass;
    const clocks = this.clocksFor(holder?.calendar);
    // A partial may have to be worked out in the same scratch, so all are there before the row is begun.
    const lists = listsOf(compiled, sample.position);
    const allowed = lists.map((list) => this.partial(list, holder?.calendar, pass, false));
    const blocked = lists.map((list) => this.partial(list, holder?.calendar, pass, true));
    const entry = this.entryMet(sample);
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
    const { whole } = this;
    if (entry) scratch.change((door, line) => ((entry[door] as number) === whole ? line : book.intersect(line, entry[door] as number)));
    for (const { position, via } of this.behind) {
      const line = scratch.get(position);
      if (line !== never && via !== undefined) scratch.set(position, book.intersect(line, book.union(scratch.get(via), this.freeLine(via))));
    }
    return scratch.take();
  }
}
