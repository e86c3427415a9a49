/** What a finding of a snapshot is, by those before: new, in the one before as well, or come back. Source: `findings.md`, 4. */
export type Life = "new" | "still" | "back";

/** An earlier looking for findings, as the life of one finding sees it. */
export interface EarlierLook {
  readonly snapshot: number;
  /** Whether its rule could tell of its subject then. */
  readonly couldTell: boolean;
}

/**
 * The life of a finding by the snapshots before, the latest first, and those in which it was found. A snapshot in which its rule could not tell of its
 * subject is passed over.
 */
export function lifeOf(earlier: Iterable<EarlierLook>, foundIn: ReadonlySet<number>): Life {
  let isLast = true;
  for (const { snapshot, couldTell } of earlier) {
    if (!couldTell) continue;
    if (foundIn.has(snapshot)) return isLast ? "still" : "back";
    isLast = false;
  }
  return "new";
}
