"use server";

import Joi from "joi";
import { revalidatePath } from "next/cache";
import { languages } from "@/core/certification/signing-statement";
import { listKeys } from "@/core/facility/document";
import type { OwnershipProfile } from "@/core/facility/ownership";
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
