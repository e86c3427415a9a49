import type { GrantFacts } from "./object-facts";

/** Grants by whom they are given to, as chains in the order of the document: the first of each receiver, and the one after grant g; -1 ends. */
export interface GrantChains {
  readonly ofCardholder: Int32Array;
  readonly ofGroup: Int32Array;
  readonly ofCredential: Int32Array;
  readonly next: Int32Array;
}

export function grantChains(
  { toCardholder, toGroup, toCredential }: GrantFacts,
  counts: { readonly cardholders: number; readonly groups: number; readonly credentials: number },
): GrantChains {
  const ofCardholder = new Int32Array(counts.cardholders).fill(-1);
  const ofGroup = new Int32Array(counts.groups).fill(-1);
  const ofCredential = new Int32Array(counts.credentials).fill(-1);
  const next = new Int32Array(toGroup.length);
  // From the last to the first, so that each chain runs in the order of the document.
  for (let g = next.length - 1; g >= 0; g--) {
    const first = toCardholder[g] !== -1 ? ofCardholder : toGroup[g] !== -1 ? ofGroup : ofCredential;
    const receiver = (toCardholder[g] !== -1 ? toCardholder[g] : toGroup[g] !== -1 ? toGroup[g] : toCredential[g]) as number;
    next[g] = first[receiver] as number;
    first[receiver] = g;
  }
  return { ofCardholder, ofGroup, ofCredential, next };
}
