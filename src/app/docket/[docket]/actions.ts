"use server";

import Joi from "joi";
import { revalidatePath } from "next/cache";
import type { Narrowing } from "@/core/certification/decide-line";
import type { Language } from "@/core/certification/signing-statement";
import { languages } from "@/core/certification/signing-statement";
import type { Pending } from "@/features/certification/decision-queue";
import { docketWords } from "@/features/words/docket/in-language";
import type { DecisionOutcome } from "@/operations/certification/decide-line";
import type { ShownDocket } from "@/operations/certification/show-docket";
import type { Account } from "@/operations/ports/accounts";
import { asking, nomade } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { docketLanguage, keepLanguage } from "@/wiring/web/docket-language";
import { accountWith } from "@/wiring/web/web-session";

const reason = Joi.string().allow("").max(2000).required();
const id = Joi.string().max(128);

const narrowing = Joi.alternatives<Narrowing>(
  Joi.object({
    kind: Joi.valid("hours").required(),
    schedule: id,
    scheduleName: Joi.string().allow("").max(2000),
    until: Joi.string().pattern(/^\d{4}-\d\d-\d\d$/),
  }),
  Joi.object({ kind: Joi.valid("doors").required(), shut: Joi.array().items(id).min(1).max(5000).required() }),
);

const choice = Joi.alternatives(
  Joi.object({ decision: Joi.valid("keep", "withdraw").required(), reason }),
  Joi.object({ decision: Joi.valid("narrow").required(), narrowing: narrowing.required(), reason }),
  Joi.object({ decision: Joi.valid("pass-on").required(), to: Joi.number().integer().required(), reason }),
  Joi.object({ decision: Joi.valid("undo").required() }),
);

const pendingSchema = Joi.alternatives<Pending>(
  Joi.object({ key: Joi.string().max(300).required(), line: Joi.number().integer().required(), choice: choice.required() }),
  Joi.object({
    key: Joi.string().max(300).required(),
    keepAllOf: Joi.object({ kind: Joi.valid("cardholder", "credential", "definitions").required(), id: id.required() }).required(),
    lines: Joi.array().items(Joi.number().integer()).required(),
  }),
);

function decided(account: Account, docket: number, pending: Pending): Promise<DecisionOutcome> {
  if (!("line" in pending)) return nomade.keepUnremarkable(account, docket, pending.keepAllOf);
  const { line, choice: chosen } = pending;
  switch (chosen.decision) {
    case "keep":
    case "withdraw":
      return nomade.decideLine(account, line, chosen);
    case "narrow":
      return asking.narrowLine(account, line, chosen.narrowing, chosen.reason);
    case "pass-on":
      return nomade.passOnLine(account, line, chosen.to, chosen.reason);
    case "undo":
      return nomade.undoDecision(account, line);
  }
}

/** A docket as it stands now, for whoever looks at it. */
export async function load(docket: number): Promise<ShownDocket | undefined> {
  const account = await accountWith("see-dockets");
  const asked = checkInput(Joi.number().integer().required(), docket);
  return asked.ok ? asking.showDocket(account, asked.value) : undefined;
}

/** Each action gives nothing where it was done, or the sentence that says why not. */
export async function save(docket: number, wanted: unknown): Promise<string | undefined> {
  const account = await accountWith("certify");
  const words = docketWords(await docketLanguage(account));
  const asked = checkInput(pendingSchema, wanted);
  if (!asked.ok || !Number.isInteger(docket)) return words.unread;
  const done = await decided(account, docket, asked.value);
  return done.outcome === "decided" ? undefined : words.refusals[done.why];
}

export async function comment(line: number, text: string): Promise<string | undefined> {
  const account = await accountWith("see-dockets");
  const asked = checkInput(Joi.object({ line: Joi.number().integer().required(), text: Joi.string().max(2000).required() }), { line, text });
  const done = asked.ok ? await nomade.commentLine(account, line, text) : "no-round";
  return done === undefined ? undefined : docketWords(await docketLanguage(account)).unread;
}

export async function sign(docket: number): Promise<string | undefined> {
  const account = await accountWith("certify");
  const language = await docketLanguage(account);
  const words = docketWords(language);
  if (!checkInput(Joi.number().integer().required(), docket).ok) return words.unread;
  const done = await asking.signDocket(account, docket, language);
  if (done.outcome === "signed") return undefined;
  return done.outcome === "undecided" ? words.undecided(done.count) : words.notSigned[done.why];
}

export async function speak(language: Language): Promise<void> {
  if (!languages.includes(language)) return;
  await keepLanguage(language);
  revalidatePath("/docket", "layout");
}
