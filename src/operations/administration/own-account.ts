import type { Account, AccountDetails, OpenSession } from "../ports/accounts";
import type { Services } from "../services";
import { openedSince } from "./sign-in";

/** What somebody sees of their own account. */
export interface OwnAccount {
  readonly account: AccountDetails;
  readonly sessions: readonly OpenSession[];
  /** Whether the role asks for a second factor, so that it cannot be taken away. */
  readonly isFactorAsked: boolean;
}

export async function showOwnAccount(services: Services, account: Account, token: string): Promise<OwnAccount | undefined> {
  const [details, roles] = [(await services.accounts.details()).find(({ id }) => id === account.id), await services.accounts.rolesWithSecondFactor()];
  const sessions = await services.sessions.ofAccount(account.id, services.tokens.hashOf(token), openedSince(services.now()));
  return details && { account: details, sessions, isFactorAsked: roles.includes(account.role) };
}

/** So short a password is tried out in days. Source: NIST SP 800-63B, 3.1.1.2 (from memory). */
const shortestPassword = 12;

export type PasswordOutcome = "changed" | "wrong" | "short" | "same" | "barred";

/**
 * Sets one's own password; all other sessions end. The present one has to be given, unless there is none yet. Tries are limited as at sign-in.
 */
export async function changePassword(
  services: Services,
  account: Account,
  token: string,
  given: { readonly present: string; readonly next: string; readonly source: string },
): Promise<PasswordOutcome> {
  const known = await services.accounts.bySignIn(account.signIn);
  if (!known) return "wrong";
  if ([...given.next].length < shortestPassword) return "short";
  if (known.passwordHash !== "") {
    const one = services.tries.begin(account.signIn, given.source, Date.parse(services.now()));
    if (!one) return "barred";
    if (!(await services.passwords.verify(known.passwordHash, given.present))) return "wrong";
    one.succeeded();
    if (given.present === given.next) return "same";
  }
  await services.accounts.setPassword(account.id, await services.passwords.hash(given.next), services.tokens.hashOf(token), account, services.now());
  return "changed";
}

/** Ends one of one's own sessions. */
export async function endSession(services: Services, account: Account, id: string): Promise<boolean> {
  const isEnded = await services.sessions.closeOne(account.id, id);
  if (isEnded) await services.record.append(account, services.now(), { what: "session.ended", on: `account ${account.id}` });
  return isEnded;
}
