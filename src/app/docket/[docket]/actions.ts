"use server";

import Joi from "joi";
import type { HolderId } from "@/core/facility/holder-id";
import { checkInput } from "@/wiring/web/check-input";
import { asking, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const decisionSchema = Joi.object<{ line: number; decision: "keep" | "withdraw"; reason: string }>({
  line: Joi.number().integer().required(),
  decision: Joi.valid("keep", "withdraw").required(),
  reason: Joi.string().allow("").max(2000).required(),
});

const keepSchema = Joi.object({
  docket: Joi.number().integer().required(),
  holder: Joi.object<HolderId>({ kind: Joi.valid("cardholder", "credential").required(), id: Joi.string().max(128).required() }).required(),
});

const refusals = {
  "reason-needed": "Say in words why it is needed: something speaks against this line.",
  "docket-signed": "This docket was signed meanwhile and does not change any more.",
  "not-yours": "This docket is not yours to decide.",
} as const;

/** Each action gives nothing where it was done, or the sentence that says why not. */
export async function decide(line: number, decision: "keep" | "withdraw", reason: string): Promise<string | undefined> {
  const account = await accountWith("certify");
  const asked = checkInput(decisionSchema, { line, decision, reason });
  if (!asked.ok) return "This decision could not be read; load the page again.";
  const done = await nomade.decideLine(account, asked.value.line, { decision: asked.value.decision, reason: asked.value.reason });
  return done.outcome === "decided" ? undefined : refusals[done.why];
}

export async function keepAll(docket: number, holder: HolderId): Promise<string | undefined> {
  const account = await accountWith("certify");
  if (!checkInput(keepSchema, { docket, holder }).ok) return "This could not be read; load the page again.";
  const done = await nomade.keepUnremarkable(account, docket, holder);
  return done.outcome === "decided" ? undefined : refusals[done.why];
}

export async function sign(docket: number): Promise<string | undefined> {
  const account = await accountWith("certify");
  if (!checkInput(Joi.number().integer().required(), docket).ok) return "This could not be read; load the page again.";
  const done = await asking.signDocket(account, docket);
  if (done.outcome === "signed") return undefined;
  if (done.outcome === "undecided") return `${done.count} lines are not decided yet.`;
  if (done.why === "already-signed") return refusals["docket-signed"];
  return done.why === "not-yours" ? refusals["not-yours"] : "A decision changed while you signed. Look again, then sign.";
}
