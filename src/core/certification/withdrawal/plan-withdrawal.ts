import type { CompiledCredential, CompiledFacility } from "../../compile/compiled-facility";
import type { Ahead } from "../../facility/ahead";
import { canonicalJson } from "../../facility/canonical-json";
import type { FacilityChange } from "../../facility/facility-change";
import { normalObject } from "../../facility/normal-form";
import type { Plain } from "../../facility/object-key";
import { groupBy } from "../../kernel/compare";
import { invariant, required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import { asIfLive, inLockdown, ordinary, routesOf } from "../../paths/paths";
import { exactTimeframe } from "../../paths/timeframe";
import type { Timeframe } from "../../paths/timeframe";
import { openIn } from "../../paths/timetable";
import { never } from "../../table/timelines";
import type { TimelineNumber } from "../../table/timelines";
import { formatInstant } from "../../time/instant";
import { subtract, totalMinutes } from "../../time/intervals";
import { newIds, numberedChanges } from "./numbered-changes";
import type { Mode, ObjectState, PairLaw } from "./pair-laws";
import { carriedOut, modes, PairLaws, whileAdding } from "./pair-laws";
import type { PlanObject, PlanScope, PlannedChange } from "./plan-objects";
import { planObjects } from "./plan-objects";
import type { Choice, PlanCost, PlanSpace } from "./plan-search";
import { searchPlans } from "./plan-search";
import type { DoorsWish, Holder, Stay } from "./wish";
import { holderOf, mayStayAt, stayOf } from "./wish";

/** The changes that fulfil a wish. */
export interface WithdrawalPlan {
  readonly changes: readonly FacilityChange[];
  /** Whether all plans were tried, or so many are possible that one was found of which nothing can be left out; `none` where no plan is right. */
  readonly searched: "all" | "greedily" | "none";
  /** Another plan, that blocks fewer doors but takes more from the holder; undefined where there is none. */
  readonly alternative: readonly FacilityChange[] | undefined;
}

/** Doors at which the laws of all of a holder's credentials are the same, and that count alike. */
interface DoorClass {
  readonly doors: number;
  readonly laws: readonly PairLaw[];
  readonly objects: readonly number[];
  /** When access may stay: all the time at doors that were not asked, unless they lie among the asked ones. */
  readonly mayStay: TimelineNumber;
  readonly mustShut: boolean;
  readonly isKept: boolean;
}

/** What a plan does at the doors of a class; undefined where it is not right there. */
type ClassOutcome = { readonly minutesLess: number } | undefined;

/** The doors of a holder that open, in some mode, at times at which they may not stay open. */
function doorsToShut(compiled: CompiledFacility, { from, to }: Ahead, { credentials }: Holder, doors: readonly Position[], stay: Stay): Set<Position> {
  const readings = [ordinary, inLockdown, asIfLive].map((mode) => exactTimeframe(compiled, from, to, mode));
  const opens = (credential: CompiledCredential, door: Position): boolean =>
    readings.some((timeframe) => subtract(openIn(compiled, timeframe, credential, door), mayStayAt(compiled, timeframe, stay, credential, door)).length > 0);
  return new Set(doors.filter((door) => credentials.some((credential) => opens(credential, door))));
}

/** The doors, and those behind which they lie, all the way. */
function withDoorsBefore({ doors }: CompiledFacility, of: ReadonlySet<Position>): Set<Position> {
  const all = new Set<Position>();
  for (const door of of) for (let at: Position | undefined = door; at !== undefined && !all.has(at); at = doors[at]?.via) all.add(at);
  return all;
}

/** Doors that some credential of a holder could open at some time, whatever is chosen, and those behind which they lie. */
function reachableDoors(compiled: CompiledFacility, { credentials }: Holder): Set<Position> {
  const doors = new Set<Position>();
  for (const credential of credentials) {
    if (credential.holder?.override) return new Set(compiled.doors.map(({ position }) => position));
    for (const { list } of routesOf(credential))
      for (const { grant } of list.routes) if (!compiled.grants.at(grant)?.blocks) for (const door of compiled.waysOf(grant).keys()) doors.add(door);
  }
  return doors;
}

class Planning implements PlanSpace {
  readonly options: readonly number[];
  readonly mayOpen: readonly boolean[];
  readonly isBlock: readonly boolean[];
  private readonly laws: PairLaws;
  private readonly classes: readonly DoorClass[];
  private readonly outcomes: Map<string, ClassOutcome>[];
  private readonly idOf: (number: number) => string;

  constructor(
    private readonly scope: PlanScope,
    private readonly objects: readonly PlanObject[],
    private readonly timeframe: Timeframe,
    private readonly wish: DoorsWish,
  ) {
    this.laws = new PairLaws(scope, objects, timeframe);
    this.options = objects.map(({ options }) => options.length);
    this.isBlock = objects.map(({ kind }) => kind === "door");
    this.mayOpen = objects.map((object) => object.kind === "membership");
    this.classes = this.classesOfDoors();
    this.outcomes = this.classes.map(() => new Map<string, ClassOutcome>());
    this.idOf = newIds(scope.compiled.facility);
  }

  private classesOfDoors(): DoorClass[] {
    const { compiled, holder, stay, toShut } = this.scope;
    const byId = (ids: readonly string[]) => new Set(ids.map((id) => required(compiled.doorById.get(id), "the doors of a wish are the document's")));
    const [asked, kept] = [byId(this.wish.doors), byId(this.wish.kept ?? [])];
    const one = required(holder.credentials[0], "a holder without credentials opens no door");
    const all = [...reachableDoors(compiled, holder)].map((door) => {
      const laws = holder.credentials.map((credential) => this.laws.of(credential, door));
      const mayStay = asked.has(door)
        ? this.laws.timelines.number(mayStayAt(compiled, this.timeframe, stay, one, door))
        : this.laws.timelines.number(this.timeframe.span);
      return { laws, mayStay, mustShut: toShut.has(door), isKept: kept.has(door) };
    });
    const alike = groupBy(all, ({ laws, mayStay, mustShut, isKept }) => `${laws.map(({ number }) => number).join()} ${mayStay} ${mustShut} ${isKept}`);
    return [...alike.values()].map((doors) => {
      const first = required(doors[0], "groups are not empty");
      return { ...first, doors: doors.length, objects: [...new Set(first.laws.flatMap(({ objects }) => objects))].sort((a, b) => a - b) };
    });
  }

  /** What a plan does at the doors of a class, worked out once for each combination of what matters there. */
  private outcomeOf(index: number, choice: Choice): ClassOutcome {
    const { objects } = this.classes[index] as DoorClass;
    const outcomes = this.outcomes[index] as Map<string, ClassOutcome>;
    const key = objects.map((object) => choice[object]).join();
    if (!outcomes.has(key)) outcomes.set(key, this.workOut(this.classes[index] as DoorClass, choice));
    return outcomes.get(key);
  }

  private workOut({ laws, objects, mayStay, mustShut }: DoorClass, choice: Choice): ClassOutcome {
    const { timelines } = this.laws;
    const states = new Map<number, ObjectState>(objects.map((object) => [object, 0]));
    const stateNow = (object: number): ObjectState => states.get(object) ?? 0;
    const asItWas = (): ObjectState => 0;
    const opensNew = (): boolean =>
      laws.some((law) => modes.some((mode: Mode) => timelines.subtract(law.openIn(mode, stateNow), law.openIn(mode, asItWas)) !== never));
    // In the order in which changes are carried out. Only where something is added or widened can anything open that did not open before.
    let mayOpenByAdding = false;
    for (const object of objects) {
      const option = choice[object] as number;
      const planned = this.objects[object] as PlanObject;
      if (option === 0) continue;
      if (planned.kind === "door") states.set(object, carriedOut(option));
      if (planned.kind !== "grant" || !planned.options[option - 1]?.whileAdding) continue;
      states.set(object, whileAdding(option));
      mayOpenByAdding ||= planned.options[option - 1]?.mayOpen ?? false;
    }
    if (mayOpenByAdding && opensNew()) return undefined;
    for (const object of objects) {
      const option = choice[object] as number;
      const planned = this.objects[object] as PlanObject;
      if (option === 0 || planned.kind === "door") continue;
      states.set(object, carriedOut(option));
      const mayOpen = planned.kind === "membership" || (planned.kind === "grant" && (planned.options[option - 1]?.mayOpen ?? false));
      if (mayOpen && opensNew()) return undefined;
    }
    if (mustShut && laws.some((law) => modes.some((mode) => timelines.subtract(law.openIn(mode, stateNow), mayStay) !== never))) return undefined;
    const together = (stateOf: (object: number) => ObjectState): TimelineNumber =>
      laws.reduce((open, law) => timelines.union(open, law.openIn("ordinary", stateOf)), never);
    const less = timelines.intersect(timelines.subtract(together(asItWas), together(stateNow)), mayStay);
    return { minutesLess: totalMinutes(timelines.set(less)) };
  }

  costOf(choice: Choice): PlanCost | undefined {
    let [others, taken] = [0, 0];
    for (let i = 0; i < this.classes.length; i++) {
      const outcome = this.outcomeOf(i, choice);
      if (!outcome) return undefined;
      const { doors, isKept } = this.classes[i] as DoorClass;
      if (isKept) others += doors * outcome.minutesLess;
      else taken += doors * outcome.minutesLess;
    }
    let [blockedDoors, changes, hasOutside] = [0, 0, false];
    this.objects.forEach(({ kind, options }, object) => {
      const chosen = choice[object] === 0 ? undefined : options[(choice[object] as number) - 1];
      if (!chosen) return;
      if (kind === "door") blockedDoors++;
      for (const change of chosen.changes)
        if (change.kind === "outside") hasOutside = true;
        else changes++;
    });
    return { others, taken, blockedDoors, changes: changes + (hasOutside ? 1 : 0) };
  }

  changesOf(choice: Choice): FacilityChange[] {
    const chosen = this.objects.flatMap(({ options }, object): readonly PlannedChange[] =>
      choice[object] === 0 ? [] : (options[(choice[object] as number) - 1]?.changes ?? []),
    );
    return numberedChanges(chosen, this.idOf);
  }

  textOf(choice: Choice): string {
    return canonicalJson(this.changesOf(choice));
  }
}

export interface PlanningTerms {
  /** False where the controlling system knows no blocks. */
  readonly withBlocks: boolean;
}

/**
 * The best changes by which doors no longer open for a holder, but for what may stay, in ordinary times, in a lockdown and as if every credential
 * were live; nothing opens anew on the way, and nobody else is touched. The facility must be in its normal form, and the wish name what is in it.
 * Source: `certification.md`, "Withdrawal, exactly". Cost: the paths of the holder once, and up to 4096 plans of what matters at each kind of door.
 */
export function planWithdrawal(compiled: CompiledFacility, ahead: Ahead, wish: DoorsWish, { withBlocks }: PlanningTerms): WithdrawalPlan {
  const holder = holderOf(compiled, wish.holder);
  invariant(holder, "the holder of a wish is in the document");
  const stay = stayOf(compiled, ahead, wish.stays);
  const doors = [...new Set(wish.doors)].map((id) => required(compiled.doorById.get(id), "the doors of a wish are the document's"));
  const toShut = doorsToShut(compiled, ahead, holder, doors, stay);
  if (toShut.size === 0) return { changes: [], searched: "all", alternative: undefined };
  const scope: PlanScope = { compiled, holder, from: ahead.from, toShut, near: withDoorsBefore(compiled, toShut), stay, withBlocks };
  const planning = new Planning(scope, planObjects(scope), exactTimeframe(compiled, ahead.from, ahead.to, ordinary), wish);
  const { searched, best, alternative } = searchPlans(planning);
  return { changes: best ? planning.changesOf(best.choice) : [], searched, alternative: alternative && planning.changesOf(alternative.choice) };
}

/** The change that ends a credential now; none where it is over already. */
export function planReturn(compiled: CompiledFacility, { from }: Ahead, id: string): WithdrawalPlan {
  const credential = required(compiled.credentials.at(compiled.credentialById.get(id) ?? -1), "the credential is in the document");
  if (credential.life.window.until <= from) return { changes: [], searched: "all", alternative: undefined };
  const object = normalObject({ ...(credential.credential as unknown as Plain), until: formatInstant({ seconds: from * 60, fraction: "" }) }, "credentials");
  return { changes: [{ do: "alter", list: "credentials", id, object }], searched: "all", alternative: undefined };
}
