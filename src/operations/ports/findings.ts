import type { CannotTell, Finding, Findings } from "@/core/findings/finding";

export interface StoredFinding extends Finding {
  readonly position: number;
}

/** How many findings there are, by rule and altogether, and what could not be judged. */
export interface FindingCounts {
  readonly byRule: Readonly<Record<string, number>>;
  readonly total: number;
  readonly cannotTell: readonly CannotTell[];
}

export interface FindingStore {
  readonly put: (snapshot: number, findings: Findings, at: string) => Promise<void>;
  readonly isMade: (snapshot: number) => Promise<boolean>;
  /** The riskiest first: all, those of a rule, or those that are about any of some cardholders and their cards, or about any of some credentials. */
  readonly page: (snapshot: number, filter: { readonly rule?: string; readonly cardholders?: readonly string[]; readonly credentials?: readonly string[] }, limit: number) => Promise<StoredFinding[]>;
  readonly byFingerprint: (snapshot: number, fingerprint: string) => Promise<StoredFinding | undefined>;
  readonly counts: (snapshot: number) => Promise<FindingCounts>;
}
