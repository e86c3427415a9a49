import type { Account } from "../ports/accounts";
import type { Actor } from "../ports/record";
import type { AskedSignOn, SignOnPerson } from "../ports/sign-on";
import { SignOnRefused } from "../ports/sign-on";
import { openRegister } from "../register/open-register";
import type { Services } from "../services";

/** So long somebody may take at the provider. */
const minutes = 10;

/** What the provider is called; undefined where there is none. */
export const signOnName = (services: Services): string | undefined => services.signOn?.name;

/** Where to send somebody who signs in by the provider, and what their browser keeps meanwhile; undefined where there is none, or it does not answer. */
export async function beginSignOn(services: Services): Promise<{ readonly address: string; readonly kept: string } | undefined> {
  try {
    const begun = await services.signOn?.begin();
    return begun && { address: begun.address, kept: services.sealer.seal(JSON.stringify({ ...begun.asked, at: services.now() })) };
  } catch (error) {
    if (!(error instanceof SignOnRefused)) throw error;
    console.error(error.message);
    return undefined;
  }
}

export type SignOnRefusal = "barred" | "over" | "not-fitting" | "nobody" | "several" | "second-factor";

export type SignOnOutcome = { readonly outcome: "signed-in"; readonly token: string } | { readonly outcome: "refused"; readonly why: SignOnRefusal };

function askedOf(services: Services, kept: string): AskedSignOn | undefined {
  const text = services.sealer.open(kept);
  if (text === undefined) return undefined;
  const { at, ...asked } = JSON.parse(text) as AskedSignOn & { readonly at: string };
  return Date.parse(services.now()) - Date.parse(at) <= minutes * 60_000 ? asked : undefined;
}

const isSame = (a: string | undefined, b: string | undefined): boolean => a !== undefined && b !== undefined && a !== "" && a.toLowerCase() === b.toLowerCase();

/**
 * The account that somebody has: by the e-mail of the account, or by the e-mail or the staff number of its cardholder. What fits several, be it accounts or
 * people of the register, is nobody's.
 */
async function accountOf(services: Services, { email, staffNumber }: SignOnPerson): Promise<Account | "nobody" | "several"> {
  const cardholders = (await openRegister(services))?.compiled.facility.cardholders ?? [];
  const meant = cardholders.filter((one) => isSame(one.email, email) || (staffNumber !== undefined && one.staffNumber === staffNumber));
  if (meant.length > 1) return "several";
  const accounts = (await services.accounts.details()).filter(({ endedAt }) => endedAt === undefined);
  const found = accounts.filter((account) => isSame(account.email, email) || (account.cardholder !== undefined && account.cardholder === meant[0]?.id));
  if (found.length > 1) return "several";
  const [one] = found;
  // An account of somebody else than the person of the register whom the provider means.
  if (one && meant[0] && one.cardholder !== undefined && one.cardholder !== meant[0].id) return "several";
  return one ?? "nobody";
}

const nobody: Actor = { signIn: "nobody" };

/** Opens a session for whoever came back from the provider. */
export async function finishSignOn(
  services: Services,
  given: { readonly kept: string; readonly query: string; readonly source: string; readonly agent: string },
): Promise<SignOnOutcome> {
  const at = services.now();
  const refused = (why: SignOnRefusal): SignOnOutcome => ({ outcome: "refused", why });
  const asked = askedOf(services, given.kept);
  if (!services.signOn || !asked) return refused("over");
  const one = services.tries.begin(`single sign-on from ${given.source}`, given.source, Date.parse(at));
  if (!one) return refused("barred");
  const by = { by: "single sign-on" };
  const recordRefusal = (account: Account | undefined, why: SignOnRefusal) =>
    services.record.append(account ?? nobody, at, { what: "sign-in.refused", on: account ? `account ${account.id}` : "no account", after: { ...by, why } });
  let person: SignOnPerson;
  try {
    person = await services.signOn.finish(given.query, asked);
  } catch (error) {
    if (!(error instanceof SignOnRefused)) throw error;
    console.error(error.message);
    await recordRefusal(undefined, "not-fitting");
    return refused("not-fitting");
  }
  const account = await accountOf(services, person);
  if (account === "nobody" || account === "several") {
    await recordRefusal(undefined, account);
    return refused(account);
  }
  // Who has none although the role asks for one sets it up before anything else, whichever way they came.
  if ((await services.accounts.secondFactor(account.id)) && !person.hasSecondFactor) {
    await recordRefusal(account, "second-factor");
    return refused("second-factor");
  }
  one.succeeded();
  const { token, hash } = services.tokens.make();
  if (!(await services.sessions.open({ tokenHash: hash, account: account.id, agent: given.agent }, undefined, at))) return refused("nobody");
  await services.record.append(account, at, { what: "sign-in", on: `account ${account.id}`, after: { ...by, issuer: person.issuer } });
  return { outcome: "signed-in", token };
}
