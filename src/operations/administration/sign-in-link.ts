import type { Account } from "../ports/accounts";
import { passesSecondFactor } from "./second-factor";
import type { Services } from "../services";

/** Whom a link is for and where it leads, without using it up; undefined where it was used, is over, or is none. */
export async function whoseLink(services: Services, token: string): Promise<{ readonly account: Account; readonly path: string } | undefined> {
  return services.accounts.link(services.tokens.hashOf(token), services.now());
}

export type LinkOutcome =
  | { readonly outcome: "signed-in"; readonly token: string; readonly path: string }
  | { readonly outcome: "refused" | "barred" }
  | { readonly outcome: "code-needed"; readonly wasGiven: boolean };

/** Signs in by a link, which is used up. Who has a second factor gives a code of it, too. */
export async function signInByLink(
  services: Services,
  given: { readonly token: string; readonly code: string; readonly source: string; readonly agent: string },
): Promise<LinkOutcome> {
  const at = services.now();
  const hash = services.tokens.hashOf(given.token);
  const one = services.tries.begin(`link ${hash.slice(0, 16)}`, given.source, Date.parse(at));
  if (!one) return { outcome: "barred" };
  const link = await services.accounts.link(hash, at);
  if (!link) return { outcome: "refused" };
  const factor = await services.accounts.secondFactor(link.account.id);
  if (factor) {
    if (given.code === "") return { outcome: "code-needed", wasGiven: false };
    if (!(await passesSecondFactor(services, link.account.id, factor, given.code))) return { outcome: "code-needed", wasGiven: true };
  }
  if (!(await services.accounts.useLink(hash, at))) return { outcome: "refused" };
  one.succeeded();
  const session = services.tokens.make();
  if (!(await services.sessions.open({ tokenHash: session.hash, account: link.account.id, agent: given.agent }, undefined, at))) return { outcome: "refused" };
  await services.record.append(link.account, at, { what: "sign-in", on: `account ${link.account.id}`, after: { by: "link" } });
  return { outcome: "signed-in", token: session.token, path: link.path };
}
