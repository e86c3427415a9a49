"use server";

import Joi from "joi";
import type { Trial } from "@/core/evidence/trials";
import { nomade } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { accountWith } from "@/wiring/web/web-session";

const id = Joi.string().min(1).max(256).required();
const trialSchema = Joi.object<Trial>({
  credential: id,
  door: id,
  at: Joi.string()
    .pattern(/^\d{4}-\d\d-\d\dT\d\d:\d\dZ$/)
    .custom((text: string, helpers) => (Number.isNaN(Date.parse(text)) ? helpers.error("any.invalid") : text))
    .required(),
  lockdown: Joi.boolean().required(),
  expected: Joi.string().valid("open", "closed").required(),
  note: Joi.string().max(200).allow("").required(),
});
const numberSchema = Joi.number().integer().min(1).required();

/** Writes a trial down. */
export async function addTrial(trial: Trial): Promise<"written" | "full" | "refused"> {
  const account = await accountWith("triage");
  const asked = checkInput(trialSchema, trial);
  return asked.ok ? nomade.addTrial(account, asked.value) : "refused";
}

/** Takes a trial out of those that are run. */
export async function dropTrial(trial: number): Promise<boolean> {
  const account = await accountWith("triage");
  const asked = checkInput(numberSchema, trial);
  return asked.ok && nomade.dropTrial(account, asked.value);
}
