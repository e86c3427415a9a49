"use server";

import Joi from "joi";
import type { Schema } from "joi";
import { runRefusals } from "@/features/words/closing";
import type { AnsweringOutcome } from "@/operations/certification/answer-orders";
import type { ApplyingOutcome } from "@/operations/certification/apply-orders";
import type { RunOutcome } from "@/operations/certification/run-round";
import type { SendingOutcome } from "@/operations/certification/send-orders";
import type { Account } from "@/operations/ports/accounts";
import { asking, longWork, nomade } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import type { MadeAccount } from "@/operations/administration/accounts";
import { accountWith } from "@/wiring/web/web-session";

const number = Joi.number().integer().required();
const unread = "This could not be read; load the page again.";

/** Does something with what was asked, if it is as it has to be; gives nothing where it was done, or the sentence that says why not. */
async function run<T>(schema: Schema<T>, wanted: unknown, act: (account: Account, asked: T) => Promise<RunOutcome>): Promise<string | undefined> {
  const account = await accountWith("run-rounds");
  const asked = checkInput(schema, wanted);
  if (!asked.ok) return unread;
  const why = await act(account, asked.value);
  return why && runRefusals[why];
}

export const release = async (round: number) => run(number, round, (account, id: number) => nomade.releaseDockets(account, id));

export const correct = async (docket: number) => run(number, docket, (account, id: number) => nomade.correctDocket(account, id));

export const close = async (round: number) => run(number, round, (account, id: number) => asking.closeRound(account, id));

const reasonSchema = Joi.object<{ round: number; reason: string }>({ round: number, reason: Joi.string().allow("").max(2000).required() });

export const askToClose = async (round: number, reason: string) =>
  run(reasonSchema, { round, reason }, (account, asked) => nomade.askToClose(account, asked.round, asked.reason));

const giveSchema = Joi.object<{ docket: number; cardholder: string }>({ docket: number, cardholder: Joi.string().max(128).required() });

export const give = async (docket: number, cardholder: string) =>
  run(giveSchema, { docket, cardholder }, (account, asked) => asking.giveDocket(account, asked.docket, asked.cardholder));

interface AskedSubstitute {
  readonly certifier: string;
  readonly account: number;
  readonly from: string;
  readonly until: string;
}
const day = Joi.string().allow("").max(100).required();
const substituteSchema = Joi.object<{ round: number; asked: AskedSubstitute }>({
  round: number,
  asked: Joi.object({ certifier: Joi.string().max(128).required(), account: number, from: day, until: day }).required(),
});

export const addSubstitute = async (round: number, asked: AskedSubstitute) =>
  run(substituteSchema, { round, asked }, (account, checked) => nomade.addSubstitute(account, checked.round, checked.asked));

const seenSchema = Joi.object<{ round: number; seen: number }>({ round: number, seen: number });
const changedMeanwhile = { outcome: "refused", why: "changed-meanwhile" } as const;

export async function send(round: number, seen: number): Promise<SendingOutcome> {
  const account = await accountWith("run-rounds");
  return checkInput(seenSchema, { round, seen }).ok ? asking.sendOrders(account, round, seen) : changedMeanwhile;
}

export async function apply(round: number, seen: number): Promise<ApplyingOutcome> {
  const account = await accountWith("run-rounds");
  return checkInput(seenSchema, { round, seen }).ok ? longWork().applyOwnOrders(account, round, seen) : changedMeanwhile;
}

const answerSchema = Joi.object<{ round: number; text: string }>({
  round: number,
  text: Joi.string()
    .allow("")
    .max(10 * 1024 * 1024)
    .required(),
});

export async function answer(round: number, text: string): Promise<AnsweringOutcome> {
  const account = await accountWith("run-rounds");
  const asked = checkInput(answerSchema, { round, text });
  if (!asked.ok) return { outcome: "refused", issues: [{ line: 1, column: "", value: "", expected: "a table as CSV of at most 10 MB" }] };
  return nomade.answerOrders(account, round, asked.value.text);
}

/** Makes accounts for all certifiers of a round that have none; gives each with the link that signs in once. */
export async function makeAccounts(round: number): Promise<readonly MadeAccount[] | undefined> {
  const account = await accountWith("keep-accounts");
  return Number.isInteger(round) ? asking.makeCertifierAccounts(account, round) : undefined;
}
