"use server";

import Joi from "joi";
import type { Presented } from "@/core/units/decide-at-unit";
import type { AtTheDoor, UnitTreatment } from "@/operations/units/at-the-doors";
import type { KeptUnit, WrittenUnit } from "@/operations/units/keep-units";
import { nomade } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { accountWith } from "@/wiring/web/web-session";

const id = Joi.string().min(1).max(128);
const unitId = id.required();
const notAsked = { failed: "This cannot be asked of it." } as const;

const unitSchema = Joi.object<WrittenUnit>({
  id: unitId,
  address: Joi.string().min(1).max(512).required(),
  token: Joi.string().min(1).max(1024),
  isSentFromHere: Joi.boolean().required(),
  erring: Joi.valid("less", "more").required(),
});
const presentedSchema = Joi.object<{ unit: string; presented: Presented }>({
  unit: unitId,
  presented: Joi.object<Presented>({ door: unitId, card: id, number: id, facilityCode: id, pin: Joi.valid("right", "wrong", "duress") })
    .or("card", "number")
    .required(),
});
const disturbedSchema = Joi.object<{ unit: string; door: string; what: "forced" | "held" }>({
  unit: unitId,
  door: unitId,
  what: Joi.valid("forced", "held").required(),
});
const treatedSchema = Joi.object<{ unit: string; treatment: UnitTreatment }>({
  unit: unitId,
  treatment: Joi.object<UnitTreatment>({
    isOffline: Joi.boolean(),
    clockOff: Joi.number().integer().min(-1e6).max(1e6),
    passback: Joi.boolean(),
  }).required(),
});
const lockdownSchema = Joi.object<{ unit: string; raised: boolean }>({ unit: unitId, raised: Joi.boolean().required() });

/** Says where a unit answers, and asks it at once how it is. */
export async function keepUnit(unit: WrittenUnit): Promise<KeptUnit> {
  const account = await accountWith("keep-units");
  const asked = checkInput(unitSchema, unit);
  if (!asked.ok) return "no-such-address";
  const outcome = await nomade.keepUnit(account, asked.value);
  if (outcome === "kept") await nomade.visitUnits(true);
  return outcome;
}

/** Forgets a unit. */
export async function dropUnit(unit: string): Promise<boolean> {
  const account = await accountWith("keep-units");
  const asked = checkInput(unitId, unit);
  return asked.ok && nomade.dropUnit(account, asked.value);
}

/** Has a unit be read and sent again at the next visit, which follows at once. */
export async function sendAgain(unit: string): Promise<boolean> {
  const account = await accountWith("tend-units");
  const asked = checkInput(unitId, unit);
  if (!asked.ok || !(await nomade.sendAgain(account, asked.value))) return false;
  await nomade.visitUnits(true);
  return true;
}

/** Raises or lifts a lockdown at a unit; what it gives is why that could not be. */
export async function setUnitLockdown(unit: string, raised: boolean): Promise<string | undefined> {
  const account = await accountWith("tend-units");
  const asked = checkInput(lockdownSchema, { unit, raised });
  if (!asked.ok) return notAsked.failed;
  const outcome = await nomade.setUnitLockdown(account, asked.value.unit, asked.value.raised);
  return outcome === "done" ? undefined : outcome === "no-such-unit" ? "There is no such unit any more." : outcome.failed;
}

/** Presents a card, a PIN or both at a door of a stand-in. */
export async function presentAtUnit(unit: string, presented: Presented): Promise<AtTheDoor> {
  const account = await accountWith("tend-units");
  const asked = checkInput(presentedSchema, { unit, presented });
  return asked.ok ? nomade.presentAtUnit(account, asked.value.unit, asked.value.presented) : notAsked;
}

/** Forces a door of a stand-in, or holds it open. */
export async function disturbDoor(unit: string, door: string, what: "forced" | "held"): Promise<AtTheDoor> {
  const account = await accountWith("tend-units");
  const asked = checkInput(disturbedSchema, { unit, door, what });
  return asked.ok ? nomade.disturbDoor(account, asked.value.unit, asked.value.door, asked.value.what) : notAsked;
}

/** Takes a stand-in offline or online, or puts its clock wrong; what it gives is why that could not be. */
export async function treatUnit(unit: string, treatment: UnitTreatment): Promise<string | undefined> {
  const account = await accountWith("tend-units");
  const asked = checkInput(treatedSchema, { unit, treatment });
  if (!asked.ok) return notAsked.failed;
  const outcome = await nomade.treatUnit(account, asked.value.unit, asked.value.treatment);
  return outcome === "done" ? undefined : outcome.failed;
}
