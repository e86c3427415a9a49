"use server";

import Joi from "joi";
import { redirect } from "next/navigation";
import type { ToldProposals } from "@/operations/register/put-levels-right";
import { Stopped, watchedWork } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { unlessStopped } from "@/wiring/web/unless-stopped";
import { accountWith } from "@/wiring/web/web-session";

const task = Joi.string().max(64).required();
const draftSchema = Joi.object<{ key: string; task: string }>({ key: Joi.string().max(1_000_000).required(), task });

/** Steps by which the levels of the present register could be put right. */
export async function proposeLevels(number: string): Promise<ToldProposals | undefined> {
  const account = await accountWith("edit-drafts");
  const asked = checkInput(task, number);
  return asked.ok ? unlessStopped(() => watchedWork(account, asked.value, (work) => work.proposeLevels(account))) : undefined;
}

/** Begins a draft with a step, and leads to it. */
export async function draftLevels(key: string, number: string): Promise<"not-any-more" | "stopped" | undefined> {
  const account = await accountWith("edit-drafts");
  const asked = checkInput(draftSchema, { key, task: number });
  if (!asked.ok) return "not-any-more";
  let draft: number | undefined;
  try {
    draft = await watchedWork(account, asked.value.task, (work) => work.draftLevels(account, asked.value.key));
  } catch (error) {
    if (error instanceof Stopped) return "stopped";
    throw error;
  }
  if (draft === undefined) return "not-any-more";
  redirect(`/register/drafts/${draft}`);
}
