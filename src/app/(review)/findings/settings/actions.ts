"use server";

import Joi from "joi";
import type { ConfirmOutcome, KeepOutcome, RefusedSettings, SettingsEffect } from "@/operations/findings/rule-settings";
import { checkInput } from "@/wiring/web/check-input";
import { nomade, watchedWork } from "@/wiring/nomade";
import { unlessStopped } from "@/wiring/web/unless-stopped";
import { accountWith } from "@/wiring/web/web-session";

const text = Joi.string().max(1_000_000).required();
const task = Joi.string().max(64).required();
const previewSchema = Joi.object<{ text: string; task: string }>({ text, task });
const keepSchema = Joi.object<{ text: string; secondPersonFrom: number; instead: number; task: string }>({
  text,
  secondPersonFrom: Joi.number().integer().min(0).max(101).required(),
  instead: Joi.number().integer().min(0).required(),
  task,
});

/** Which findings would come and go with settings. */
export async function previewRuleSettings(written: string, number: string): Promise<SettingsEffect | RefusedSettings | undefined> {
  const account = await accountWith("set-rules");
  const asked = checkInput(previewSchema, { text: written, task: number });
  if (!asked.ok) return { outcome: "refused", errors: [asked.error] };
  return unlessStopped(() => watchedWork(account, asked.value.task, (work) => work.previewRuleSettings(account, asked.value.text)));
}

/** Proposes settings, which a second person confirms. */
export async function keepRuleSettings(
  wanted: { readonly text: string; readonly secondPersonFrom: number; readonly instead: number },
  number: string,
): Promise<KeepOutcome | { readonly outcome: "proposed" } | undefined> {
  const account = await accountWith("set-rules");
  const asked = checkInput(keepSchema, { ...wanted, task: number });
  if (!asked.ok) return { outcome: "refused", errors: [asked.error] };
  const { task: of, ...kept } = asked.value;
  return unlessStopped(() => watchedWork(account, of, (work) => work.keepRuleSettings(account, kept)));
}

/** Confirms what somebody else proposes, and looks for the findings of the present register anew. */
export async function confirmRuleSettings(number: string): Promise<ConfirmOutcome | undefined> {
  const account = await accountWith("set-rules");
  const asked = checkInput(task, number);
  if (!asked.ok) return { outcome: "nothing-proposed" };
  return unlessStopped(() => watchedWork(account, asked.value, (work) => work.confirmRuleSettings(account)));
}

export async function dropRuleSettings(): Promise<boolean> {
  return nomade.dropRuleSettings(await accountWith("set-rules"));
}
