"use server";

import Joi from "joi";
import type { TriedHouseRule, WrittenDown } from "@/operations/findings/house-rules";
import type { WrittenHouseRule } from "@/operations/ports/house-rules";
import { asking, nomade, watchedWork } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { unlessStopped } from "@/wiring/web/unless-stopped";
import { accountWith } from "@/wiring/web/web-session";

const task = Joi.string().max(64).required();
const id = Joi.number().integer().min(1).required();
const ruleSchema = Joi.object<WrittenHouseRule>({
  name: Joi.string().max(200).allow("").required(),
  must: Joi.string().valid("none", "only", "not-both", "at-least", "at-most").required(),
  query: Joi.string().max(4000).allow("").required(),
  other: Joi.string().max(1000),
  count: Joi.number().integer().min(0).max(50),
});
const writeSchema = Joi.object<{ written: WrittenHouseRule; task: string }>({ written: ruleSchema.required(), task });
const askEndSchema = Joi.object<{ id: number; asks: boolean }>({ id, asks: Joi.boolean().required() });
const endSchema = Joi.object<{ id: number; task: string }>({ id, task });

/** How a rule would stand in the present register. */
export async function tryHouseRule(written: WrittenHouseRule): Promise<TriedHouseRule | undefined> {
  const account = await accountWith("read-findings");
  const asked = checkInput(ruleSchema, written);
  return asked.ok ? asking.tryHouseRule(account, undefined, asked.value) : { outcome: "refused", why: "not-understood" };
}

/** Writes a rule down, and looks for what breaks it. */
export async function writeHouseRule(written: WrittenHouseRule, number: string): Promise<WrittenDown | undefined> {
  const account = await accountWith("set-rules");
  const asked = checkInput(writeSchema, { written, task: number });
  if (!asked.ok) return { outcome: "refused", why: "not-understood" };
  return unlessStopped(() => watchedWork(account, asked.value.task, (work) => work.writeHouseRule(account, asked.value.written)));
}

export async function askEndOfHouseRule(rule: number, asks: boolean): Promise<boolean> {
  const account = await accountWith("set-rules");
  const asked = checkInput(askEndSchema, { id: rule, asks });
  return asked.ok && nomade.askEndOfHouseRule(account, asked.value.id, asked.value.asks);
}

/** Ends a rule as the second person. */
export async function endHouseRule(rule: number, number: string): Promise<boolean | undefined> {
  const account = await accountWith("set-rules");
  const asked = checkInput(endSchema, { id: rule, task: number });
  return asked.ok ? unlessStopped(() => watchedWork(account, asked.value.task, (work) => work.endHouseRule(account, asked.value.id))) : false;
}
