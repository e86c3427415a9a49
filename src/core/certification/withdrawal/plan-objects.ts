import type { CompiledFacility, CompiledGrant } from "../../compile/compiled-facility";
import { canonicalJson } from "../../facility/canonical-json";
import type { Grant, Membership } from "../../facility/document";
import type { ChangedObject } from "../../facility/facility-change";
import { normalObject } from "../../facility/normal-form";
import type { Plain } from "../../facility/object-key";
import { keyOf } from "../../facility/object-key";
import { byText, compareCodePoints } from "../../kernel/compare";
import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import { overrideCovers, routesOf } from "../../paths/paths";
import { formatInstant, isWritable } from "../../time/instant";
import type { EpochMinute } from "../../time/instant";
import type { Window } from "../../time/window";
import type { GrantPart } from "./grant-parts";
import { partsOf } from "./grant-parts";
import { outsideOf } from "./outside-schedule";
import type { Holder, Stay } from "./wish";

/** A change of a plan before new objects have their ids; `order` tells where it stands among the others. */
export type PlannedChange =
  | { readonly kind: "outside"; readonly object: Plain }
  | { readonly kind: "block"; readonly door: string; readonly outside: boolean; readonly object: Plain }
  | { readonly kind: "part"; readonly grant: string; readonly object: Plain }
  | { readonly kind: "alter"; readonly target: ChangedObject; readonly object: Plain }
  | { readonly kind: "remove"; readonly target: ChangedObject };

/** How access comes through a grant or a part of one, while it is as an option would have it. */
export interface GrantForm {
  readonly open: GrantPart["open"];
  readonly schedule: string | undefined;
  readonly window: Window;
}

/** What can be done with a grant that is given to the holder or to one of their credentials. */
export interface GrantOption {
  readonly changes: readonly PlannedChange[];
  /** What the grant comes to once the option is carried out, and while its parts are added but the grant is still there; without parts that never is. */
  readonly forms: readonly GrantForm[];
  readonly whileAdding?: readonly GrantForm[];
  /** Whether it may open something that did not open before. */
  readonly mayOpen: boolean;
}

export interface MembershipOption {
  readonly changes: readonly PlannedChange[];
  /** When the membership ends; undefined where it is gone. */
  readonly until: EpochMinute | undefined;
}

export interface OverrideOption {
  readonly changes: readonly PlannedChange[];
  /** Whether the override covers a site then. */
  readonly covers: (site: string) => boolean;
}

export interface DoorOption {
  readonly changes: readonly PlannedChange[];
  readonly block: "always" | "outside what may stay";
}

/** Something that a plan may change in one of several ways, or leave as it is. Memberships that say the same are one. */
export type PlanObject =
  | { readonly kind: "override"; readonly options: readonly OverrideOption[] }
  | { readonly kind: "grant"; readonly grant: CompiledGrant; readonly options: readonly GrantOption[] }
  | { readonly kind: "membership"; readonly positions: ReadonlySet<Position>; readonly window: Window; readonly options: readonly MembershipOption[] }
  | { readonly kind: "door"; readonly door: Position; readonly options: readonly DoorOption[] };

export interface PlanScope {
  readonly compiled: CompiledFacility;
  readonly holder: Holder;
  /** First minute that is looked at. */
  readonly from: EpochMinute;
  /** Doors that open at times at which they may not stay open. */
  readonly toShut: ReadonlySet<Position>;
  /** These, and the doors behind which they lie. */
  readonly near: ReadonlySet<Position>;
  readonly stay: Stay;
  readonly withBlocks: boolean;
}

const plain = (object: object): Plain => object as unknown as Plain;
const without = (object: object, key: string): Plain => Object.fromEntries(Object.entries(object).filter(([name]) => name !== key));

/** The grant in another form, as an object of the document; a new one where `isNew`. */
const grantObject = (grant: Grant, changes: Partial<Grant>): Plain =>
  normalObject(Object.fromEntries(Object.entries({ ...grant, ...changes }).filter(([, value]) => value !== undefined)), "grants");

/** What something that may stay has to say instead: a schedule in place of its own, and an end where it would end later. */
function narrowing({ compiled, stay }: PlanScope, end: EpochMinute): { readonly schedule?: string; readonly until?: string } {
  const schedule = stay.schedule === undefined ? undefined : required(compiled.facility.schedules[stay.schedule], "positions are valid").id;
  const endsLater = stay.end !== undefined && end > stay.end;
  return { ...(schedule !== undefined && { schedule }), ...(endsLater && { until: required(stay.lastDate, "an end comes from a date") }) };
}

