import type { Account, Role } from "./ports/accounts";

/** What a person may do, and which roles may. Certifiers see their dockets and nothing else. */
const rights = {
  "take-in": ["administrator", "reviewer"],
  "read-register": ["administrator", "reviewer", "auditor"],
  /** What speaks of all sites together: events, comparisons, drafts, sources, whole documents and packs. */
  "read-whole": ["administrator", "reviewer", "auditor"],
  "edit-drafts": ["administrator", "reviewer"],
  ask: ["administrator", "reviewer", "auditor"],
  "read-findings": ["administrator", "reviewer", "auditor"],
  /** What Nomade owns of buildings: pictures, and where doors stand on them. */
  "keep-plans": ["administrator", "reviewer"],
  /** Where units at the doors are and by what token they answer; and what is done at them. */
  "keep-units": ["administrator"],
  "tend-units": ["administrator", "reviewer"],
  triage: ["administrator", "reviewer"],
  "set-rules": ["administrator", "reviewer"],
  "run-rounds": ["administrator", "reviewer"],
  "read-rounds": ["administrator", "reviewer", "auditor"],
  "see-dockets": ["administrator", "reviewer", "auditor", "manager", "owner"],
  certify: ["manager", "owner", "reviewer", "administrator"],
  "keep-accounts": ["administrator"],
  "read-record": ["administrator", "reviewer", "auditor"],
} as const satisfies Readonly<Record<string, readonly Role[]>>;

export type Right = keyof typeof rights;

/** What is left of their role's rights to who is limited to some sites: what is answered of these alone. */
const limitedRights: ReadonlySet<Right> = new Set(["read-register", "ask", "read-rounds", "see-dockets", "certify"]);

export const may = (account: Pick<Account, "role" | "sites">, right: Right): boolean =>
  (rights[right] as readonly Role[]).includes(account.role) && (account.sites === undefined || limitedRights.has(right));

/** Whether somebody may see a round: who is limited to some sites sees those that were opened for none but these. */
export const seesRound = (
  { sites }: Pick<Account, "sites">,
  { terms }: { readonly terms: { readonly scope: { readonly sites?: readonly string[] | undefined } } },
): boolean =>
  sites === undefined || (terms.scope.sites !== undefined && terms.scope.sites.length > 0 && terms.scope.sites.every((site) => sites.includes(site)));

/** Thrown where a right is missing; the pages turn it into "not found", so that nothing is told. */
export class NotAllowed extends Error {
  /** It stays with the error on its way between threads. */
  override readonly name = "NotAllowed";

  constructor(right: Right) {
    super(`This account may not ${right}.`);
  }
}

/** Every operation that needs a right begins with this. */
export function demand(account: Account, right: Right): void {
  if (!may(account, right)) throw new NotAllowed(right);
}
