import type { CompiledCredential, CompiledFacility } from "../compile/compiled-facility";
import { compileFacility } from "../compile/compile-facility";
import { aheadOf } from "../facility/ahead";
import type { Cardholder, Credential } from "../facility/document";
import type { FacilityChange } from "../facility/facility-change";
import { withChanges } from "../facility/facility-change";
import type { HolderId } from "../facility/holder-id";
import { compareCodePoints } from "../kernel/compare";
import { required } from "../kernel/invariant";
import { asIfLive, ordinary, overrideCovers, pathsBetween } from "../paths/paths";
import { exactTimeframe } from "../paths/timeframe";
import type { Timeframe } from "../paths/timeframe";
import { openIn, pathOpenIn } from "../paths/timetable";
import { minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { intersect, nothing, subtract, totalMinutes, union } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";
import { carriedOut } from "./carried-out";
import type { PathLeft } from "./withdrawal/described-change";
import type { MayStay } from "./withdrawal/wish";
import { holderOf, mayStayAt, stayOf } from "./withdrawal/wish";

/** What was wished and ordered: doors that shall no longer open for a holder but for what may stay, or a credential that is to come back. */
export type CheckedWish = { readonly holder: HolderId } & (
  { readonly kind: "doors"; readonly doors: readonly string[]; readonly stays: MayStay } | { readonly kind: "return"; readonly credential: string }
);

/** Why a register does not tell whether an order took effect. */
export type WhyCannotTell =
  "rows-not-read" | "before-sending" | "holder-missing" | "holder-other" | "door-missing" | "door-other" | "schedule-missing" | "credential-elsewhere";

/** What became of a wish, as a later register tells by what opens, not by what was written. Lists of ids are sorted. */
export type ClosingOutcome =
  | { readonly outcome: "cannot-tell"; readonly why: WhyCannotTell; readonly id?: string }
  | { readonly outcome: "returned"; readonly doors: readonly string[] }
  | { readonly outcome: "done"; readonly otherwise: boolean }
  | { readonly outcome: "record-gone"; readonly doors: readonly string[]; readonly by: readonly PathLeft[] }
  | { readonly outcome: "asleep"; readonly doors: readonly string[] }
  | {
      readonly outcome: "in-part";
      /** Doors that no longer open when they should not, that do so at fewer minutes, and that do as before. */
      readonly shut: readonly string[];
      readonly fewer: readonly string[];
      readonly left: readonly string[];
      /** Doors of which nothing is left of what was to stay. */
      readonly lost: readonly string[];
    }
  | { readonly outcome: "not-done"; readonly days: number };

export interface ClosingInput {
  /** The register over which it was ordered, and the later one that is asked. */
  readonly before: CompiledFacility;
  readonly after: CompiledFacility;
  readonly wish: CheckedWish;
  /** The changes of all orders that serve the wish. */
  readonly ordered: readonly FacilityChange[];
  /** Minute at which the last of its orders was sent. */
  readonly sentAt: EpochMinute;
  /** Whether an earlier check found it done. */
  readonly wasDone: boolean;
  /** Rows of the later register's files that were not read. */
  readonly leftOut: number;
}

const differ = (a: string | undefined, b: string | undefined): boolean => a !== undefined && b !== undefined && a !== "" && b !== "" && a !== b;

/** Whether one id stands for two different people by the keys that sources tell people by. */
const isAnotherPerson = (a: Cardholder, b: Cardholder): boolean =>
  differ(a.staffNumber, b.staffNumber) || (a.staffNumber === undefined && b.staffNumber === undefined && differ(a.email, b.email));

const isAnotherCard = (a: Credential, b: Credential): boolean => differ(a.number, b.number) || differ(a.facilityCode, b.facilityCode);

function whyCannotTell({ before, after, wish, sentAt, leftOut }: ClosingInput): Extract<ClosingOutcome, { outcome: "cannot-tell" }> | undefined {
  const cannotTell = (why: WhyCannotTell, id?: string) => ({ outcome: "cannot-tell", why, ...(id !== undefined && { id }) }) as const;
  if (leftOut > 0) return cannotTell("rows-not-read");
  if (aheadOf(after.facility).from < sentAt) return cannotTell("before-sending");
  const { kind, id } = wish.holder;
  const find = ({ facility, cardholderById, credentialById }: CompiledFacility) =>
    kind === "cardholder"
      ? { cardholder: facility.cardholders[cardholderById.get(id) ?? -1] }
      : { credential: facility.credentials[credentialById.get(id) ?? -1] };
  const [was, is] = [find(before), find(after)];
  if (!is.cardholder && !is.credential) return cannotTell("holder-missing", id);
  if (was.cardholder && is.cardholder && isAnotherPerson(was.cardholder, is.cardholder)) return cannotTell("holder-other", id);
  if (was.credential && is.credential && isAnotherCard(was.credential, is.credential)) return cannotTell("holder-other", id);
  if (kind === "credential" && is.credential?.cardholder !== undefined) return cannotTell("credential-elsewhere", id);
  if (wish.kind === "return") {
    const at = ({ facility, credentialById }: CompiledFacility) => facility.credentials[credentialById.get(wish.credential) ?? -1];
    const [card, then] = [at(after), at(before)];
    if (card && then && isAnotherCard(then, card)) return cannotTell("holder-other", wish.credential);
    if (card && (kind === "cardholder" ? card.cardholder !== id : card.cardholder !== undefined)) return cannotTell("credential-elsewhere", wish.credential);
    return undefined;
  }
  for (const door of wish.doors) {
    const [then, now] = [before.doorById.get(door), after.doorById.get(door)];
    if (now === undefined) return cannotTell("door-missing", door);
    if (then !== undefined && before.doors[then]?.door.site !== after.doors[now]?.door.site) return cannotTell("door-other", door);
  }
  const { schedule } = wish.stays;
  return schedule !== undefined && after.indexes.of("schedules").get(schedule) === undefined ? cannotTell("schedule-missing", schedule) : undefined;
}

/** What became of a card that was to come back. */
function checkReturn({ after, wasDone, sentAt, before, ordered }: ClosingInput, credential: string): ClosingOutcome {
  const position = after.credentialById.get(credential);
  if (position === undefined) return { outcome: "done", otherwise: true };
  const { life, holder } = required(after.credentials.at(position), "positions are valid");
  const { from: asOf } = aheadOf(after.facility);
  const { status } = required(after.facility.credentials[position], "positions are valid");
  if (life.window.until <= asOf) return { outcome: "done", otherwise: !carriedOut(before, after, ordered) };
  if (status === "returned" && life.inactiveFrom <= asOf) return { outcome: "done", otherwise: true };
  if (wasDone) return { outcome: "returned", doors: [] };
  const sleeps = life.inactiveFrom <= asOf || (holder !== undefined && (holder.life.inactiveFrom <= asOf || holder.life.window.until <= asOf));
  return sleeps ? { outcome: "asleep", doors: [] } : notDone(asOf, sentAt);
}

const notDone = (asOf: EpochMinute, sentAt: EpochMinute): ClosingOutcome => ({
  outcome: "not-done",
  days: Math.max(0, Math.floor((asOf - sentAt) / minutesADay)),
});

/** The minutes at which a door opens for a holder though it should not: ids of doors with the minutes, in order of id. */
type Unwanted = ReadonlyMap<string, IntervalSet>;

interface Asked {
  readonly compiled: CompiledFacility;
  readonly credentials: readonly CompiledCredential[];
  readonly timeframe: Timeframe;
}

function asked(compiled: CompiledFacility, { holder }: CheckedWish, timeframe: Timeframe): Asked {
  return { compiled, credentials: holderOf(compiled, holder)?.credentials ?? [], timeframe };
}

/** When a door opens for a holder, and of this what may stay. */
function opensAt({ compiled, credentials, timeframe }: Asked, door: string, stays: MayStay, span: { from: EpochMinute; to: EpochMinute }) {
  const position = compiled.doorById.get(door);
  let [open, staying]: [IntervalSet, IntervalSet] = [nothing, nothing];
  if (position === undefined) return { open, staying };
  const known = stays.schedule === undefined || compiled.indexes.of("schedules").get(stays.schedule) !== undefined;
  const stay = stayOf(compiled, span, known ? stays : {});
  for (const credential of credentials) {
    const minutes = openIn(compiled, timeframe, credential, position);
    open = union(open, minutes);
    staying = union(staying, intersect(minutes, mayStayAt(compiled, timeframe, stay, credential, position)));
  }
  return { open: subtract(open, staying), staying };
}

/** Grants and overrides by which doors open still when they should not. */
function pathsLeft({ compiled, credentials, timeframe }: Asked, unwanted: Unwanted): PathLeft[] {
  const found = new Map<string, PathLeft>();
  for (const [door, minutes] of unwanted) {
    const position = required(compiled.doorById.get(door), "the door is in the document");
    const at = required(compiled.doors[position], "positions are valid");
    for (const credential of credentials) {
      if (overrideCovers(credential, at)) found.set("", { kind: "override" });
      for (const path of pathsBetween(compiled, credential, position)) {
        if (path.grant.blocks || intersect(pathOpenIn(timeframe, credential, at, path), minutes).length === 0) continue;
        const { id, to } = path.grant.grant;
        found.set(id, { kind: "grant", grant: id, group: to.group });
      }
    }
  }
  return [...found].sort(([a], [b]) => compareCodePoints(a, b)).map(([, path]) => path);
}

/** The grants and overrides by which doors open for a holder at times at which they may not stay open, in a register as it stands. */
export function waysOf(compiled: CompiledFacility, wish: Extract<CheckedWish, { readonly kind: "doors" }>): PathLeft[] {
  const span = aheadOf(compiled.facility);
  const of = asked(compiled, wish, exactTimeframe(compiled, span.from, span.to, asIfLive));
  const unwanted = wish.doors.map((door) => [door, opensAt(of, door, wish.stays, span).open] as const).filter(([, open]) => open.length > 0);
  return pathsLeft(of, new Map(unwanted));
}

/**
 * What became of a wish, over the 13 months from the later register's export on: the first of the outcomes that fits, in the order of `certification.md`,
 * "Orders and closing checks". What opens as if every credential were live includes all that opens as it is, and that includes what opens in a lockdown, so
 * that two readings tell of all three. Cost: the timetables of the holder's credentials at the doors asked, in both registers.
 */
export function closingCheck(input: ClosingInput): ClosingOutcome {
  const { before, after, wish, ordered, sentAt, wasDone } = input;
  const why = whyCannotTell(input);
  if (why) return why;
  if (wish.kind === "return") return checkReturn(input, wish.credential);
  const { doors, stays } = wish;
  const span = aheadOf(after.facility);
  const [sorted, readings] = [[...new Set(doors)].sort(compareCodePoints), [ordinary, asIfLive] as const];
  const unwantedIn = (compiled: CompiledFacility) =>
    readings.map((mode): Unwanted => {
      const of = asked(compiled, wish, exactTimeframe(compiled, span.from, span.to, mode));
      return new Map(sorted.map((door) => [door, opensAt(of, door, stays, span).open] as const).filter(([, open]) => open.length > 0));
    }) as [Unwanted, Unwanted];
  const [awake, asleep] = unwantedIn(after);
  const left = [...asleep.keys()];
  const lost = left.length > 0 ? [] : stayingLost(input, sorted, stays);
  if (wasDone && left.length > 0) return { outcome: "returned", doors: left };
  const isCarriedOut = carriedOut(before, after, ordered);
  if (left.length === 0 && lost.length === 0) return { outcome: "done", otherwise: !isCarriedOut };
  if (left.length > 0 && isCarriedOut && ordered.length > 0)
    return { outcome: "record-gone", doors: left, by: pathsLeft(asked(after, wish, exactTimeframe(after, span.from, span.to, asIfLive)), asleep) };
  if (left.length > 0 && awake.size === 0) return { outcome: "asleep", doors: left };
  const [awakeBefore, asleepBefore] = unwantedIn(before);
  const shut = [...asleepBefore.keys()].filter((door) => !asleep.has(door));
  const minutes = (of: Unwanted, door: string): number => totalMinutes(of.get(door) ?? nothing);
  const isLess = (door: string): boolean => minutes(awake, door) < minutes(awakeBefore, door) || minutes(asleep, door) < minutes(asleepBefore, door);
  const fewer = left.filter(isLess);
  if (shut.length + fewer.length + lost.length > 0) return { outcome: "in-part", shut, fewer, left: left.filter((door) => !fewer.includes(door)), lost };
  return notDone(span.from, sentAt);
}

/** Doors of which the orders would have left something that may stay, and of which nothing is left. */
function stayingLost({ before, after, wish, ordered }: ClosingInput, doors: readonly string[], stays: MayStay): string[] {
  if (stays.schedule === undefined && stays.until === undefined) return [];
  const span = aheadOf(after.facility);
  const planned = compileFacility(withChanges(before.facility, ordered), before);
  const staysIn = (compiled: CompiledFacility, door: string): boolean =>
    opensAt(asked(compiled, wish, exactTimeframe(compiled, span.from, span.to, ordinary)), door, stays, span).staying.length > 0;
  return doors.filter((door) => staysIn(planned, door) && !staysIn(after, door));
}
