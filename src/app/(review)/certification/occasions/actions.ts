"use server";

import Joi from "joi";
import type { OccasionKind } from "@/core/certification/occasions";
import { occasionKinds } from "@/core/certification/occasions";
import { nomade } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { accountWith } from "@/wiring/web/web-session";

const schema = Joi.object<{ kind: OccasionKind; days?: number }>({
  kind: Joi.valid(...occasionKinds).required(),
  days: Joi.number().integer().min(1).max(365),
});

/** Sets within how many days an occasion asks for a decision, or that it asks for none; gives why it could not be. */
export async function setOccasion(kind: OccasionKind, days: number | undefined): Promise<string | undefined> {
  const account = await accountWith("run-rounds");
  const asked = checkInput(schema, { kind, ...(days !== undefined && { days }) });
  const done = asked.ok && (await nomade.setOccasion(account, asked.value.kind, asked.value.days));
  return done ? undefined : "Write a whole number of days from 1 to 365, or nothing at all.";
}
