import type { CannotTell, Finding, Findings, RuleKey } from "@/core/findings/finding";
import type { Life } from "@/core/findings/life";
import type { Waiver } from "./triage";

/** A finding as it is kept. One that was made before findings were kept as facts has its words of then. */
export type StoredFinding = Finding & {
  readonly position: number;
  /** Undefined where it is not told: of a rule that finds more than are kept. */
  readonly life?: Life;
  /** What hides it, or will once it is confirmed. */
  readonly waiver?: Waiver;
  /** Sign-in name of the one whose task it is. */
  readonly assignee?: string;
  readonly notes?: number;
  readonly written?: WrittenFinding;
};

/** The words of a finding as they were written when it was made. */
export interface WrittenFinding {
  readonly sentence: string;
  readonly remedy: string;
  readonly proof: Readonly<Record<string, string | number | readonly string[]>>;
  readonly terms: readonly { readonly what: string; readonly points: number }[];
}

/** Where a finding belongs, by which findings are put together: ids of an area, a department and the manager who certifies. */
export interface FindingPlace {
  readonly area: string | undefined;
  readonly department: string | undefined;
  readonly manager: string | undefined;
}

export type FindingGrouping = "rule" | "cardholder" | "area" | "manager" | "department";

export type Waived = "without" | "only" | "with";

/** Which findings are asked for: all that hold. */
export interface FindingFilter {
  readonly rule?: RuleKey | undefined;
  readonly life?: Life | undefined;
  /** Those about any of some cardholders and their cards, or about any of some credentials. */
  readonly cardholders?: readonly string[] | undefined;
  readonly credentials?: readonly string[] | undefined;
  /** Those about one object. */
  readonly subject?: { readonly kind: string; readonly id: string } | undefined;
  /** Those of a group; an empty key is of those that belong nowhere. */
  readonly group?: { readonly by: FindingGrouping; readonly key: string } | undefined;
  readonly assignee?: string | undefined;
  /** Without is usual: a waiver hides. */
  readonly waived?: Waived | undefined;
}

export interface FindingGroup {
  /** Empty for what belongs nowhere. */
  readonly key: string;
  readonly findings: number;
  readonly risk: number;
}

/** How many findings there are, by rule, by life and altogether, waived ones apart; and what could not be judged. */
export interface FindingCounts {
  readonly byRule: Readonly<Partial<Record<RuleKey, number>>>;
  readonly byLife: Readonly<Partial<Record<Life, number>>>;
  readonly total: number;
  readonly waived: number;
  /** Found in the snapshot before, and not in this one. */
  readonly gone: number;
  /** How many were found of rules of which more were found than are kept. */
  readonly beyond: Readonly<Partial<Record<RuleKey, number>>>;
  readonly cannotTell: readonly Omit<CannotTell, "subjects">[];
  /** The earlier snapshots that were looked back to. */
  readonly earlier: readonly number[];
}

/** Findings of a snapshot by rule, for how they went over time. */
export interface FindingTrend {
  readonly snapshot: number;
  readonly totals: Readonly<Partial<Record<RuleKey, number>>>;
}

export interface FindingStore {
  /** Keeps what was found in a snapshot, in the place of what was kept of it; `earlier` are the snapshots that were looked back to. */
  readonly put: (snapshot: number, findings: Findings, placeOf: (finding: Finding) => FindingPlace, earlier: readonly number[], at: string) => Promise<void>;
  readonly isMade: (snapshot: number) => Promise<boolean>;
  /** The riskiest first; with `newFirst` those that the snapshot before had come last. `today` decides which waivers hold. */
  readonly page: (
    snapshot: number,
    filter: FindingFilter,
    today: string,
    limit: number,
    order?: { readonly newFirst: boolean; readonly skip: number },
  ) => Promise<StoredFinding[]>;
  /** Findings put together, the groups with the riskiest first. */
  readonly groups: (snapshot: number, filter: FindingFilter, today: string, by: FindingGrouping) => Promise<FindingGroup[]>;
  readonly count: (snapshot: number, filter: FindingFilter, today: string) => Promise<number>;
  /** What an earlier snapshot had and this one has not, the riskiest first. */
  readonly gone: (snapshot: number, limit: number) => Promise<StoredFinding[]>;
  /** How much speaks against each holder at most, by kind and id; an item for each of whom anything does. */
  readonly risks: (snapshot: number) => Promise<ReadonlyMap<string, number>>;
  readonly byFingerprint: (snapshot: number, fingerprint: string) => Promise<StoredFinding | undefined>;
  readonly counts: (snapshot: number, today: string) => Promise<FindingCounts>;
  /** By snapshot, the earliest first. */
  readonly trend: () => Promise<FindingTrend[]>;
}
