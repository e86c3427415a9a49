"use server";

import Joi from "joi";
import type { PlacedDoor, PlanHead } from "@/core/plans/plan";
import type { KeptPlan } from "@/operations/register/plans/keep-plans";
import { asking, nomade } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { accountWith } from "@/wiring/web/web-session";

const number = Joi.number().integer().min(1).required();
const headSchema = Joi.object<{ plan: number; version: number; head: PlanHead }>({
  plan: number,
  version: number,
  head: Joi.object<PlanHead>({
    name: Joi.string().max(200).allow("").required(),
    site: Joi.string().max(128).required(),
    area: Joi.string().max(128),
    storey: Joi.number().integer().min(-200).max(200).required(),
  }).required(),
});
const place = Joi.number().integer().min(0).max(10_000).required();
const placesSchema = Joi.object<{ plan: number; version: number; doors: readonly PlacedDoor[] }>({
  plan: number,
  version: number,
  doors: Joi.array()
    .items(Joi.object<PlacedDoor>({ door: Joi.string().min(1).max(128).required(), x: place, y: place }))
    .max(501)
    .required(),
});
const gone: KeptPlan = { outcome: "refused", why: "gone" };

/** Says anew what a plan is of. */
export async function changePlan(plan: number, version: number, head: PlanHead): Promise<KeptPlan> {
  const account = await accountWith("keep-plans");
  const asked = checkInput(headSchema, { plan, version, head });
  if (!asked.ok) return gone;
  return (await asking.changePlan(account, undefined, asked.value.plan, asked.value.version, { head: asked.value.head })) ?? gone;
}

/** Says where all doors of a plan stand. */
export async function placeDoors(plan: number, version: number, doors: readonly PlacedDoor[]): Promise<KeptPlan> {
  const account = await accountWith("keep-plans");
  const asked = checkInput(placesSchema, { plan, version, doors });
  if (!asked.ok) return gone;
  return (await asking.changePlan(account, undefined, asked.value.plan, asked.value.version, { doors: asked.value.doors })) ?? gone;
}

export async function dropPlan(plan: number): Promise<boolean> {
  const account = await accountWith("keep-plans");
  const asked = checkInput(number, plan);
  return asked.ok && nomade.dropPlan(account, asked.value);
}
