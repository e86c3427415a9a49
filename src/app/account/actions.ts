"use server";

import Joi from "joi";
import { headers } from "next/headers";
import { toString as squareOf } from "qrcode";
import type { OfferedSquare } from "@/features/administration/own-account-view";
import type { PasswordOutcome } from "@/operations/administration/own-account";
import { nomade } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { sourceOf } from "@/wiring/web/request-address";
import { ownAccount, sessionToken } from "@/wiring/web/web-session";

const password = Joi.string().allow("").max(1024).required();
const code = Joi.string().max(32).required();

export async function changePassword(present: unknown, next: unknown): Promise<PasswordOutcome> {
  const account = await ownAccount();
  const given = checkInput(Joi.object<{ present: string; next: string }>({ present: password, next: password }), { present, next }, true);
  if (!given.ok) return "short";
  return nomade.changePassword(account, await sessionToken(), { ...given.value, source: sourceOf(await headers()) });
}

export async function endSession(id: unknown): Promise<boolean> {
  const account = await ownAccount();
  return typeof id === "string" && nomade.endSession(account, id);
}

export async function offer(): Promise<OfferedSquare> {
  const { secret, uri } = await nomade.offerSecondFactor(await ownAccount());
  return { secret, square: await squareOf(uri, { type: "svg", margin: 2 }) };
}

export async function confirm(secret: unknown, given: unknown): Promise<readonly string[] | undefined> {
  const account = await ownAccount();
  const asked = checkInput(
    Joi.object<{ secret: string; code: string }>({
      secret: Joi.string()
        .pattern(/^[A-Z2-7]{16,64}$/)
        .required(),
      code,
    }),
    { secret, code: given },
    true,
  );
  return asked.ok ? nomade.confirmSecondFactor(account, await sessionToken(), asked.value.secret, asked.value.code.trim()) : undefined;
}

export async function drop(given: unknown): Promise<boolean> {
  const account = await ownAccount();
  const asked = checkInput(code, given, true);
  return asked.ok && nomade.dropSecondFactor(account, await sessionToken(), asked.value);
}