function grantOptions(scope: PlanScope, compiledGrant: CompiledGrant): GrantOption[] {
  const { compiled, stay, toShut } = scope;
  const { grant, window } = compiledGrant;
  const target: ChangedObject = { list: "grants", id: grant.id };
  const remove: PlannedChange = { kind: "remove", target };
  const options: GrantOption[] = [{ changes: [remove], forms: [], mayOpen: false }];
  const less = stay.isSomething ? narrowing(scope, window.until) : {};
  const lessWindow: Window = less.until === undefined ? window : { from: window.from, until: required(stay.end, "an end comes from a date") };
  const changed = (part: GrantPart, narrower: typeof less): Partial<Grant> => ({
    open: part.open,
    schedule: narrower.schedule ?? part.schedule,
    ...(narrower.until !== undefined && { until: narrower.until }),
  });
  if (stay.isSomething && (less.until !== undefined || (less.schedule !== undefined && less.schedule !== grant.schedule))) {
    const narrowed = { open: grant.open, schedule: grant.schedule };
    options.push({
      changes: [{ kind: "alter", target, object: grantObject(grant, changed(narrowed, less)) }],
      forms: [{ open: grant.open, schedule: less.schedule ?? grant.schedule, window: lessWindow }],
      mayOpen: true,
    });
  }
  const coversAsked = [...compiled.cover(grant.open).keys()].some((door) => toShut.has(door));
  const parts = coversAsked && grant.open.door === undefined ? partsOf(compiled, grant, (door) => toShut.has(door)) : undefined;
  if (!parts) return options;
  const own: GrantForm = { open: grant.open, schedule: grant.schedule, window };
  const added = (part: GrantPart, narrower: typeof less): PlannedChange => ({
    kind: "part",
    grant: grant.id,
    object: grantObject(grant, changed(part, narrower)),
  });
  const outside = { changes: parts.outside.map((part) => added(part, {})), forms: parts.outside.map((part): GrantForm => ({ ...part, window })) };
  options.push({ changes: [...outside.changes, remove], forms: outside.forms, whileAdding: [own], mayOpen: false });
  if (!stay.isSomething) return options;
  const asked = {
    changes: parts.asked.map((part) => added(part, less)),
    forms: parts.asked.map((part): GrantForm => ({ open: part.open, schedule: less.schedule ?? part.schedule, window: lessWindow })),
  };
  options.push({
    changes: distinct([...outside.changes, ...asked.changes, remove]),
    forms: [...outside.forms, ...asked.forms],
    whileAdding: [own, ...asked.forms],
    mayOpen: true,
  });
  return options;
}

/** Parts that say the same are one. */
const distinct = (changes: readonly PlannedChange[]): PlannedChange[] => [...new Map(changes.map((change) => [canonicalJson(change), change])).values()];

function membershipOptions(scope: PlanScope, membership: Membership, window: Window): MembershipOption[] {
  const { group, cardholder, from, until } = normalObject(plain(membership), "memberships") as unknown as Membership;
  const target: ChangedObject = {
    list: "memberships",
    membership: { group, cardholder, ...(from !== undefined && { from }), ...(until !== undefined && { until }) },
  };
  const options: MembershipOption[] = [{ changes: [{ kind: "remove", target }], until: undefined }];
  const end = scope.stay.end;
  if (scope.stay.isSomething && end !== undefined && window.until > end) {
    const object = normalObject({ ...membership, until: scope.stay.lastDate }, "memberships");
    options.push({ changes: [{ kind: "alter", target, object }], until: end });
  }
  return options;
}

function overrideOptions({ compiled, holder, toShut }: PlanScope): OverrideOption[] {
  const cardholder = required(holder.credentials[0]?.holder, "somebody with an override is a cardholder").cardholder;
  const target: ChangedObject = { list: "cardholders", id: cardholder.id };
  const { override } = cardholder;
  const sites = override === true ? compiled.facility.sites.map(({ id }) => id) : (override ?? []);
  const shut = new Set([...toShut].map((door) => required(compiled.facility.doors[door], "positions are valid").site));
  const left = [...new Set(sites)].filter((site) => !shut.has(site)).sort(compareCodePoints);
  const options: OverrideOption[] = [
    { changes: [{ kind: "alter", target, object: normalObject(without(cardholder, "override"), "cardholders") }], covers: () => false },
  ];
  if (left.length > 0 && left.length < new Set(sites).size) {
    const kept = new Set(left);
    options.push({
      changes: [{ kind: "alter", target, object: normalObject({ ...cardholder, override: left }, "cardholders") }],
      covers: (site) => kept.has(site),
    });
  }
  return options;
}

