import { readPicture } from "@/intake/formats/pictures/read-picture";
import { mostDoorsOfPlan, planEdge } from "@/core/plans/plan";
import type { PlacedDoor, PlanHead } from "@/core/plans/plan";
import type { Account } from "../../ports/accounts";
import { demand } from "../../rights";
import type { Services } from "../../services";
import type { OpenRegister } from "../open-register";

/** So many plans are kept; their list is looked through whenever one is shown. */
export const mostPlans = 1000;

/** Why a plan is not kept as asked. */
export type PlanRefusal =
  | { readonly why: "picture"; readonly reason: string }
  | { readonly why: "full" | "no-name" | "no-site" | "no-area" | "storey" | "outdated" | "gone" | "too-many-doors" }
  | { readonly why: "not-on-plan"; readonly door: string };

export type KeptPlan = { readonly outcome: "kept"; readonly id: number; readonly leftOut: readonly string[] } | ({ readonly outcome: "refused" } & PlanRefusal);

const refused = (why: PlanRefusal): KeptPlan => ({ outcome: "refused", ...why });

/** What is wrong with what a plan is said to be of. */
function faultOf({ compiled }: OpenRegister, { name, site, area, storey }: PlanHead): PlanRefusal | undefined {
  if (name.trim() === "" || name.length > 200) return { why: "no-name" };
  if (!compiled.facility.sites.some(({ id }) => id === site)) return { why: "no-site" };
  if (area !== undefined && !compiled.facility.areas.some((one) => one.id === area && one.site === site)) return { why: "no-area" };
  if (!Number.isInteger(storey) || Math.abs(storey) > 200) return { why: "storey" };
  return undefined;
}

/** What is wrong with where doors are said to stand; of doors that the register does not hold at the site those are left that stood on the plan before. */
function faultOfPlaces({ compiled }: OpenRegister, site: string, doors: readonly PlacedDoor[], before: readonly PlacedDoor[]): PlanRefusal | undefined {
  if (doors.length > mostDoorsOfPlan) return { why: "too-many-doors" };
  const known = new Set(before.map(({ door }) => door));
  const seen = new Set<string>();
  const isWithin = (one: number): boolean => Number.isInteger(one) && one >= 0 && one <= planEdge;
  for (const { door, x, y } of doors) {
    const there = compiled.doors[compiled.doorById.get(door) ?? -1]?.door;
    if (seen.has(door) || !isWithin(x) || !isWithin(y) || (there?.site !== site && !known.has(door))) return { why: "not-on-plan", door };
    seen.add(door);
  }
  return undefined;
}

/** Adds a plan with a picture as it was brought, made safe first. */
export async function addPlan(
  services: Services,
  account: Account,
  register: OpenRegister,
  head: PlanHead,
  bytes: Uint8Array,
  doors: readonly PlacedDoor[] = [],
): Promise<KeptPlan> {
  demand(account, "keep-plans");
  const fault = faultOf(register, head) ?? faultOfPlaces(register, head.site, doors, []);
  if (fault) return refused(fault);
  const read = await readPicture(bytes);
  if (!read.ok) return refused({ why: "picture", reason: read.error });
  if ((await services.plans.all()).length >= mostPlans) return refused({ why: "full" });
  const id = await services.plans.add({ ...head, name: head.name.trim() }, read.value.picture, doors, { signIn: account.signIn }, services.now());
  return { outcome: "kept", id, leftOut: read.value.leftOut };
}

/** What of a plan is to be otherwise; a picture as it was brought. */
export interface AskedPlanChange {
  readonly head?: PlanHead | undefined;
  readonly bytes?: Uint8Array | undefined;
  readonly doors?: readonly PlacedDoor[] | undefined;
}

/** Changes a plan that still stands as it did at `version`. Doors keep their places where a picture takes the place of another. */
export async function changePlan(
  services: Services,
  account: Account,
  register: OpenRegister,
  id: number,
  version: number,
  { head, bytes, doors }: AskedPlanChange,
): Promise<KeptPlan> {
  demand(account, "keep-plans");
  const plan = await services.plans.byId(id);
  if (!plan) return refused({ why: "gone" });
  const site = (head ?? plan).site;
  const isMoved = site !== plan.site;
  // Another site has none of the doors that stood there before.
  const before = isMoved ? [] : plan.doors;
  const fault = (head && faultOf(register, head)) ?? (doors || isMoved ? faultOfPlaces(register, site, doors ?? plan.doors, before) : undefined);
  if (fault) return refused(fault);
  const read = bytes && (await readPicture(bytes));
  if (read && !read.ok) return refused({ why: "picture", reason: read.error });
  const change = { head: head && { ...head, name: head.name.trim() }, picture: read?.value.picture, doors };
  const outcome = await services.plans.change(id, version, change, { signIn: account.signIn }, services.now());
  return outcome === "changed" ? { outcome: "kept", id, leftOut: read?.value.leftOut ?? [] } : refused({ why: outcome });
}

export async function dropPlan(services: Services, account: Account, id: number): Promise<boolean> {
  demand(account, "keep-plans");
  return services.plans.drop(id, { signIn: account.signIn }, services.now());
}
