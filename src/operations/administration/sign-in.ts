import type { Account } from "../ports/accounts";
import type { Actor } from "../ports/record";
import { passesSecondFactor } from "./second-factor";
import type { Services } from "../services";

/** A session ends after so long idle, and after so long in any case. */
const idleHours = 8;
const wholeHours = 12;

const hoursBefore = (at: string, hours: number): string => new Date(Date.parse(at) - hours * 3_600_000).toISOString();

/** Sessions that were opened before this have come to their end. */
export const openedSince = (at: string): string => hoursBefore(at, wholeHours);

/** Who tries a name that no account has. The name itself is not kept: people type their password there. */
const nobody: Actor = { signIn: "nobody" };

export type SignInOutcome =
  | { readonly outcome: "signed-in"; readonly token: string; readonly account: Account }
  | { readonly outcome: "refused" }
  | { readonly outcome: "barred" }
  /** The password is right; a code of the second factor is asked for, or the one that was given is not right. */
  | { readonly outcome: "code-needed"; readonly wasGiven: boolean };

/**
 * Opens a session for a sign-in name and password. `source` is where the try comes from. A name that no account has is treated just as
 * one that has: the same limits, the same work, the same answers.
 */
export async function signIn(
  services: Services,
  given: { readonly signIn: string; readonly password: string; readonly code?: string | undefined; readonly source: string; readonly agent?: string },
): Promise<SignInOutcome> {
  const at = services.now();
  const one = services.tries.begin(given.signIn, given.source, Date.parse(at));
  if (!one) return { outcome: "barred" };
  const account = await services.accounts.bySignIn(given.signIn);
  const isRight = await (account && account.passwordHash !== ""
    ? services.passwords.verify(account.passwordHash, given.password)
    : services.passwords.hash(given.password).then(() => false));
  if (!account || !isRight) {
    await services.record.append(account ?? nobody, at, { what: "sign-in.refused", on: account ? `account ${account.id}` : "no account" });
    return { outcome: "refused" };
  }
  if (account.secondFactor) {
    const { code = "" } = given;
    // It counts as a try until a code was right: or codes could be tried without end, with the password in between.
    if (code === "") return { outcome: "code-needed", wasGiven: false };
    if (!(await passesSecondFactor(services, account.id, account.secondFactor, code))) {
      await services.record.append(account, at, { what: "sign-in.refused", on: `account ${account.id}` });
      return { outcome: "code-needed", wasGiven: true };
    }
  }
  one.succeeded();
  const { token, hash } = services.tokens.make();
  // A password that was replaced meanwhile opens nothing.
  if (!(await services.sessions.open({ tokenHash: hash, account: account.id, agent: given.agent ?? "" }, account.passwordHash, at)))
    return { outcome: "refused" };
  await services.record.append(account, at, { what: "sign-in", on: `account ${account.id}` });
  const { id, signIn: name, name: fullName, role, cardholder } = account;
  return { outcome: "signed-in", token, account: { id, signIn: name, name: fullName, role, cardholder } };
}

/** The account of a session's token; undefined where there is none, it was idle for too long, or has come to its end. */
export async function whoIs(services: Services, token: string): Promise<Account | undefined> {
  const at = services.now();
  return services.sessions.use(services.tokens.hashOf(token), { usedSince: hoursBefore(at, idleHours), openedSince: openedSince(at) }, at);
}

export async function signOut(services: Services, account: Account, token: string): Promise<void> {
  await services.sessions.close(services.tokens.hashOf(token));
  await services.record.append(account, services.now(), { what: "sign-out", on: `account ${account.id}` });
}
