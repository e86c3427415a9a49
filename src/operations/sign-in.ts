import type { Account } from "./ports/accounts";
import type { Services } from "./services";

const failuresAllowed = 5;
const barredMinutes = 15;
const idleHours = 8;

const minutesLater = (at: string, minutes: number): string => new Date(Date.parse(at) + minutes * 60_000).toISOString();

export type SignInOutcome = { readonly outcome: "signed-in"; readonly token: string; readonly account: Account } | { readonly outcome: "refused" } | { readonly outcome: "barred" };

/** Opens a session for a sign-in name and password. After five failures the account is barred for a quarter of an hour. */
export async function signIn(services: Services, given: { readonly signIn: string; readonly password: string }): Promise<SignInOutcome> {
  const at = services.now();
  const account = await services.accounts.bySignIn(given.signIn);
  if (!account) {
    // The same work as for a known name, so that the time does not tell which names there are.
    await services.passwords.hash(given.password);
    return { outcome: "refused" };
  }
  if (account.barredUntil !== undefined && account.barredUntil > at) return { outcome: "barred" };
  if (!(await services.passwords.verify(account.passwordHash, given.password))) {
    await services.accounts.noteFailure(account.id, failuresAllowed, minutesLater(at, barredMinutes));
    await services.record.append(account, at, { what: "sign-in.refused", on: `account ${account.id}` });
    return { outcome: "refused" };
  }
  await services.accounts.clearFailures(account.id);
  const { token, hash } = services.tokens.make();
  await services.sessions.open(hash, account.id, at);
  await services.record.append(account, at, { what: "sign-in", on: `account ${account.id}` });
  const { id, signIn: name, name: fullName, role, cardholder } = account;
  return { outcome: "signed-in", token, account: { id, signIn: name, name: fullName, role, cardholder } };
}

/** The account of a session's token; undefined where there is none or it was idle for too long. */
export async function whoIs(services: Services, token: string): Promise<Account | undefined> {
  const at = services.now();
  return services.sessions.use(services.tokens.hashOf(token), minutesLater(at, -60 * idleHours), at);
}

export async function signOut(services: Services, account: Account, token: string): Promise<void> {
  await services.sessions.close(services.tokens.hashOf(token));
  await services.record.append(account, services.now(), { what: "sign-out", on: `account ${account.id}` });
}
