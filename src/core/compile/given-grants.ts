import { present } from "../kernel/invariant";
import type { PositionIndex } from "../kernel/position-index";
import type { Grant } from "../facility/draft";

/** Grants by whom they are given to, as chains in the order of the document: the first of each receiver, and the one after grant g; -1 ends. */
export interface GivenGrants {
  readonly toCardholder: Int32Array;
  readonly toGroup: Int32Array;
  readonly toCredential: Int32Array;
  readonly next: Int32Array;
}

/** Cost: one look-up for each grant. The index of credentials is only asked for where a grant is given to one. */
export function givenGrants(
  grants: readonly Grant[],
  index: { readonly cardholder: PositionIndex; readonly group: PositionIndex; readonly credential: () => PositionIndex },
  counts: { readonly cardholders: number; readonly groups: number; readonly credentials: number },
): GivenGrants {
  const toCardholder = new Int32Array(counts.cardholders).fill(-1);
  const toGroup = new Int32Array(counts.groups).fill(-1);
  const toCredential = new Int32Array(counts.credentials).fill(-1);
  const next = new Int32Array(grants.length);
  // From the last to the first, so that each chain runs in the order of the document.
  for (let g = grants.length - 1; g >= 0; g--) {
    const { cardholder, group, credential } = (grants[g] as Grant).to;
    const [first, position] =
      cardholder !== undefined ? [toCardholder, index.cardholder.get(cardholder)] : group !== undefined ? [toGroup, index.group.get(group)] : [toCredential, index.credential().get(credential ?? "")];
    const at = present(position, "references resolve");
    next[g] = first[at] as number;
    first[at] = g;
  }
  return { toCardholder, toGroup, toCredential, next };
}
