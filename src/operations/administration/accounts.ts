import type { Language } from "@/core/certification/signing-statement";
import { openRegister } from "../register/open-register";
import type { Account, AccountChange, AccountDetails, Role } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";

/** A link to set a password with works for so long, and once. */
const linkDays = 7;
const dayMs = 86_400_000;

export interface AccountsList {
  readonly accounts: readonly (AccountDetails & { readonly cardholderName: string | undefined })[];
  /** Sites of the register, to which reviewers and auditors can be limited. */
  readonly sites: readonly { readonly id: string; readonly name: string }[];
  /** Roles that need a second factor. */
  readonly secondFactor: readonly Role[];
}

/** Every account, those that are ended last, with what the register calls their cardholders. */
export async function listAccounts(services: Services, account: Account): Promise<AccountsList> {
  demand(account, "keep-accounts");
  const [accounts, secondFactor, register] = [await services.accounts.details(), await services.accounts.rolesWithSecondFactor(), await openRegister(services)];
  const nameOf = (id: string | undefined): string | undefined =>
    id === undefined ? undefined : register?.compiled.facility.cardholders[register.compiled.cardholderById.get(id) ?? -1]?.name;
  const sites = register?.compiled.facility.sites.map(({ id, name }) => ({ id, name })) ?? [];
  return { accounts: accounts.map((one) => ({ ...one, cardholderName: nameOf(one.cardholder) })), sites, secondFactor };
}

/** Why an account was not made or changed. */
export type AccountRefusal =
  | "sites-of-role"
  | "no-site"
  | "name-taken" | "cardholder-taken" | "no-cardholder" | "needs-cardholder" | "yourself" | "last-administrator" | "not-there";

/** A link that sets a password and signs in, once. It is shown now, and never again. */
export type AccountOutcome = { readonly outcome: "done"; readonly link?: string } | { readonly outcome: "refused"; readonly why: AccountRefusal };

const refused = (why: AccountRefusal): AccountOutcome => ({ outcome: "refused", why });

const isCertifier = (role: Role): boolean => role === "manager" || role === "owner";

/** What is wrong with the cardholder of an account; undefined where nothing is. Managers and owners are certifiers, and need one. */
async function cardholderRefusal(services: Services, role: Role, cardholder: string | undefined): Promise<AccountRefusal | undefined> {
  if (cardholder === undefined) return isCertifier(role) ? "needs-cardholder" : undefined;
  const register = await openRegister(services);
  return register?.compiled.cardholderById.get(cardholder) === undefined ? "no-cardholder" : undefined;
}

/** What is wrong with the sites that an account is limited to: they are for those who look at everything, and have to be there. */
export async function sitesRefusal(services: Services, role: Role, sites: readonly string[] | undefined): Promise<AccountRefusal | undefined> {
  if (sites === undefined) return undefined;
  if (role !== "reviewer" && role !== "auditor") return "sites-of-role";
  const known = new Set((await openRegister(services))?.compiled.facility.sites.map(({ id }) => id));
  return sites.length > 0 && sites.every((id) => known.has(id)) ? undefined : "no-site";
}

/** A new link by which an account sets its password. */
export async function linkFor(services: Services, account: number, path = "/account"): Promise<string> {
  const { token, hash } = services.tokens.make();
  const at = services.now();
  await services.accounts.makeLink({ tokenHash: hash, account, path, until: new Date(Date.parse(at) + linkDays * dayMs).toISOString() }, at);
  return `/sign-in/link?token=${token}`;
}

export interface AskedAccount {
  readonly signIn: string;
  readonly name: string;
  readonly role: Role;
  readonly cardholder?: string | undefined;
  readonly email?: string | undefined;
  readonly language?: Language | undefined;
  /** Undefined for all. */
  readonly sites?: readonly string[] | undefined;
}

/** Adds an account without a password: the link that comes back sets it. */
export async function addAccount(services: Services, account: Account, asked: AskedAccount): Promise<AccountOutcome> {
  demand(account, "keep-accounts");
  const why = (await cardholderRefusal(services, asked.role, asked.cardholder)) ?? (await sitesRefusal(services, asked.role, asked.sites));
  if (why) return refused(why);
  const added = await services.accounts.add({ ...asked, cardholder: asked.cardholder, passwordHash: "" }, account, services.now());
  if (added !== "added") return refused(added);
  const made = await services.accounts.bySignIn(asked.signIn);
  return made ? { outcome: "done", link: await linkFor(services, made.id) } : refused("not-there");
}

