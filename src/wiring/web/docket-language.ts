import { cookies, headers } from "next/headers";
import type { Account } from "@/operations/ports/accounts";
import { may } from "../nomade";
import type { Language } from "@/core/certification/signing-statement";
import { languages } from "@/core/certification/signing-statement";

const languageCookie = "nomade-language";
const aYear = 365 * 86_400;

const known = (text: string | undefined): Language | undefined => languages.find((language) => language === text);

/**
 * The language in which somebody reads their dockets: the one that they chose here, else that of their account, else the first that their browser
 * asks for and that there is.
 */
export async function docketLanguage({ language: own }: Pick<Account, "language">): Promise<Language> {
  const chosen = known((await cookies()).get(languageCookie)?.value);
  if (chosen ?? own) return chosen ?? own ?? "en";
  const asked = ((await headers()).get("accept-language") ?? "").split(",").map((one) => one.trim().slice(0, 2).toLowerCase());
  return asked.map(known).find((language) => language !== undefined) ?? "en";
}

/** The language of somebody's own account: certifiers read theirs as their dockets; the reviewer's side is in English. */
export const ownLanguage = async (account: Account): Promise<Language> => (may(account, "ask") ? "en" : docketLanguage(account));

/** Keeps the language that somebody chose. */
export async function keepLanguage(language: Language): Promise<void> {
  (await cookies()).set(languageCookie, language, { sameSite: "lax", path: "/", maxAge: aYear });
}
