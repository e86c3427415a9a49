import { NumberBuffer } from "./number-buffer";
import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import type { CompiledDoor, CompiledFacility } from "../../compile/compiled-facility";
import { RowBuilder } from "./row-builder";
import type { AccessWorld, DoorLayout, RowsOfProfiles } from "../access-world";
import { meetsEntry } from "../../paths/entry";
import { FacilityTimes } from "./facility-times";
import { overrideCovers, siteAllows } from "../../paths/paths";
import { profilesOf } from "./access-profiles";
import { ProfileNumbers } from "./profile-numbers";
import type { Timeframe } from "../../paths/timeframe";
import { never } from "../timelines";
import type { TimelineNumber } from "../timelines";

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

interface DoorTimeline {
  readonly door: Position;
  readonly timeline: TimelineNumber;
}

/** What comes to people by an item of their entitlement. */
interface ItemAccess {
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
  private readonly layout: DoorLayout;
  private readonly times: FacilityTimes;
  private readonly profiles: ProfileNumbers;
  private readonly doorConditions: number;
  private readonly rowsOfProfiles: RowsOfProfiles;
  /** The items of the profile that is worked out, and the rows of partials that are put together. */
  private readonly items = new NumberBuffer();
  private readonly allowed = new NumberBuffer();
  private readonly blocked = new NumberBuffer();
  private readonly entryTimelines = new Map<number, readonly DoorTimeline[]>();
  private readonly behind: readonly CompiledDoor[];
  private readonly scratch: RowBuilder;
  private readonly known = new Map<number, ItemAccess>();

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly timeframe: Timeframe,
    private readonly world: AccessWorld,
  ) {
    this.layout = world.layoutOf(compiled.facility);
    this.scratch = new RowBuilder(compiled.doors.length);
    this.times = new FacilityTimes(compiled, timeframe, world);
    this.profiles = new ProfileNumbers(compiled, this.layout, this.times);
    this.behind = doorsBehindOthers(compiled.doors);
    this.doorConditions = this.layout.doorConditions.number(this.times.describeDoorConditions());
    this.rowsOfProfiles = this.layout.rowsOfProfiles(this.doorConditions);
  }

  /** What comes by an item of a entitlement: mostly known, as people share them. */
  private accessBy(item: number): ItemAccess {
    let part = this.known.get(item);
    if (!part) {
      const { grantKinds } = this.compiled.vocabulary;
      let blocks = false;
      this.profiles.eachKind(item, (kind) => (blocks ||= grantKinds.at(kind).blocks));
      part = { item, number: this.profiles.itemNumber(item), blocks, ordinary: -1 };
      this.known.set(item, part);
    }
    return part;
  }

  /** What a part allows, or blocks, by door: a row of the layout's `partials`. */
  private partial({ item, number }: ItemAccess, own: Position | undefined, pass: boolean, blocking: boolean): number {
    const { lockdown } = this.timeframe.mode;
    const { layout, compiled, scratch } = this;
    const { timelines } = this.world;
    const known = blocking ? layout.blocking : layout.allowing;
    const variant = layout.contents.number(this.doorConditions, this.times.calendarNumber(own) * 2 + (lockdown && pass ? 1 : 0));
    const before = known.get(number, variant);
    if (before >= 0) return before;
    const clocks = this.times.clocksFor(own);
    const scheduleById = compiled.indexes.of("schedules");
    this.profiles.eachKind(item, (kind, lasting) => {
      const { open, schedule: narrowing, blocks, inLockdown } = compiled.vocabulary.grantKinds.at(kind);
      if (blocks !== blocking || (!blocking && lockdown && !pass && !inLockdown)) return;
      const window = this.times.windowTimeline(lasting);
      if (window === never) return;
      const schedule = narrowing === undefined ? undefined : required(scheduleById.get(narrowing), "references resolve");
      for (const [door, ways] of compiled.cover(open)) {
        const clock = clocks[door] as number;
        const narrowed = schedule === undefined ? window : timelines.intersect(window, this.times.scheduleTimeline(schedule, clock));
        if (narrowed === never) continue;
        // The schedules of a level's rows play no part in a block.
        if (blocking) scratch.add(door, narrowed, timelines);
        else
          for (const way of ways)
            scratch.add(
              door,
              way.schedule === undefined ? narrowed : timelines.intersect(narrowed, this.times.scheduleTimeline(way.schedule, clock)),
              timelines,
            );
      }
    });
    const made = scratch.moveTo(layout.partials);
    known.set(number, variant, made);
    return made;
  }

  private allowedBy(part: ItemAccess, calendar: Position | undefined, pass: boolean): number {
    if (calendar !== undefined || pass) return this.partial(part, calendar, pass, false);
    if (part.ordinary === -1) part.ordinary = this.partial(part, undefined, false, false);
    return part.ordinary;
  }

  /** When a credential of this sort meets the entry rules of doors, for those at which it does not always. */
  private entryMet(position: Position, pinExempt: boolean): readonly DoorTimeline[] {
    const key = (this.compiled.objects.cards.presents[position] as number) * 2 + (pinExempt ? 1 : 0);
    const known = this.entryTimelines.get(key);
    if (known) return known;
    const sample = required(this.compiled.credentials.at(position), "positions are valid");
    const { span } = this.times;
    const { timelines } = this.world;
    const times: DoorTimeline[] = [];
    for (const { position: door, entry: own, entryRows } of this.compiled.doors) {
      const clock = this.times.clockOfDoor[door] as number;
      let rest = span;
      let met: TimelineNumber = never;
      for (const { schedule, entry } of entryRows) {
        const inForce = timelines.intersect(rest, this.times.scheduleTimeline(schedule, clock));
        if (meetsEntry(sample, entry)) met = timelines.union(met, inForce);
        rest = timelines.subtract(rest, inForce);
      }
      const timeline = meetsEntry(sample, own) ? timelines.union(met, rest) : met;
      if (timeline !== span) times.push({ door, timeline });
    }
    this.entryTimelines.set(key, times);
    return times;
  }

  /** The number of the row that credentials of a profile have, taken as live throughout. */
  rowOf(profile: number): number {
    const { rowsOfProfiles } = this;
    const { rows } = this.layout;
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
    const { span } = this.times;
    const { partials } = this.layout;
    const { timelines } = this.world;
    const sample = profilesOf(compiled).samples[profile] as number;
    const holder = this.profiles.holderWithRules(sample);
    const pass = !!holder?.cardholder.lockdownPass;
    const calendar = holder?.calendar;
    // A partial may have to be worked out in the same scratch, so all are there before the row is begun.
    const { allowed, blocked } = this;
    this.profiles.collectItems(profile, items);
    allowed.clear();
    blocked.clear();
    for (let i = 0; i < items.count; i++) {
      const part = this.accessBy(items.items[i] as number);
      allowed.add(this.allowedBy(part, calendar, pass));
      if (part.blocks) blocked.add(this.partial(part, calendar, pass, true));
    }
    for (let i = 0; i < allowed.count; i++) scratch.addRow(partials, allowed.items[i] as number, timelines);
    if (holder?.hours !== undefined) {
      const { hours } = holder;
      const clocks = this.times.clocksFor(calendar);
      scratch.change((door, timeline) => timelines.intersect(timeline, this.times.scheduleTimeline(hours, clocks[door] as number)));
    }
    if (holder?.override) for (const door of compiled.doors) if (overrideCovers({ holder }, door)) scratch.set(door.position, span);
    for (let k = 0; k < blocked.count; k++)
      for (let i = partials.start(blocked.items[k] as number), end = partials.end(blocked.items[k] as number); i < end; i++) {
        const door = partials.doors[i] as number;
        scratch.set(door, timelines.subtract(scratch.get(door), partials.times[i] as number));
      }
    if (holder?.sites) scratch.change((door, timeline) => (siteAllows({ holder }, required(compiled.doors[door], "positions are valid")) ? timeline : never));
    for (const { door, timeline } of this.entryMet(sample, !!holder?.cardholder.pinExempt)) {
      const before = scratch.get(door);
      if (before !== never) scratch.set(door, timelines.intersect(before, timeline));
    }
    for (const { position, via } of this.behind) {
      const timeline = scratch.get(position);
      if (timeline !== never && via !== undefined)
        scratch.set(position, timelines.intersect(timeline, timelines.union(scratch.get(via), this.times.freeTimeline(via))));
    }
  }
}
