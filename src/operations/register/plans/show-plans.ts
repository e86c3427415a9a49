import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Door } from "@/core/facility/document";
import { firstFew } from "@/core/kernel/compare";
import { joinedByLifts } from "@/core/plans/joined-by-lifts";
import type { JoinedPlan } from "@/core/plans/joined-by-lifts";
import { mostDoorsOfPlan } from "@/core/plans/plan";
import type { PlacedDoor } from "@/core/plans/plan";
import { fold } from "@/core/register/fold";
import { compareNames } from "../../inquiry/compare-names";
import type { Account } from "../../ports/accounts";
import type { Plan } from "../../ports/plans";
import { demand, may } from "../../rights";
import type { Services } from "../../services";
import type { OpenRegister } from "../open-register";

/** Of so many doors those that are not on the plan yet are offered: as many as stand on one at most, and some more. */
const offeredDoors = mostDoorsOfPlan + 60;

/** A plan among others. */
export interface ListedPlan extends Omit<Plan, "doors"> {
  readonly siteName: string;
  readonly areaName: string | undefined;
  readonly doorCount: number;
  /** Doors on it that the register does not hold. */
  readonly goneCount: number;
}

/** A door on a plan. */
export interface ShownDoor extends PlacedDoor {
  /** Its name; its id where the register does not hold it. */
  readonly name: string;
  /** Undefined where the register does not hold it. */
  readonly kind: NonNullable<Door["kind"]> | undefined;
}

export interface ShownPlan extends ListedPlan {
  readonly doors: readonly ShownDoor[];
  readonly joined: readonly JoinedPlan[];
}

/** A door that could be set on a plan. */
export interface OfferedDoor {
  readonly id: string;
  readonly name: string;
  readonly area: string | undefined;
  /** Whether it stands on another plan. */
  readonly isElsewhere: boolean;
}

/**
 * The plans that somebody sees: who is limited to some sites those of these, with the doors that they know. In the order of the register’s sites, then by
 * floor from below, then by name.
 */
export async function plansSeen(services: Services, { compiled, sites }: OpenRegister): Promise<readonly Plan[]> {
  const placeOf = new Map(compiled.facility.sites.map(({ id }, i) => [id, i]));
  const all = await services.plans.all();
  const seen =
    sites === undefined
      ? [...all]
      : all.flatMap((plan) => (sites.includes(plan.site) ? [{ ...plan, doors: plan.doors.filter(({ door }) => compiled.doorById.has(door)) }] : []));
  return seen.sort(
    (a, b) =>
      (placeOf.get(a.site) ?? placeOf.size) - (placeOf.get(b.site) ?? placeOf.size) || a.storey - b.storey || compareNames(a.name, b.name) || a.id - b.id,
  );
}

const namesOfSites = ({ facility }: CompiledFacility): ((id: string) => string) => {
  const names = new Map(facility.sites.map(({ id, name }) => [id, name]));
  return (id) => names.get(id) ?? id;
};

export function listedPlan(compiled: CompiledFacility, { doors, ...plan }: Plan): ListedPlan {
  const { facility, doorById } = compiled;
  return {
    ...plan,
    siteName: namesOfSites(compiled)(plan.site),
    areaName: plan.area === undefined ? undefined : (facility.areas.find(({ id }) => id === plan.area)?.name ?? plan.area),
    doorCount: doors.length,
    goneCount: doors.filter(({ door }) => !doorById.has(door)).length,
  };
}

/** A plan with its doors by name, and where lifts lead from it. */
export function shownPlan(compiled: CompiledFacility, plan: Plan, all: readonly Plan[]): ShownPlan {
  return {
    ...listedPlan(compiled, plan),
    doors: plan.doors.map((placed): ShownDoor => {
      const door = compiled.doors[compiled.doorById.get(placed.door) ?? -1]?.door;
      return { ...placed, name: door?.name ?? placed.door, kind: door && (door.kind ?? "door") };
    }),
    joined: joinedByLifts(compiled, plan, all),
  };
}

/** The plans of buildings, and the sites that one can be of. */
export interface ListedPlans {
  readonly plans: readonly ListedPlan[];
  /** Doors of the register that stand on no plan. */
  readonly unplaced: number;
  readonly sites: readonly { readonly id: string; readonly name: string }[];
  readonly areas: readonly { readonly id: string; readonly name: string; readonly site: string }[];
  readonly mayKeep: boolean;
}

export async function listPlans(services: Services, account: Account, register: OpenRegister): Promise<ListedPlans> {
  demand(account, "read-register");
  const { compiled } = register;
  const plans = await plansSeen(services, register);
  const placed = new Set(plans.flatMap(({ doors }) => doors.map(({ door }) => door)));
  const { sites, areas, doors } = compiled.facility;
  return {
    plans: plans.map((plan) => listedPlan(compiled, plan)),
    unplaced: doors.filter(({ id }) => !placed.has(id)).length,
    sites: sites.map(({ id, name }) => ({ id, name })),
    areas: areas.map(({ id, name, site }) => ({ id, name, site })),
    mayKeep: may(account, "keep-plans"),
  };
}

/** One plan, with those that it is found among; undefined where there is none such for this account. */
export async function showPlan(
  services: Services,
  account: Account,
  register: OpenRegister,
  id: number,
): Promise<{ readonly plan: ShownPlan; readonly all: ListedPlans } | undefined> {
  demand(account, "read-register");
  const plans = await plansSeen(services, register);
  const plan = plans.find((one) => one.id === id);
  return plan && { plan: shownPlan(register.compiled, plan, plans), all: await listPlans(services, account, register) };
}

/** Doors of a plan's site, but not on it, that have something in their name, id or area's name, those of its area first; `count` is how many there are. */
export async function doorsToPlace(
  services: Services,
  account: Account,
  register: OpenRegister,
  id: number,
  text: string,
): Promise<{ readonly doors: readonly OfferedDoor[]; readonly count: number } | undefined> {
  demand(account, "keep-plans");
  const plans = await plansSeen(services, register);
  const plan = plans.find((one) => one.id === id);
  if (!plan) return undefined;
  const { compiled } = register;
  const elsewhere = new Set(plans.filter((one) => one !== plan).flatMap(({ doors }) => doors.map(({ door }) => door)));
  const here = new Set(plan.doors.map(({ door }) => door));
  const wanted = fold(text.trim());
  const within = compiled.facility.areas.findIndex(({ id }) => id === plan.area);
  const found = compiled.doors.flatMap(({ door, areas }) => {
    if (door.site !== plan.site || here.has(door.id)) return [];
    const area = areas[0] === undefined ? undefined : compiled.facility.areas[areas[0]]?.name;
    if (wanted !== "" && ![door.name, door.id, area ?? ""].some((part) => fold(part).includes(wanted))) return [];
    return [{ id: door.id, name: door.name, area, isElsewhere: elsewhere.has(door.id), isWithin: areas.includes(within) }];
  });
  return {
    count: found.length,
    doors: firstFew(
      found,
      offeredDoors,
      (a, b) => Number(b.isWithin) - Number(a.isWithin) || Number(a.isElsewhere) - Number(b.isElsewhere) || compareNames(a.name, b.name),
    ).map(({ isWithin: _, ...door }) => door),
  };
}

/** The picture of a plan; undefined where there is none such for this account. */
export async function planPicture(services: Services, account: Account, id: number, sha256: string) {
  demand(account, "read-register");
  const plan = await services.plans.byId(id);
  if (!plan || (account.sites !== undefined && !account.sites.includes(plan.site))) return undefined;
  return services.plans.picture(id, sha256);
}
