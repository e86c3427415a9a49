"use server";

import Joi from "joi";
import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { languages } from "@/core/certification/signing-statement";
import { listKeys } from "@/core/facility/document";
import type { OwnershipProfile } from "@/core/facility/ownership";
import type { SourceRhythm } from "@/operations/ports/deliveries";
import type { OrdersTo } from "@/operations/ports/sources";
import { checkInput } from "@/wiring/web/check-input";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const owned = Joi.object({ fields: Joi.array().items(Joi.string().max(64)), complete: Joi.boolean(), blocks: Joi.boolean() });
const schema = Joi.object<{ source: string; owns: OwnershipProfile }>({
  source: Joi.string().max(255).required(),
  owns: Joi.object(Object.fromEntries(listKeys.map((list) => [list, owned]))).required(),
});

/** Keeps what a source owns from its next intake on. */
export async function saveOwnership(source: string, owns: OwnershipProfile): Promise<boolean> {
  const account = await accountWith("take-in");
  const asked = checkInput(schema, { source, owns });
  const isKept = asked.ok && (await nomade.setOwnership(account, asked.value.source, asked.value.owns));
  revalidatePath("/register/sources");
  return isKept;
}

const rhythmSchema = Joi.object<{ source: string; rhythm: SourceRhythm }>({
  source: Joi.string().max(255).required(),
  rhythm: Joi.object({
    dueHours: Joi.number().integer().min(1).max(100_000),
    watched: Joi.boolean(),
    everyMinutes: Joi.number().integer().min(1).max(100_000),
    dailyAt: Joi.string()
      .pattern(/^([01]\d|2[0-3]):[0-5]\d$/)
      .messages({ "string.pattern.base": "The time of the day is {#value}; expected one such as 06:00." }),
    atMostPeople: Joi.number().integer().min(0).max(1_000_000),
  })
    .nand("everyMinutes", "dailyAt")
    .required(),
});

/** Keeps how often a source is to send and what of it is taken in by itself; a sentence where that cannot be. */
export async function saveRhythm(source: string, rhythm: SourceRhythm): Promise<string | undefined> {
  const account = await accountWith("take-in");
  const asked = checkInput(rhythmSchema, { source, rhythm });
  if (!asked.ok) return asked.error;
  const isKept = await nomade.setRhythm(account, asked.value.source, asked.value.rhythm);
  revalidatePath("/register/sources");
  return isKept ? undefined : "There is no such source any more.";
}

const sourceName = Joi.string().trim().min(1).max(255).required();

/** A token for a source that pushes people; undefined where the name cannot be one. */
export async function makeToken(source: string): Promise<string | undefined> {
  const account = await accountWith("keep-accounts");
  const asked = checkInput(sourceName, source);
  const token = asked.ok ? await nomade.makeFeedToken(account, asked.value) : undefined;
  revalidatePath("/register/sources");
  return token;
}

export async function revokeToken(id: number): Promise<void> {
  const account = await accountWith("keep-accounts");
  const asked = checkInput(Joi.number().integer().required(), id);
  if (asked.ok) await nomade.revokeFeedToken(account, asked.value);
  revalidatePath("/register/sources");
}

/** Collects what a source has pushed, and goes to where it is looked at. */
export async function collectPushed(source: string): Promise<string | undefined> {
  const account = await accountWith("take-in");
  const asked = checkInput(sourceName, source);
  const token = asked.ok ? await nomade.collectPushed(account, asked.value) : undefined;
  if (token === undefined) return "It has pushed nothing yet.";
  return redirect(`/intake?waiting=${token}`);
}

const toSchema = Joi.object<{ source: string; to: OrdersTo | null }>({
  source: Joi.string().max(255).required(),
  to: Joi.object({ address: Joi.string().max(254).required(), language: Joi.valid(...languages).required() })
    .allow(null)
    .required(),
});

/** Says where the orders of a source go by mail; gives whether it could be kept. */
export async function sendOrdersTo(source: string, to: OrdersTo | undefined): Promise<boolean> {
  const account = await accountWith("take-in");
  const asked = checkInput(toSchema, { source, to: to ?? null });
  const isKept = asked.ok && (await nomade.setOrdersTo(account, asked.value.source, asked.value.to ?? undefined));
  revalidatePath("/register/sources");
  return isKept;
}
