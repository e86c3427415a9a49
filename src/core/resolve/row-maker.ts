import { sortFew } from "../kernel/compare";
import { present } from "../kernel/invariant";
import { PositionIndex } from "../kernel/position-index";
import type { CompiledCardholder, CompiledDoor, CompiledFacility, Position } from "../compile/compiled-facility";
import { targetKey } from "../compile/coverage";
import type { GrantTarget, LevelRow } from "../facility/draft";
import { unbounded } from "../time/window";
import type { Window } from "../time/window";
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

/** Puts the numbers of the lists by which grants come to a credential into `lists`. */
function collectLists({ columns }: CompiledFacility, credential: Position, lists: number[]): void {
  lists.length = 0;
  const own = columns.ownList.size === 0 ? undefined : columns.ownList.get(credential);
  if (own !== undefined) lists.push(own);
  const holder = columns.holderOf[credential] as number;
  if (holder === -1) return;
  if (columns.directList[holder] !== -1) lists.push(columns.directList[holder] as number);
  if (columns.departmentList[holder] !== -1) lists.push(columns.departmentList[holder] as number);
  for (let m = columns.firstMembership[holder] as number; m !== -1; m = columns.nextMembership[m] as number) lists.push(columns.membershipList[m] as number);
}

interface DoorLine {
  readonly door: Position;
  readonly line: TimelineNumber;
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
  /** Lists through which a block comes: hardly any. */
  private readonly blockingLists = new Set<number>();
  private readonly scheduleById: PositionIndex;
  private readonly surroundings: number;
  private readonly entryLines = new Map<number, readonly DoorLine[]>();
  /** Numbers of lists, while a profile is looked at. */
  private readonly lists: number[] = [];
  private readonly numbers: number[] = [];
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
      let found = 0;
      this.compiled.eachRoute(at, ({ grant, schedule, blocks }, route) => {
        const window = this.windowLine(route);
        if (window === never) return;
        if (blocks) this.blockingLists.add(at);
        const flags = (blocks ? 1 : 0) + (grant.inLockdown ? 2 : 0);
        const what = contents.number(this.targetNumber(grant.open), schedule === undefined ? 0 : (this.schedules[schedule] as number));
        found = contents.number(found, contents.number(what, contents.number(window, flags)));
      });
      number = found;
      this.listNumbers[at] = number;
    }
    return number;
  }

  /** Profiles with one number have the same row in the same surroundings. */
  private profileNumber(sample: Position): number {
    const { contents, peculiarities } = this.arrangement;
    const { columns } = this.compiled;
    const { lists, numbers } = this;
    collectLists(this.compiled, sample, lists);
    numbers.length = 0;
    for (const list of lists) numbers.push(this.listNumber(list));
    sortFew(numbers);
    let number = 0;
    for (let i = 0; i < numbers.length; i++) if (numbers[i] !== numbers[i - 1]) number = contents.number(number, numbers[i] as number);
    const means = columns.means[sample] as number;
    const peculiar = this.peculiarHolder(sample);
    // 0 to 2 say that there is nothing peculiar.
    return contents.number(number, peculiar ? 2 + peculiarities.number(`${means} ${this.peculiarity(peculiar)}`) : means);
  }

  /** The holder of a card, where something beside grants decides what they open: most have no object made for them. */
  private peculiarHolder(sample: Position): CompiledCardholder | undefined {
    const { columns, credentials } = this.compiled;
    const holder = columns.holderOf[sample] as number;
    return holder !== -1 && columns.isPeculiar[holder] === 1 ? present(credentials.at(sample), "positions are valid").holder : undefined;
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

  /** What the routes of a list allow, or block, by door: a row of the arrangement's `partials`. */
  private partial(at: number, own: Position | undefined, pass: boolean, blocking: boolean): number {
    const { lockdown } = this.reading.mode;
    const { arrangement, compiled, scratch } = this;
    const { book } = this.world;
    const known = blocking ? arrangement.blocking : arrangement.allowing;
    const number = this.listNumber(at);
    const variant = arrangement.contents.number(this.surroundings, this.calendarNumber(own) * 2 + (lockdown && pass ? 1 : 0));
    const before = known.get(number, variant);
    if (before >= 0) return before;
    const clocks = this.clocksFor(own);
    compiled.eachRoute(at, (grant, route) => {
      if (grant.blocks !== blocking || (!blocking && lockdown && !pass && !grant.grant.inLockdown)) return;
      const window = this.windowLine(route);
      if (window === never) return;
      for (const [door, ways] of compiled.waysOf(grant.position)) {
        const clock = clocks[door] as number;
        const narrowed = grant.schedule === undefined ? window : book.intersect(window, this.scheduleLine(grant.schedule, clock));
        if (narrowed === never) continue;
        // The schedules of a level's rows play no part in a block.
        if (blocking) scratch.add(door, narrowed, book);
        else for (const { schedule } of ways) scratch.add(door, schedule === undefined ? narrowed : book.intersect(narrowed, this.scheduleLine(schedule, clock)), book);
      }
    });
    const made = scratch.moveTo(arrangement.partials);
    known.set(number, variant, made);
    return made;
  }

  /** When a credential of this sort meets the entry rules of doors, for those at which it does not always. */
  private entryMet(position: Position, pinExempt: boolean): readonly DoorLine[] {
    const key = (this.compiled.columns.means[position] as number) * 2 + (pinExempt ? 1 : 0);
    const known = this.entryLines.get(key);
    if (known) return known;
    const sample = present(this.compiled.credentials.at(position), "positions are valid");
    const { whole } = this;
    const { book } = this.world;
    const lines: DoorLine[] = [];
    for (const { position: door, entry: own, entryRows } of this.compiled.doors) {
      const clock = this.clockOfDoor[door] as number;
      let rest = whole;
      let met: TimelineNumber = never;
      for (const { schedule, entry } of entryRows) {
        const inForce = book.intersect(rest, this.scheduleLine(schedule, clock));
        if (meetsEntry(sample, entry)) met = book.union(met, inForce);
        rest = book.subtract(rest, inForce);
      }
      const line = meetsEntry(sample, own) ? book.union(met, rest) : met;
      if (line !== whole) lines.push({ door, line });
    }
    this.entryLines.set(key, lines);
    return lines;
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
    this.workOut(sample);
    this.scratch.moveTo(rows.pool);
    const number = rows.number();
    rowOfProfile.set(profile, this.surroundings, number);
    return number;
  }

  /** Puts together in the scratch what a credential opens; `lists` has its lists. The order is that of section 8 of the semantics. */
  private workOut(sample: Position): void {
    const { compiled, scratch, lists, whole } = this;
    const { partials } = this.arrangement;
    const { book } = this.world;
    const holder = this.peculiarHolder(sample);
    const pass = !!holder?.cardholder.lockdownPass;
    const calendar = holder?.calendar;
    // A partial may have to be worked out in the same scratch, so all are there before the row is begun.
    const allowed = lists.map((list) => this.partial(list, calendar, pass, false));
    const blocked = lists.filter((list) => this.blockingLists.has(list)).map((list) => this.partial(list, calendar, pass, true));
    for (const partial of allowed) scratch.addRow(partials, partial, book);
    if (holder?.hours !== undefined) {
      const { hours } = holder;
      const clocks = this.clocksFor(calendar);
      scratch.change((door, line) => book.intersect(line, this.scheduleLine(hours, clocks[door] as number)));
    }
    if (holder?.override) for (const door of compiled.doors) if (overrideCovers({ holder }, door)) scratch.set(door.position, whole);
    for (const partial of blocked)
      for (let i = partials.start(partial); i < partials.end(partial); i++) {
        const door = partials.doors[i] as number;
        scratch.set(door, book.subtract(scratch.get(door), partials.lines[i] as number));
      }
    if (holder?.sites) scratch.change((door, line) => (siteAllows({ holder }, present(compiled.doors[door], "positions are valid")) ? line : never));
    for (const { door, line } of this.entryMet(sample, !!holder?.cardholder.pinExempt)) {
      const before = scratch.get(door);
      if (before !== never) scratch.set(door, book.intersect(before, line));
    }
    for (const { position, via } of this.behind) {
      const line = scratch.get(position);
      if (line !== never && via !== undefined) scratch.set(position, book.intersect(line, book.union(scratch.get(via), this.freeLine(via))));
    }
  }
}
