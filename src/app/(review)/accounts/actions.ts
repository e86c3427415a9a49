"use server";

import Joi from "joi";
import { languages } from "@/core/certification/signing-statement";
import type { AccountOutcome, AskedAccount } from "@/operations/administration/accounts";
import type { Role } from "@/operations/ports/accounts";
import { asking, nomade } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { accountWith } from "@/wiring/web/web-session";

const role = Joi.valid("administrator", "reviewer", "manager", "owner", "auditor").required();
const schema = Joi.object<AskedAccount>({
  signIn: Joi.string().trim().max(128).required(),
  name: Joi.string().trim().max(255).required(),
  role,
  cardholder: Joi.string().max(128),
  email: Joi.string().email({ tlds: false }).max(254),
  language: Joi.valid(...languages),
  sites: Joi.array().items(Joi.string().max(128)).max(10_000),
});
const id = Joi.number().integer().required();
const unread: AccountOutcome = { outcome: "refused", why: "not-there" };

export async function add(wanted: unknown): Promise<AccountOutcome> {
  const account = await accountWith("keep-accounts");
  const asked = checkInput(schema, wanted);
  return asked.ok ? asking.addAccount(account, asked.value) : unread;
}

export async function change(of: unknown, wanted: unknown): Promise<AccountOutcome> {
  const account = await accountWith("keep-accounts");
  const [number, asked] = [checkInput(id, of), checkInput(schema, wanted)];
  if (!number.ok || !asked.ok) return unread;
  const { name, role: as, cardholder, email, language, sites } = asked.value;
  return asking.changeAccount(account, number.value, { name, role: as, cardholder, email, language, sites });
}

export async function end(of: unknown, isEnded: unknown): Promise<AccountOutcome> {
  const account = await accountWith("keep-accounts");
  const number = checkInput(id, of);
  return number.ok ? asking.endAccount(account, number.value, isEnded === true) : unread;
}

export async function reset(of: unknown): Promise<AccountOutcome> {
  const account = await accountWith("keep-accounts");
  const number = checkInput(id, of);
  return number.ok ? asking.resetAccount(account, number.value) : unread;
}

export async function askFactor(of: unknown, isAsked: unknown): Promise<void> {
  const account = await accountWith("keep-accounts");
  const asked = checkInput(role as Joi.Schema<Role>, of);
  if (asked.ok) await nomade.askSecondFactor(account, asked.value, isAsked === true);
}
