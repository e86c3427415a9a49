import type { Account, Role } from "./ports/accounts";

/** What a person may do, and which roles may. Certifiers see their dockets and nothing else. */
const rights = {
  "take-in": ["administrator", "reviewer"],
  "read-register": ["administrator", "reviewer", "auditor"],
  "edit-drafts": ["administrator", "reviewer"],
  ask: ["administrator", "reviewer", "auditor"],
  "read-findings": ["administrator", "reviewer", "auditor"],
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

export const may = (account: Account, right: Right): boolean => (rights[right] as readonly Role[]).includes(account.role);

/** Thrown where a right is missing; the pages turn it into "not found", so that nothing is told. */
export class NotAllowed extends Error {
  constructor(right: Right) {
    super(`This account may not ${right}.`);
  }
}

/** Every operation that needs a right begins with this. */
export function demand(account: Account, right: Right): void {
  if (!may(account, right)) throw new NotAllowed(right);
}
