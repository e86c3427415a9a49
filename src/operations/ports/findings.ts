import type { CannotTell, Finding, Findings, RuleKey } from "@/core/findings/finding";

/** A finding as it is kept. One that was made before findings were kept as facts has its words of then. */
export type StoredFinding = Finding & {
  readonly position: number;
  readonly written?: WrittenFinding;
};

/** The words of a finding as they were written when it was made. */
export interface WrittenFinding {
  readonly sentence: string;
  readonly remedy: string;
  readonly proof: Readonly<Record<string, string | number | readonly string[]>>;
  readonly terms: readonly { readonly what: string; readonly points: number }[];
}

/** How many findings there are, by rule and altogether, and what could not be judged. */
export interface FindingCounts {
  readonly byRule: Readonly<Partial<Record<RuleKey, number>>>;
  readonly total: number;
  readonly cannotTell: readonly CannotTell[];
}

export interface FindingStore {
  readonly put: (snapshot: number, findings: Findings, at: string) => Promise<void>;
  readonly isMade: (snapshot: number) => Promise<boolean>;
  /** The riskiest first: all, those of a rule, or those that are about any of some cardholders and their cards, or about any of some credentials. */
  readonly page: (
    snapshot: number,
    filter: { readonly rule?: RuleKey; readonly cardholders?: readonly string[]; readonly credentials?: readonly string[] },
    limit: number,
  ) => Promise<StoredFinding[]>;
  /** How much speaks against each holder at most, by kind and id; an item for each of whom anything does. */
  readonly risks: (snapshot: number) => Promise<ReadonlyMap<string, number>>;
  readonly byFingerprint: (snapshot: number, fingerprint: string) => Promise<StoredFinding | undefined>;
  readonly counts: (snapshot: number) => Promise<FindingCounts>;
}
