import type { CompiledCredential, CompiledDoor } from "../../compile/compiled-facility";
import { scheduleOf } from "../../facility/time-rules";
import { invariant, required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import { calendarAt, calendarPosition, overrideCovers, routesOf, siteAllows } from "../../paths/paths";
import type { Timeframe } from "../../paths/timeframe";
import { entryMetIn, freeIn, liveIn } from "../../paths/timetable";
import { never, Timelines } from "../../table/timelines";
import type { TimelineNumber } from "../../table/timelines";
import type { EpochMinute } from "../../time/instant";
import { range } from "../../time/intervals";
import { openDuring } from "../../time/schedule";
import { intersectWindows } from "../../time/window";
import type { Window } from "../../time/window";
import { outsideOf } from "./outside-schedule";
import type { GrantForm, PlanObject, PlanScope } from "./plan-objects";

/** In which ways a door must stay shut: as things are, in a lockdown, and as if every credential were live. */
export const modes = ["ordinary", "lockdown", "as if live"] as const;
export type Mode = (typeof modes)[number];

/**
 * The state of an object of a plan: 0 as it is, 2k once its k-th option (from 1 on) is carried out, 2k + 1 while the parts that
 * the option adds are there and the object is still as it was.
 */
export type ObjectState = number;
export const carriedOut = (option: number): ObjectState => option * 2;
export const whileAdding = (option: number): ObjectState => option * 2 + 1;

/** What an object contributes to a pair of credential and door, in each of its states. */
interface Contribution {
  readonly object: number;
  /** Index: state. */
  readonly allow: readonly TimelineNumber[];
  readonly block: readonly TimelineNumber[];
  /** What of the allows counts in a lockdown. */
  readonly allowInLockdown: readonly TimelineNumber[];
}

/** All that decides when a credential opens a door, whatever a plan changes; equal laws are one. */
export interface PairLaw {
  readonly number: number;
  /** Objects of the plan on which it depends, also through the doors that lie before, in order. */
  readonly objects: readonly number[];
  /** When the credential opens the door in a mode, by the states of the objects. */
  readonly openIn: (mode: Mode, stateOf: (object: number) => ObjectState) => TimelineNumber;
}

const shut: PairLaw = { number: 0, objects: [], openIn: () => never };

/**
 * The laws of a holder's credentials at doors, under a plan's objects. Cost: each path once; each law once for each combination of states that is asked of it.
 */
export class PairLaws {
  readonly timelines = new Timelines();
  private readonly span: TimelineNumber;
  private readonly known = new Map<string, PairLaw>();
  private readonly byPair = new Map<string, PairLaw>();
  private readonly windowLines = new Map<Window, TimelineNumber>();
  private readonly outsideLines = new Map<string, TimelineNumber>();
  private readonly objectOfGrant = new Map<Position, number>();
  private readonly objectOfMembership = new Map<Position, number>();
  private readonly objectOfDoor = new Map<Position, number>();
  private readonly override: number | undefined;

  /** `reading` is an ordinary one of all minutes that are looked at. */
  constructor(
    private readonly scope: PlanScope,
    private readonly objects: readonly PlanObject[],
    private readonly timeframe: Timeframe,
  ) {
    invariant(!timeframe.mode.lockdown && !timeframe.mode.asIfLive, "laws are made from an ordinary timeframe");
    this.span = this.timelines.number(timeframe.span);
    let override: number | undefined;
    objects.forEach((object, i) => {
      if (object.kind === "grant") this.objectOfGrant.set(object.grant.position, i);
      else if (object.kind === "membership") for (const position of object.positions) this.objectOfMembership.set(position, i);
      else if (object.kind === "door") this.objectOfDoor.set(object.door, i);
      else override = i;
    });
    this.override = override;
  }

  private windowLine(window: Window): TimelineNumber {
    let line = this.windowLines.get(window);
    if (line === undefined) this.windowLines.set(window, (line = this.timelines.number(this.timeframe.window(window))));
    return line;
  }

  private scheduleLine(schedule: Position, credential: CompiledCredential, door: CompiledDoor): TimelineNumber {
    return this.timelines.number(this.timeframe.schedule(schedule, calendarPosition(credential, door), door.zone));
  }

  private together(lines: readonly TimelineNumber[]): TimelineNumber {
    return lines.reduce((open, line) => this.timelines.union(open, line), never);
  }

  /** When the ways of a target to a door are open, with a schedule that narrows them. */
  private waysLine(credential: CompiledCredential, door: CompiledDoor, { open, schedule, window }: GrantForm): TimelineNumber {
    const { compiled } = this.scope;
    const { timelines } = this;
    const own = schedule === undefined ? undefined : required(compiled.indexes.of("schedules").get(schedule), "references resolve");
    const inForce = this.windowLine(window);
    const lines = (compiled.cover(open).get(door.position) ?? []).map((way) => {
      const schedules = [way.schedule, own].filter((position) => position !== undefined);
      return schedules.reduce((line, position) => (line === never ? never : timelines.intersect(line, this.scheduleLine(position, credential, door))), inForce);
    });
    return this.together(lines);
  }

  private grantContribution(object: number, credential: CompiledCredential, door: CompiledDoor): Contribution | undefined {
    const planned = this.objects[object];
    invariant(planned?.kind === "grant", "the object is a grant");
    const { grant, options } = planned;
    const { open, schedule } = grant.grant;
    const line = (forms: readonly GrantForm[]): TimelineNumber => this.together(forms.map((form) => this.waysLine(credential, door, form)));
    const asItIs = line([{ open, schedule, window: grant.window }]);
    const allow = [asItIs, never, ...options.flatMap(({ forms, whileAdding: adding }) => [line(forms), adding ? line(adding) : asItIs])];
    if (allow.every((one) => one === never)) return undefined;
    const counts = !!grant.grant.inLockdown || !!credential.holder?.cardholder.lockdownPass;
    return { object, allow, allowInLockdown: counts ? allow : allow.map(() => never), block: allow.map(() => never) };
  }

  private membershipContribution(object: number, credential: CompiledCredential, door: CompiledDoor): Contribution | undefined {
    const planned = this.objects[object];
    invariant(planned?.kind === "membership", "the object is a membership");
    const { compiled } = this.scope;
    const given = (credential.holder?.routes ?? []).find(({ membership }) => membership !== undefined && planned.positions.has(membership));
    const routes = given?.list.routes ?? [];
    /** What it brings until an end. */
    const brought = (until: EpochMinute | undefined) => {
      const lines = { allow: never, allowInLockdown: never, block: never };
      if (until === undefined) return lines;
      for (const route of routes) {
        const { grant, blocks, schedule } = required(compiled.grants.at(route.grant), "positions are valid");
        if (!compiled.waysOf(route.grant).has(door.position)) continue;
        const window = until === Infinity ? route.window : intersectWindows(route.window, { from: -Infinity as EpochMinute, until });
        if (blocks) {
          lines.block = this.timelines.union(lines.block, this.blockLine(credential, door, window, schedule));
          continue;
        }
        const line = this.waysLine(credential, door, { open: grant.open, schedule: grant.schedule, window });
        lines.allow = this.timelines.union(lines.allow, line);
        if (grant.inLockdown || credential.holder?.cardholder.lockdownPass) lines.allowInLockdown = this.timelines.union(lines.allowInLockdown, line);
      }
      return lines;
    };
    const asItIs = brought(Infinity as EpochMinute);
    const states = [asItIs, asItIs, ...planned.options.flatMap(({ until }) => [brought(until), asItIs])];
    if (states.every(({ allow, block }) => allow === never && block === never)) return undefined;
    return {
      object,
      allow: states.map(({ allow }) => allow),
      allowInLockdown: states.map(({ allowInLockdown }) => allowInLockdown),
      block: states.map(({ block }) => block),
    };
  }

  private blockLine(credential: CompiledCredential, door: CompiledDoor, window: Window, schedule: Position | undefined): TimelineNumber {
    const line = this.windowLine(window);
    return schedule === undefined || line === never ? line : this.timelines.intersect(line, this.scheduleLine(schedule, credential, door));
  }

  /** When the schedule that is the opposite of what may stay is open. */
  private outsideLine(credential: CompiledCredential, door: CompiledDoor): TimelineNumber {
    const { compiled, stay } = this.scope;
    const calendar = calendarPosition(credential, door);
    const key = `${calendar ?? ""} ${door.zone.name}`;
    let line = this.outsideLines.get(key);
    if (line === undefined) {
      const schedule = required(compiled.facility.schedules[stay.schedule ?? -1], "there is a schedule of what may stay");
      const outside = outsideOf(schedule, compiled.facility.calendars);
      const [from = 0, to = 0] = this.timeframe.span;
      line = outside
        ? this.timelines.number(
            openDuring(scheduleOf({ id: "", ...outside }), calendarAt(compiled, calendar), door.zone, from as EpochMinute, to as EpochMinute),
          )
        : never;
      this.outsideLines.set(key, line);
    }
    return line;
  }

  private doorContribution(object: number, credential: CompiledCredential, door: CompiledDoor): Contribution {
    const planned = this.objects[object];
    invariant(planned?.kind === "door", "the object is a door");
    const { end, schedule } = this.scope.stay;
    const [, to = 0] = this.timeframe.span;
    const block = [never, never];
    for (const option of planned.options) {
      const after = end === undefined ? never : this.timelines.number(range(end, to));
      const line = option.block === "always" ? this.span : this.timelines.union(after, schedule === undefined ? never : this.outsideLine(credential, door));
      block.push(line, never);
    }
    const nothing = block.map(() => never);
    return { object, allow: nothing, allowInLockdown: nothing, block };
  }

  /** When a credential opens a door, whatever the plan; the same law for all doors at which it is the same. */
  of(credential: CompiledCredential, position: Position): PairLaw {
    const pair = `${credential.position} ${position}`;
    const before = this.byPair.get(pair);
    if (before) return before;
    // A chain of doors may be as long as the list: the far end first.
    const chain: Position[] = [];
    for (let at: Position | undefined = position; at !== undefined && !this.byPair.has(`${credential.position} ${at}`); at = this.scope.compiled.doors[at]?.via)
      chain.push(at);
    for (const at of chain.reverse())
      this.byPair.set(`${credential.position} ${at}`, this.make(credential, required(this.scope.compiled.doors[at], "positions are valid")));
    return required(this.byPair.get(pair), "the law was just made");
  }

  private make(credential: CompiledCredential, door: CompiledDoor): PairLaw {
    const { compiled } = this.scope;
    const { timelines, span } = this;
    if (!siteAllows(credential, door)) return shut;
    const fixed = { allow: never, allowInLockdown: never, block: never };
    const touched = new Set<number>();
    for (const { list, membership } of routesOf(credential)) {
      const ofMembership = membership === undefined ? undefined : this.objectOfMembership.get(membership);
      if (ofMembership !== undefined) {
        touched.add(ofMembership);
        continue;
      }
      for (const route of list.routes) {
        const ways = compiled.waysOf(route.grant);
        if (!ways.has(door.position)) continue;
        const object = list.by === "department" || list.by === "membership" ? undefined : this.objectOfGrant.get(route.grant);
        if (object !== undefined) {
          touched.add(object);
          continue;
        }
        const { grant, blocks, schedule } = required(compiled.grants.at(route.grant), "positions are valid");
        if (blocks) fixed.block = timelines.union(fixed.block, this.blockLine(credential, door, route.window, schedule));
        else {
          const line = this.waysLine(credential, door, { open: grant.open, schedule: grant.schedule, window: route.window });
          fixed.allow = timelines.union(fixed.allow, line);
          if (grant.inLockdown || credential.holder?.cardholder.lockdownPass) fixed.allowInLockdown = timelines.union(fixed.allowInLockdown, line);
        }
      }
    }
    const contributions = [...touched]
      .sort((a, b) => a - b)
      .flatMap(
        (object) =>
          (this.objects[object]?.kind === "grant" ? this.grantContribution(object, credential, door) : this.membershipContribution(object, credential, door)) ??
          [],
      );
    const block = this.objectOfDoor.get(door.position);
    if (block !== undefined) contributions.push(this.doorContribution(block, credential, door));
    const overridden = this.overrideStates(credential, door);
    const hours = credential.holder?.hours;
    const via = door.via === undefined ? undefined : this.of(credential, door.via);
    return this.law({
      live: timelines.number(liveIn(this.timeframe, credential)),
      hours: hours === undefined ? span : this.scheduleLine(hours, credential, door),
      entry: timelines.number(entryMetIn(this.timeframe, credential, door)),
      fixed,
      contributions,
      overridden,
      via,
      freeBefore: door.via === undefined ? never : timelines.number(freeIn(this.timeframe, required(compiled.doors[door.via], "positions are valid"))),
    });
  }

  /** Index: state of the override; whether it covers the door. A single value where no plan changes that. */
  private overrideStates(credential: CompiledCredential, door: CompiledDoor): readonly boolean[] {
    const asItIs = overrideCovers(credential, door);
    const planned = this.override === undefined || !asItIs ? undefined : this.objects[this.override];
    if (planned?.kind !== "override") return [asItIs];
    return [asItIs, asItIs, ...planned.options.flatMap(({ covers }) => [covers(door.door.site), asItIs])];
  }

  private law(parts: LawParts): PairLaw {
    const { via, ...own } = parts;
    const key = JSON.stringify([own, via?.number ?? -1]);
    let law = this.known.get(key);
    if (!law) {
      law = this.newLaw(this.known.size + 1, parts);
      this.known.set(key, law);
    }
    return law;
  }

  private newLaw(number: number, { live, hours, entry, fixed, contributions, overridden, via, freeBefore }: LawParts): PairLaw {
    const { timelines, span, override } = this;
    const objects = [
      ...new Set([
        ...contributions.map(({ object }) => object),
        ...(overridden.length > 1 && override !== undefined ? [override] : []),
        ...(via?.objects ?? []),
      ]),
    ].sort((a, b) => a - b);
    const workOut = (mode: Mode, stateOf: (object: number) => ObjectState): TimelineNumber => {
      const isLockdown = mode === "lockdown";
      let open = mode === "as if live" ? span : live;
      const covered = overridden.length > 1 && override !== undefined ? (overridden[stateOf(override)] as boolean) : (overridden[0] as boolean);
      if (!covered) {
        let granted = isLockdown ? fixed.allowInLockdown : fixed.allow;
        for (const { object, allow, allowInLockdown } of contributions)
          granted = timelines.union(granted, (isLockdown ? allowInLockdown : allow)[stateOf(object)] as TimelineNumber);
        open = timelines.intersect(open, timelines.intersect(granted, hours));
      }
      open = timelines.subtract(open, fixed.block);
      for (const { object, block } of contributions) open = timelines.subtract(open, block[stateOf(object)] as TimelineNumber);
      open = timelines.intersect(open, entry);
      return via === undefined || open === never
        ? open
        : timelines.intersect(open, timelines.union(via.openIn(mode, stateOf), isLockdown ? never : freeBefore));
    };
    const known = new Map<string, TimelineNumber>();
    const openIn: PairLaw["openIn"] = (mode, stateOf) => {
      const key = `${mode} ${objects.map(stateOf).join()}`;
      let open = known.get(key);
      if (open === undefined) known.set(key, (open = workOut(mode, stateOf)));
      return open;
    };
    return { number, objects, openIn };
  }
}

interface LawParts {
  readonly live: TimelineNumber;
  readonly hours: TimelineNumber;
  readonly entry: TimelineNumber;
  readonly fixed: { readonly allow: TimelineNumber; readonly allowInLockdown: TimelineNumber; readonly block: TimelineNumber };
  readonly contributions: readonly Contribution[];
  readonly overridden: readonly boolean[];
  readonly via: PairLaw | undefined;
  readonly freeBefore: TimelineNumber;
}
