"use server";

import Joi from "joi";
import type { RetentionKind } from "@/core/evidence/retention";
import { retentionKinds } from "@/core/evidence/retention";
import { checkInput } from "@/wiring/web/check-input";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const schema = Joi.object<{ kind: RetentionKind; months: number | null }>({
  kind: Joi.string()
    .valid(...retentionKinds)
    .required(),
  months: Joi.number().integer().allow(null).required(),
});

/** Sets for how many months a kind is kept; gives why it could not be. */
export async function setRetention(kind: RetentionKind, months: number | undefined): Promise<string | undefined> {
  const account = await accountWith("keep-accounts");
  const given = checkInput(schema, { kind, months: months ?? null });
  if (!given.ok) return "Expected a whole number of months.";
  const done = await nomade.setRetention(account, given.value.kind, given.value.months ?? undefined);
  return done.outcome === "set" ? undefined : `Expected from ${done.fewest} to ${done.most.toLocaleString("en-GB")} months.`;
}
