"use server";

import Joi from "joi";
import { redirect } from "next/navigation";
import type { HolderId } from "@/core/facility/holder-id";
import type { Planned } from "@/features/certification/plan-round";
import { checkInput } from "@/wiring/web/check-input";
import { Stopped, watchedWork } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const about = Joi.object<HolderId>({ kind: Joi.valid("cardholder", "credential").required(), id: Joi.string().max(128).required() });
const planSchema = Joi.object<{ task: string; about?: HolderId }>({ task: Joi.string().max(64).required(), about });

/** What a round over the latest snapshot would be; can be looked after, and stopped, under the number that the page gave it. */
export async function planRound(wanted: unknown): Promise<Planned> {
  const account = await accountWith("run-rounds");
  const asked = checkInput(planSchema, wanted);
  if (!asked.ok) return { outcome: "stopped" };
  try {
    const { task, ...scope } = asked.value;
    const preview = await watchedWork(account, task, (work) => work.previewRound(account, scope));
    return preview ? { outcome: "planned", preview } : { outcome: "no-register" };
  } catch (error) {
    if (error instanceof Stopped) return { outcome: "stopped" };
    throw error;
  }
}

const schema = Joi.object<{ name: string; due: string; snapshot: number; task: string; about?: HolderId }>({
  name: Joi.string().trim().max(255).required(),
  due: Joi.string()
    .pattern(/^\d{4}-\d\d-\d\d$/)
    .required(),
  snapshot: Joi.number().integer().required(),
  task: Joi.string().max(64).required(),
  about,
});

/** Opens a round and leads to it; gives why not. */
export async function openRound(wanted: unknown): Promise<string | undefined> {
  const account = await accountWith("run-rounds");
  const asked = checkInput(schema, wanted);
  if (!asked.ok) return asked.error;
  const { task, ...round } = asked.value;
  let id: number;
  try {
    id = await watchedWork(account, task, (work) => work.openRound(account, round));
  } catch (error) {
    if (error instanceof Stopped) return "Stopped; no round was opened.";
    throw error;
  }
  redirect(`/certification/${id}`);
}