/** Whether an account is the only administrator: without one nobody could make another. */
async function isLastAdministrator(services: Services, id: number): Promise<boolean> {
  const administrators = (await services.accounts.all()).filter(({ role }) => role === "administrator");
  return administrators.length === 1 && administrators[0]?.id === id;
}

export async function changeAccount(services: Services, account: Account, id: number, to: AccountChange): Promise<AccountOutcome> {
  demand(account, "keep-accounts");
  const why = (await cardholderRefusal(services, to.role, to.cardholder)) ?? (await sitesRefusal(services, to.role, to.sites));
  if (why) return refused(why);
  if (to.role !== "administrator" && (await isLastAdministrator(services, id))) return refused("last-administrator");
  return (await services.accounts.change(id, to, account, services.now())) ? { outcome: "done" } : refused("cardholder-taken");
}

/** Ends an account, or takes its end back. Nobody ends their own, nor the only administrator. */
export async function endAccount(services: Services, account: Account, id: number, isEnded: boolean): Promise<AccountOutcome> {
  demand(account, "keep-accounts");
  if (isEnded && id === account.id) return refused("yourself");
  if (isEnded && (await isLastAdministrator(services, id))) return refused("last-administrator");
  return (await services.accounts.end(id, isEnded, account, services.now())) ? { outcome: "done" } : refused("not-there");
}

/** Takes password and second factor away, ends all sessions, and gives a link by which a new password is set. */
export async function resetAccount(services: Services, account: Account, id: number): Promise<AccountOutcome> {
  demand(account, "keep-accounts");
  if (id === account.id) return refused("yourself");
  if (!(await services.accounts.reset(id, account, services.now()))) return refused("not-there");
  return { outcome: "done", link: await linkFor(services, id) };
}

/** Says whether a role needs a second factor. */
export async function askSecondFactor(services: Services, account: Account, role: Role, isAsked: boolean): Promise<void> {
  demand(account, "keep-accounts");
  await services.accounts.askSecondFactor(role, isAsked, account, services.now());
}

/** A certifier of a round who had no account, and what became of that. */
export interface MadeAccount {
  readonly name: string;
  readonly signIn: string;
  readonly email: string | undefined;
  readonly link: string;
}

/** A sign-in name of a certifier: their address, else their name and id in small letters. */
const signInOf = (name: string, id: string, email: string | undefined): string =>
  email ??
  `${name} ${id}`
    .normalize("NFD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ".")
    .replace(/^\.|\.$/g, "")
    .slice(0, 128);

/** Makes accounts for all certifiers of a round that have none, each with a link that signs in once. */
export async function makeCertifierAccounts(services: Services, account: Account, roundId: number): Promise<readonly MadeAccount[] | undefined> {
  demand(account, "keep-accounts");
  const round = await services.rounds.byId(roundId);
  const register = round && (await openRegister(services, round.snapshot));
  if (!round || !register) return undefined;
  const { facility, cardholderById } = register.compiled;
  const owners = new Set(facility.areas.flatMap(({ owner }) => owner ?? []));
  const managers = new Set([...facility.groups.flatMap(({ manager }) => manager ?? []), ...facility.cardholders.flatMap(({ manager }) => manager ?? [])]);
  const made: MadeAccount[] = [];
  const asked = new Set<string>();
  for (const { certifier, account: own, closedAt, signedAt } of await services.rounds.dockets({ round: roundId })) {
    if (certifier === undefined || own !== undefined || (closedAt ?? signedAt) !== undefined || asked.has(certifier)) continue;
    asked.add(certifier);
    const holder = facility.cardholders[cardholderById.get(certifier) ?? -1];
    if (!holder) continue;
    const role: Role = managers.has(certifier) || !owners.has(certifier) ? "manager" : "owner";
    const email = holder.email === undefined || holder.email === "" ? undefined : holder.email;
    for (const signIn of [signInOf(holder.name, certifier, email), signInOf(holder.name, certifier, undefined)]) {
      const at = services.now();
      const added = await services.accounts.add({ signIn, name: holder.name, role, cardholder: certifier, passwordHash: "", email }, account, at);
      const there = added === "added" ? await services.accounts.bySignIn(signIn) : undefined;
      if (!there) continue;
      made.push({ name: holder.name, signIn, email, link: await linkFor(services, there.id, "/docket") });
      break;
    }
  }
  return made;
}
