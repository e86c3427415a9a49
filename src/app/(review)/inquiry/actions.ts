"use server";

import Joi from "joi";
import type { KeepOutcome } from "@/operations/inquiry/kept-questions";
import { asking, nomade } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { accountWith } from "@/wiring/web/web-session";

const id = Joi.number().integer().min(1).required();

/** What a page sends is read by a schema; what of it is wrong is wrong of the program, as the pages send nothing else. */
function read<T>(schema: Joi.Schema<T>, given: unknown): T {
  const checked = checkInput(schema, given);
  if (!checked.ok) throw new Error(`The questions were sent something that they cannot be sent: ${checked.error}`);
  return checked.value;
}

export async function keepQuestion(query: string): Promise<KeepOutcome> {
  const account = await accountWith("ask");
  return (await asking.keepQuestion(account, undefined, read(Joi.string().max(20_000).required(), query))) ?? "not-understood";
}

export async function watchQuestion(question: number, watched: boolean): Promise<boolean> {
  const account = await accountWith("ask");
  return nomade.watchQuestion(account, read(id, question), read(Joi.boolean().required(), watched));
}

export async function dropQuestion(question: number): Promise<boolean> {
  const account = await accountWith("ask");
  return nomade.dropQuestion(account, read(id, question));
}
