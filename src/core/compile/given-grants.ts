import { present } from "../kernel/invariant";
import type { PositionIndex } from "../kernel/position-index";
import { positionsOf } from "../kernel/position-index";
import type { Grant } from "../facility/draft";
import type { Facility } from "../facility/facility";

/** Grants by whom they are given to, as chains in the order of the document: the first of each receiver, and the one after grant g; -1 ends. */
export interface GivenGrants {
  readonly toCardholder: Int32Array;
  readonly toGroup: Int32Array;
  readonly toCredential: Int32Array;
  readonly next: Int32Array;
}

/** Cost: one look-up for each grant; a walk along the credentials where grants are given to some, which are few if any. */
export function givenGrants({ grants, cardholders, groups, credentials }: Facility, cardholderById: PositionIndex, groupById: PositionIndex): GivenGrants {
  const toCardholder = new Int32Array(cardholders.length).fill(-1);
  const toGroup = new Int32Array(groups.length).fill(-1);
  const toCredential = new Int32Array(credentials.length).fill(-1);
  const carried = new Set<string>();
  for (const { to } of grants) if (to.credential !== undefined) carried.add(to.credential);
  const credentialById = positionsOf(carried, credentials);
  const next = new Int32Array(grants.length);
  // From the last to the first, so that each chain runs in the order of the document.
  for (let g = grants.length - 1; g >= 0; g--) {
    const { cardholder, group, credential } = (grants[g] as Grant).to;
    const [first, position] =
      cardholder !== undefined ? [toCardholder, cardholderById.get(cardholder)] : group !== undefined ? [toGroup, groupById.get(group)] : [toCredential, credentialById.get(credential ?? "")];
    const at = present(position, "references resolve");
    next[g] = first[at] as number;
    first[at] = g;
  }
  return { toCardholder, toGroup, toCredential, next };
}
