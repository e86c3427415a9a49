"use server";

import Joi from "joi";
import { redirect } from "next/navigation";
import { checkInput } from "@/wiring/check-input";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web-session";

const schema = Joi.object<{ name: string; due: string; snapshot: number }>({
  name: Joi.string().trim().max(255).required(),
  due: Joi.string()
    .pattern(/^\d{4}-\d\d-\d\d/)
    .custom((text: string) => text.slice(0, 10))
    .required(),
  snapshot: Joi.number().integer().required(),
});

export async function openRound(_before: string | undefined, form: FormData): Promise<string | undefined> {
  const account = await accountWith("run-rounds");
  const asked = checkInput(schema, Object.fromEntries(["name", "due", "snapshot"].map((key) => [key, form.get(key)])), true);
  if (!asked.ok) return "Give the round a name and a due date.";
  const id = await nomade.openRound(account, asked.value);
  redirect(`/certification/${id}`);
}
