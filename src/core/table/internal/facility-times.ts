import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import type { CompiledDoor, CompiledFacility } from "../../compile/compiled-facility";
import { unbounded } from "../../time/window";
import type { Window } from "../../time/window";
import type { AccessWorld } from "../access-world";
import type { Timeframe } from "../../paths/timeframe";
import type { TimelineNumber } from "../timelines";
import { freeIn } from "../../paths/timetable";

/**
 * What schedules, clocks and windows of one facility come to in a world: numbers by content, and timelines. A clock is a zone with a
 * calendar; a schedule has one timeline on each.
 */
export class FacilityTimes {
  /** Index: position of a schedule, or a calendar; its number in the world. */
  readonly schedules: Int32Array;
  private readonly calendars: Int32Array;
  /** Index d: the clock of door d, for whoever has no calendar of their own. */
  readonly clockOfDoor: Int32Array;
  /** The timeline of all minutes of the reading. */
  readonly span: TimelineNumber;
  private readonly clocks: { readonly zone: CompiledDoor["zone"]; readonly calendar: Position | undefined }[] = [];
  /** Clocks of a zone: without a calendar, and from index 1 on with each of them. */
  private readonly clocksOfZone = new Map<CompiledDoor["zone"], (number | undefined)[]>();
  private readonly ownClocks = new Map<number, Int32Array>();
  private readonly windowTimelines = new Map<Window, TimelineNumber>();
  private readonly free = new Map<Position, TimelineNumber>();

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly timeframe: Timeframe,
    private readonly world: AccessWorld,
  ) {
    const { facility } = compiled;
    this.span = world.timelines.number(timeframe.span);
    this.schedules = Int32Array.from(facility.schedules, ({ always, week, holidays, onHoliday, from, until }) =>
      world.schedules.number(JSON.stringify([always, week, holidays, onHoliday, from, until])),
    );
    this.calendars = Int32Array.from(facility.calendars, ({ days }) => world.calendars.number(JSON.stringify(days ?? [])));
    this.clockOfDoor = new Int32Array(compiled.doors.length);
    for (const { position, zone, calendar } of compiled.doors) this.clockOfDoor[position] = this.clock(zone, calendar);
  }

  /** Its number in the world; 0 for none. */
  calendarNumber(calendar: Position | undefined): number {
    return calendar === undefined ? 0 : (this.calendars[calendar] as number);
  }

  /** Clocks, entry rules and unlocking of all doors, as a text that equal ones have in common. */
  describeDoorConditions(): string {
    const number = (schedule: Position): number => this.schedules[schedule] as number;
    const particular: (string | number)[] = [];
    for (const { position, entry, entryRows, unlock } of this.compiled.doors)
      if (entry !== "card" || entryRows.length > 0 || unlock !== undefined)
        particular.push(position, entry, ...entryRows.flatMap((row) => [number(row.schedule), row.entry]), unlock === undefined ? -1 : number(unlock));
    return `${this.world.numberOfClocks(this.clockOfDoor)} ${particular.join()}`;
  }

  private clock(zone: CompiledDoor["zone"], calendar: Position | undefined): number {
    let ofZone = this.clocksOfZone.get(zone);
    if (!ofZone) this.clocksOfZone.set(zone, (ofZone = []));
    const index = calendar === undefined ? 0 : calendar + 1;
    let number = ofZone[index];
    if (number === undefined) {
      number = this.world.clocks.number(`${this.calendarNumber(calendar)} ${zone.name}`);
      this.clocks[number] ??= { zone, calendar };
      ofZone[index] = number;
    }
    return number;
  }

  /** The clock of each door for somebody with a calendar of their own, or for anybody else. */
  clocksFor(own: Position | undefined): Int32Array {
    if (own === undefined) return this.clockOfDoor;
    let clocks = this.ownClocks.get(own);
    if (!clocks) {
      clocks = Int32Array.from(this.compiled.doors, ({ zone }) => this.clock(zone, own));
      this.ownClocks.set(own, clocks);
    }
    return clocks;
  }

  /** When a schedule is open on a clock. */
  scheduleTimeline(schedule: Position, clock: number): TimelineNumber {
    const { scheduleTimelines, timelines } = this.world;
    const number = this.schedules[schedule] as number;
    let timeline = scheduleTimelines.get(number, clock);
    if (timeline < 0) {
      const { zone, calendar } = required(this.clocks[clock], "clocks are numbered");
      timeline = timelines.number(this.timeframe.schedule(schedule, calendar, zone));
      scheduleTimelines.set(number, clock, timeline);
    }
    return timeline;
  }

  /** When a window holds. */
  windowTimeline(window: Window): TimelineNumber {
    if (window === unbounded) return this.span;
    let timeline = this.windowTimelines.get(window);
    if (timeline === undefined) {
      timeline = this.timeframe.holdsThroughout(window) ? this.span : this.world.timelines.number(this.timeframe.window(window));
      this.windowTimelines.set(window, timeline);
    }
    return timeline;
  }

  /** When a door stands open to anybody. */
  freeTimeline(door: Position): TimelineNumber {
    let timeline = this.free.get(door);
    if (timeline === undefined) {
      timeline = this.world.timelines.number(freeIn(this.timeframe, required(this.compiled.doors[door], "positions are valid")));
      this.free.set(door, timeline);
    }
    return timeline;
  }
}
