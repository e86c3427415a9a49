"use server";

import Joi from "joi";
import { redirect } from "next/navigation";
import type { RoundScope, RoundTerms } from "@/core/certification/round-terms";
import type { Planned } from "@/features/certification/plan-round";
import type { AskedRound } from "@/features/certification/round-address";
import type { NewRound } from "@/operations/certification/open-round";
import { checkInput } from "@/wiring/web/check-input";
import { Stopped, watchedWork } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const id = Joi.string().max(128).required();
const ids = Joi.array().items(id).min(1).max(2000);
const scope = Joi.object<RoundScope>({
  about: Joi.object({ kind: Joi.valid("cardholder", "credential").required(), id }),
  sites: ids,
  areas: ids,
  departments: ids,
  types: ids,
  sensitivity: Joi.number().integer().min(0).max(3),
  only: Joi.valid("findings", "changed"),
  definitions: Joi.valid("too", "only"),
});
const by = Joi.valid("manager", "owner", "both").required();
const task = Joi.string().max(64).required();

const planSchema = Joi.object<AskedRound & { task: string }>({ task, scope: scope.required(), by });

/** What a round over the latest snapshot would be; can be looked after, and stopped, under the number that the page gave it. */
export async function planRound(wanted: unknown): Promise<Planned> {
  const account = await accountWith("run-rounds");
  const asked = checkInput(planSchema, wanted);
  if (!asked.ok) return { outcome: "stopped" };
  try {
    const { task: under, ...terms } = asked.value;
    const preview = await watchedWork(account, under, (work) => work.previewRound(account, terms));
    return preview ? { outcome: "planned", preview } : { outcome: "no-register" };
  } catch (error) {
    if (error instanceof Stopped) return { outcome: "stopped" };
    throw error;
  }
}

const days = Joi.array().items(Joi.number().integer().min(0).max(365)).max(10).required();
const openSchema = Joi.object<NewRound & { task: string }>({
  name: Joi.string().trim().max(255).required(),
  due: Joi.string()
    .pattern(/^\d{4}-\d\d-\d\d$/)
    .required(),
  snapshot: Joi.number().integer().required(),
  terms: Joi.object<RoundTerms>({
    scope: scope.required(),
    by,
    undecided: Joi.valid("keep", "withdraw").required(),
    remind: days,
    escalate: days,
    orderDays: Joi.number().integer().min(1).max(365).required(),
  }).required(),
  pilot: Joi.string().max(128),
  task,
});

/** Opens a round and leads to it; gives why not. */
export async function openRound(wanted: unknown): Promise<string | undefined> {
  const account = await accountWith("run-rounds");
  const asked = checkInput(openSchema, wanted);
  if (!asked.ok) return asked.error;
  const { task: under, ...round } = asked.value;
  let opened: number;
  try {
    opened = await watchedWork(account, under, (work) => work.openRound(account, round));
  } catch (error) {
    if (error instanceof Stopped) return "Stopped; no round was opened.";
    throw error;
  }
  redirect(`/certification/${opened}`);
}
