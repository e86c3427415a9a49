"use server";

import Joi from "joi";
import type { AskedWaiver, WaiverOutcome } from "@/operations/findings/triage";
import { checkInput } from "@/wiring/web/check-input";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const fingerprint = Joi.string().max(100_000).required();
const id = Joi.number().integer().min(1).required();
/** Longer than any that is taken, so that what is too long is told as that. */
const text = Joi.string().max(20_000).allow("").required();

const waiverSchema = Joi.object<AskedWaiver>({ snapshot: id, fingerprint, reason: text, until: Joi.string().max(32).allow("").required() });

/** What a page sends is read by a schema; what of it is wrong is wrong of the program, as the pages send nothing else. */
function read<T>(schema: Joi.Schema<T>, given: unknown): T {
  const checked = checkInput(schema, given);
  if (!checked.ok) throw new Error(`The findings were sent something that they cannot be sent: ${checked.error}`);
  return checked.value;
}

export async function waiveFinding(asked: AskedWaiver): Promise<WaiverOutcome> {
  const account = await accountWith("triage");
  return nomade.waiveFinding(account, read(waiverSchema, asked));
}

export async function confirmWaiver(waiver: number): Promise<boolean> {
  const account = await accountWith("triage");
  return nomade.confirmWaiver(account, read(id, waiver));
}

export async function endWaiver(waiver: number): Promise<boolean> {
  const account = await accountWith("triage");
  return nomade.endWaiver(account, read(id, waiver));
}

export async function noteFinding(of: string, note: string): Promise<boolean> {
  const account = await accountWith("triage");
  return nomade.noteFinding(account, read(fingerprint, of), read(text, note));
}

export async function assignFinding(of: string, assignee: string | undefined): Promise<boolean> {
  const account = await accountWith("triage");
  return nomade.assignFinding(account, read(fingerprint, of), read(Joi.string().max(128), assignee));
}
