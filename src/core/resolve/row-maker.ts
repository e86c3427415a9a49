import { FewNumbers } from "../kernel/few-numbers";
import { present } from "../kernel/invariant";
import type { Position } from "../kernel/position-index";
import type { CompiledDoor, CompiledFacility } from "../compile/compiled-facility";
import { Scratch } from "./access-row";
import type { AccessWorld, DoorArrangement, ProfileRows } from "./access-world";
import { meetsEntry } from "./entry";
import { FacilityLines } from "./facility-lines";
import { overrideCovers, siteAllows } from "./paths";
import { ProfileNumbers } from "./profile-numbers";
import type { Reading } from "./reading";
import { never } from "./timelines";
import type { TimelineNumber } from "./timelines";

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

interface DoorLine {
  readonly door: Position;
  readonly line: TimelineNumber;
}

/** What comes to people by an item of their combination. */
interface Part {
  readonly item: number;
  /** Its number by content. */
  readonly number: number;
  /** Whether a block comes by it: by hardly any. */
  readonly blocks: boolean;
  /** What it allows whoever has neither a calendar of their own nor a pass, which is nearly everybody; −1 until it is asked for. */
  ordinary: number;
}

/** Works out the rows of one facility; what its world knows already is taken from there. */
export class RowMaker {
  private readonly arrangement: DoorArrangement;
  private readonly lines: FacilityLines;
  private readonly profiles: ProfileNumbers;
  private readonly surroundings: number;
  private readonly rowsOfProfiles: ProfileRows;
  /** The items of the profile that is worked out, and the rows of partials that are put together. */
  private readonly items = new FewNumbers();
  private readonly allowed = new FewNumbers();
  private readonly blocked = new FewNumbers();
  private readonly entryLines = new Map<number, readonly DoorLine[]>();
  private readonly behind: readonly CompiledDoor[];
  private readonly scratch: Scratch;
  private readonly parts = new Map<number, Part>();

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly reading: Reading,
    private readonly world: AccessWorld,
  ) {
    this.arrangement = world.arrangementOf(compiled.facility);
    this.scratch = new Scratch(compiled.doors.length);
    this.lines = new FacilityLines(compiled, reading, world);
    this.profiles = new ProfileNumbers(compiled, this.arrangement, this.lines);
    this.behind = doorsBehindOthers(compiled.doors);
    this.surroundings = this.arrangement.surroundings.number(this.lines.describeSurroundings());
    this.rowsOfProfiles = this.arrangement.rowsOfProfiles(this.surroundings);
  }

  /** What comes by an item of a combination: mostly known, as people share them. */
  private part(item: number): Part {
    let part = this.parts.get(item);
    if (!part) {
      const { grantKinds } = this.compiled.vocabulary;
      let blocks = false;
      this.profiles.eachKind(item, (kind) => (blocks ||= grantKinds.at(kind).blocks));
      part = { item, number: this.profiles.itemNumber(item), blocks, ordinary: -1 };
      this.parts.set(item, part);
    }
    return part;
  }

  /** What a part allows, or blocks, by door: a row of the arrangement's `partials`. */
  private partial({ item, number }: Part, own: Position | undefined, pass: boolean, blocking: boolean): number {
    const { lockdown } = this.reading.mode;
    const { arrangement, compiled, scratch } = this;
    const { book } = this.world;
    const known = blocking ? arrangement.blocking : arrangement.allowing;
    const variant = arrangement.contents.number(this.surroundings, this.lines.calendarNumber(own) * 2 + (lockdown && pass ? 1 : 0));
    const before = known.get(number, variant);
    if (before >= 0) return before;
    const clocks = this.lines.clocksFor(own);
    const scheduleById = compiled.indexes.of("schedules");
    this.profiles.eachKind(item, (kind, lasting) => {
      const { open, schedule: narrowing, blocks, inLockdown } = compiled.vocabulary.grantKinds.at(kind);
      if (blocks !== blocking || (!blocking && lockdown && !pass && !inLockdown)) return;
      const window = this.lines.windowLine(lasting);
      if (window === never) return;
      const schedule = narrowing === undefined ? undefined : present(scheduleById.get(narrowing), "references resolve");
      for (const [door, ways] of compiled.cover(open)) {
        const clock = clocks[door] as number;
        const narrowed = schedule === undefined ? window : book.intersect(window, this.lines.scheduleLine(schedule, clock));
        if (narrowed === never) continue;
        // The schedules of a level's rows play no part in a block.
        if (blocking) scratch.add(door, narrowed, book);
        else for (const way of ways) scratch.add(door, way.schedule === undefined ? narrowed : book.intersect(narrowed, this.lines.scheduleLine(way.schedule, clock)), book);
      }
    });
    const made = scratch.moveTo(arrangement.partials);
    known.set(number, variant, made);
    return made;
  }

  private allowedBy(part: Part, calendar: Position | undefined, pass: boolean): number {
    if (calendar !== undefined || pass) return this.partial(part, calendar, pass, false);
    if (part.ordinary === -1) part.ordinary = this.partial(part, undefined, false, false);
    return part.ordinary;
  }

  /** When a credential of this sort meets the entry rules of doors, for those at which it does not always. */
  private entryMet(position: Position, pinExempt: boolean): readonly DoorLine[] {
    const key = (this.compiled.objects.cards.means[position] as number) * 2 + (pinExempt ? 1 : 0);
    const known = this.entryLines.get(key);
    if (known) return known;
    const sample = present(this.compiled.credentials.at(position), "positions are valid");
    const { whole } = this.lines;
    const { book } = this.world;
    const lines: DoorLine[] = [];
    for (const { position: door, entry: own, entryRows } of this.compiled.doors) {
      const clock = this.lines.clockOfDoor[door] as number;
      let rest = whole;
      let met: TimelineNumber = never;
      for (const { schedule, entry } of entryRows) {
        const inForce = book.intersect(rest, this.lines.scheduleLine(schedule, clock));
        if (meetsEntry(sample, entry)) met = book.union(met, inForce);
        rest = book.subtract(rest, inForce);
      }
      const line = meetsEntry(sample, own) ? book.union(met, rest) : met;
      if (line !== whole) lines.push({ door, line });
    }
    this.entryLines.set(key, lines);
    return lines;
  }

  /** The number of the row that credentials of a profile have, taken as live throughout. */
  rowOf(profile: number): number {
    const { rowsOfProfiles } = this;
    const { rows } = this.arrangement;
    const number = this.profiles.profileNumber(profile);
    const known = rowsOfProfiles.get(number);
    if (known >= 0) return known;
    this.workOut(profile);
    this.scratch.moveTo(rows.pool);
    const row = rows.number();
    rowsOfProfiles.set(number, row);
    return row;
  }

  /** Puts together in the scratch what cards of a profile open. The order is that of section 8 of the semantics. */
  private workOut(profile: number): void {
    const { compiled, scratch, items } = this;
    const { whole } = this.lines;
    const { partials } = this.arrangement;
    const { book } = this.world;
    const sample = compiled.columns.samples[profile] as number;
    const holder = this.profiles.peculiarHolder(sample);
    const pass = !!holder?.cardholder.lockdownPass;
    const calendar = holder?.calendar;
    // A partial may have to be worked out in the same scratch, so all are there before the row is begun.
    const { allowed, blocked } = this;
    this.profiles.collectItems(profile, items);
    allowed.clear();
    blocked.clear();
    for (let i = 0; i < items.count; i++) {
      const part = this.part(items.items[i] as number);
      allowed.add(this.allowedBy(part, calendar, pass));
      if (part.blocks) blocked.add(this.partial(part, calendar, pass, true));
    }
    for (let i = 0; i < allowed.count; i++) scratch.addRow(partials, allowed.items[i] as number, book);
    if (holder?.hours !== undefined) {
      const { hours } = holder;
      const clocks = this.lines.clocksFor(calendar);
      scratch.change((door, line) => book.intersect(line, this.lines.scheduleLine(hours, clocks[door] as number)));
    }
    if (holder?.override) for (const door of compiled.doors) if (overrideCovers({ holder }, door)) scratch.set(door.position, whole);
    for (let k = 0; k < blocked.count; k++)
      for (let i = partials.start(blocked.items[k] as number), end = partials.end(blocked.items[k] as number); i < end; i++) {
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
      if (line !== never && via !== undefined) scratch.set(position, book.intersect(line, book.union(scratch.get(via), this.lines.freeLine(via))));
    }
  }
}
