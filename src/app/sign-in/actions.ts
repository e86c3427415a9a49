"use server";

import Joi from "joi";
import { cookies } from "next/headers";
import { redirect } from "next/navigation";
import type { Language } from "@/core/certification/signing-statement";
import { languages } from "@/core/certification/signing-statement";
import { english } from "@/features/words/account/english";
import { accountWords } from "@/features/words/account/in-language";
import type { SignInState } from "@/features/sign-in/sign-in-form";
import { checkInput } from "@/wiring/web/check-input";
import { nomade } from "@/wiring/nomade";
import { asker, keepSession } from "@/wiring/web/new-session";
import { sessionCookie, accountOfRequest } from "@/wiring/web/web-session";

const code = Joi.string().allow("", null).max(32);
const schema = Joi.object<{ signIn: string; password: string; code: string | null }>({
  signIn: Joi.string().trim().max(128).required(),
  password: Joi.string().max(1024).required(),
  code,
});
const linkSchema = Joi.object<{ token: string; code: string | null; language: Language }>({
  token: Joi.string().max(128).required(),
  code,
  language: Joi.valid(...languages).required(),
});

const said = {
  barred: "Too many tries have failed. Try again in a quarter of an hour.",
  refused: "The name and the password do not go together. Check both and try again.",
} as const;

export async function signIn(_before: SignInState, form: FormData): Promise<SignInState> {
  const given = checkInput(schema, { signIn: form.get("signIn"), password: form.get("password"), code: form.get("code") }, true);
  if (!given.ok) return { refused: "Type your sign-in name and your password." };
  const signed = await nomade.signIn({ ...given.value, code: given.value.code ?? "", ...(await asker()) });
  if (signed.outcome === "code-needed") return { codeNeeded: true, ...(signed.wasGiven && { refused: english.link.wrongCode }) };
  if (signed.outcome !== "signed-in") return { refused: said[signed.outcome] };
  await keepSession(signed.token);
  redirect("/");
}

/** Signs in by a link that works once, and leads where it says. */
export async function goOnByLink(_before: SignInState, form: FormData): Promise<SignInState> {
  const given = checkInput(linkSchema, { token: form.get("token"), code: form.get("code"), language: form.get("language") }, true);
  const words = accountWords(given.ok ? given.value.language : "en").link;
  if (!given.ok) return { refused: words.used };
  const signed = await nomade.signInByLink({ token: given.value.token, code: given.value.code ?? "", ...(await asker()) });
  if (signed.outcome === "code-needed") return { codeNeeded: true, ...(signed.wasGiven && { refused: words.wrongCode }) };
  if (signed.outcome !== "signed-in") return { refused: signed.outcome === "barred" ? words.barred : words.used };
  await keepSession(signed.token);
  redirect(signed.path);
}

export async function signOut(): Promise<void> {
  const jar = await cookies();
  const token = jar.get(sessionCookie)?.value;
  const account = await accountOfRequest();
  if (account && token !== undefined) await nomade.signOut(account, token);
  jar.delete(sessionCookie);
  redirect("/sign-in");
}
