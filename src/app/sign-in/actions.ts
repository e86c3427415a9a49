"use server";

import Joi from "joi";
import { cookies, headers } from "next/headers";
import { redirect } from "next/navigation";
import { checkInput } from "@/wiring/web/check-input";
import { nomade, openAhead } from "@/wiring/nomade";
import { isLoopback, sourceOf } from "@/wiring/web/request-address";
import { sessionCookie, accountOfRequest } from "@/wiring/web/web-session";

const schema = Joi.object<{ signIn: string; password: string }>({
  signIn: Joi.string().trim().max(128).required(),
  password: Joi.string().max(1024).required(),
});

export async function signIn(_before: string | undefined, form: FormData): Promise<string | undefined> {
  const given = checkInput(schema, { signIn: form.get("signIn"), password: form.get("password") }, true);
  if (!given.ok) return "Type your sign-in name and your password.";
  const asked = await headers();
  const signed = await nomade.signIn({ ...given.value, source: sourceOf(asked) });
  if (signed.outcome === "barred") return "Too many tries have failed. Try again in a quarter of an hour.";
  if (signed.outcome === "refused") return "The name and the password do not go together. Check both and try again.";
  // Whoever signs in will ask of the register soon: it is opened meanwhile.
  openAhead();
  (await cookies()).set(sessionCookie, signed.token, { httpOnly: true, sameSite: "lax", path: "/", secure: !isLoopback(asked.get("host") ?? "") });
  redirect("/");
}

export async function signOut(): Promise<void> {
  const jar = await cookies();
  const token = jar.get(sessionCookie)?.value;
  const account = await accountOfRequest();
  if (account && token !== undefined) await nomade.signOut(account, token);
  jar.delete(sessionCookie);
  redirect("/sign-in");
}
