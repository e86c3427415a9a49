import type { GrantChains } from "./grant-chains";
import type { ObjectColumns } from "./object-facts";
import type { Position } from "./position-index";

/** Memberships by cardholder, as chains in the order of the document: the first of each cardholder, and the one after membership m; -1 ends. */
export interface MembershipChains {
  readonly ofCardholder: Int32Array;
  readonly next: Int32Array;
}

/** Credentials by cardholder: those of cardholder i are the positions from index `start[i]` to `start[i + 1]` of `positions`. */
export interface CredentialsByHolder {
  readonly start: Int32Array;
  readonly positions: Int32Array;
}

/** What belongs to whom. */
export interface Holdings {
  readonly grants: GrantChains;
  readonly memberships: MembershipChains;
  readonly credentials: CredentialsByHolder;
}

export function membershipChains({ memberships: { memberOf }, holders }: ObjectColumns): MembershipChains {
  const ofCardholder = new Int32Array(holders.department.length).fill(-1);
  const next = new Int32Array(memberOf.length);
  // From the last to the first, so that each cardholder's chain runs in the order of the document.
  for (let m = memberOf.length - 1; m >= 0; m--) {
    const holder = memberOf[m] as Position;
    next[m] = ofCardholder[holder] as number;
    ofCardholder[holder] = m;
  }
  return { ofCardholder, next };
}

/** Those of a facility compiled before, with what its objects said. */
interface Before {
  readonly columns: ObjectColumns;
  readonly credentialsByHolder: CredentialsByHolder;
}

export function credentialsByHolder({ cards: { holderOf }, holders }: ObjectColumns, before: Before | undefined): CredentialsByHolder {
  if (before?.columns.cards.holderOf === holderOf) return before.credentialsByHolder;
  const cardholders = holders.department.length;
  const start = new Int32Array(cardholders + 1);
  for (let i = 0; i < holderOf.length; i++) {
    const holder = holderOf[i] as Position;
    if (holder !== -1) start[holder + 1] = (start[holder + 1] as number) + 1;
  }
  for (let i = 0; i < cardholders; i++) start[i + 1] = (start[i + 1] as number) + (start[i] as number);
  const positions = new Int32Array(start[cardholders] as number);
  const next = start.slice();
  for (let i = 0; i < holderOf.length; i++) {
    const holder = holderOf[i] as Position;
    if (holder === -1) continue;
    positions[next[holder] as number] = i;
    next[holder] = (next[holder] as number) + 1;
  }
  return { start, positions };
}

/** The credentials of a cardholder, by position: a look into the column, not a copy. */
export const credentialsOf = ({ credentials: { start, positions } }: Holdings, cardholder: Position): Int32Array =>
  positions.subarray(start[cardholder], start[cardholder + 1]);