function doorOptions({ compiled, holder, stay }: PlanScope, door: Position): DoorOption[] {
  const { id } = required(compiled.facility.doors[door], "positions are valid");
  const to = holder.of.kind === "cardholder" ? { cardholder: holder.of.id } : { credential: holder.of.id };
  const block = (more: Partial<Grant>): Plain => ({ to, open: { door: id }, effect: "block", ...more });
  const options: DoorOption[] = [{ changes: [{ kind: "block", door: id, outside: false, object: block({}) }], block: "always" }];
  if (!stay.isSomething) return options;
  const changes: PlannedChange[] = [];
  const schedule = stay.schedule === undefined ? undefined : required(compiled.facility.schedules[stay.schedule], "positions are valid");
  if (schedule && !schedule.always) {
    const outside = outsideOf(schedule, compiled.facility.calendars);
    if (!outside) return options;
    changes.push({ kind: "outside", object: normalObject(plain(outside), "schedules") }, { kind: "block", door: id, outside: true, object: block({}) });
  }
  if (stay.end !== undefined) {
    if (!isWritable(stay.end)) return options;
    changes.push({ kind: "block", door: id, outside: false, object: block({ from: formatInstant({ seconds: stay.end * 60, fraction: "" }) }) });
  }
  if (changes.length > 0) options.push({ changes, block: "outside what may stay" });
  return options;
}

/** Memberships of the holder that say the same, each with what they bring of allows that are not over. */
function* membershipsOf({
  compiled,
  holder,
  from,
}: PlanScope): Generator<{ readonly positions: Set<Position>; readonly first: Membership; readonly window: Window; readonly allows: readonly Position[] }> {
  const found = new Map<
    string,
    { readonly positions: Set<Position>; readonly first: Membership; readonly window: Window; readonly allows: readonly Position[] }
  >();
  for (const { list, membership } of holder.credentials[0]?.holder?.routes ?? []) {
    if (membership === undefined) continue;
    const first = required(compiled.facility.memberships[membership], "positions are valid");
    const window = compiled.vocabulary.windows.of(first).outward;
    if (window.until <= from) continue;
    const key = keyOf("memberships", normalObject(plain(first), "memberships"));
    const known = found.get(key);
    if (known) known.positions.add(membership);
    else {
      const allows = list.routes.map(({ grant }) => grant).filter((grant) => isAllow(compiled, grant, from));
      found.set(key, { positions: new Set([membership]), first, window, allows });
    }
  }
  yield* found.values();
}

function isAllow(compiled: CompiledFacility, grant: Position, from: EpochMinute): boolean {
  const { blocks, window } = required(compiled.grants.at(grant), "positions are valid");
  return !blocks && window.until > from;
}

/**
 * Everything that a plan may choose to change so that doors shut for one holder and nobody else: each object once, those that are altered or
 * removed in the order in which changes are carried out, then the doors. What others have too is not among them.
 */
export function planObjects(scope: PlanScope): PlanObject[] {
  const { compiled, holder, near, toShut } = scope;
  const reachesNear = (grant: Position): boolean => {
    for (const door of compiled.waysOf(grant).keys()) if (near.has(door)) return true;
    return false;
  };
  const objects: PlanObject[] = [];
  const person = holder.credentials[0];
  if (person && [...near].some((door) => overrideCovers(person, required(compiled.doors[door], "positions are valid"))))
    objects.push({ kind: "override", options: overrideOptions(scope) });
  const straight = new Set<Position>();
  for (const credential of holder.credentials)
    for (const { list } of routesOf(credential))
      if (list.by === "cardholder" || list.by === "credential") for (const { grant } of list.routes) straight.add(grant);
  const grants = [...straight]
    .filter((grant) => isAllow(compiled, grant, scope.from) && reachesNear(grant))
    .map((grant) => required(compiled.grants.at(grant), "positions are valid"));
  for (const grant of grants.sort(byText(({ grant: { id } }) => id))) objects.push({ kind: "grant", grant, options: grantOptions(scope, grant) });
  const memberships = [...membershipsOf(scope)].filter(({ allows }) => allows.some(reachesNear));
  const order = ({ group, cardholder, from = "", until = "" }: Membership) => [group, cardholder, from, until];
  memberships.sort((a, b) => {
    const [x, y] = [order(a.first), order(b.first)];
    return x.reduce((known, text, i) => known || compareCodePoints(text, y[i] ?? ""), 0);
  });
  for (const { positions, first, window } of memberships)
    objects.push({ kind: "membership", positions, window, options: membershipOptions(scope, first, window) });
  if (scope.withBlocks) for (const door of [...toShut].sort((a, b) => a - b)) objects.push({ kind: "door", door, options: doorOptions(scope, door) });
  return objects;
}
