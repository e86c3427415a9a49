import type { EpochMinute } from "../time/instant";
import type { Subject, SubjectKind } from "./flag";
import type { Proofs, RuleKey } from "./proofs";

export type { RuleKey, SubjectKind };

/** What is told beside a proof, so that people can be told in full; it is no part of what is proved. */
interface Beside {
  readonly "leaver-live": { readonly leftBy?: "status" | "end" };
  readonly unused: { readonly coveredDays: number };
  /** Whether the holder passes everywhere. */
  readonly "around-the-clock": { readonly override: boolean };
}

/** What is known of a finding of a rule: what it proves, and what is told beside. */
export type Told<K extends RuleKey> = Proofs[K] & (K extends keyof Beside ? Beside[K] : unknown);

/** Of these it cannot be told of what is added only: that it was not used says nothing. */
export const rulesOfUse: ReadonlySet<RuleKey> = new Set<RuleKey>(["unused", "never-used"]);

/** One term of the sum that a risk is: its points, and what they are for. Sensitivity 0 to 3, percent of the week's minutes, hours a week, days. */
export interface RiskTerm {
  readonly term: "base" | "sensitivity" | "outOfHours" | "weeklyHours" | "standing";
  readonly points: number;
  readonly of: number;
}

interface OfRule<K extends RuleKey> {
  readonly rule: K;
  readonly subject: Subject;
  /** The cardholder concerned, if there is one. */
  readonly cardholder?: string;
  /** Tells several findings of one rule on one subject apart; part of the fingerprint. */
  readonly distinct: readonly string[];
  readonly proof: Told<K>;
  /** Since when it stands, if known. */
  readonly since?: EpochMinute;
}

/** What a finding of a rule says, without how much it weighs. */
export type FactsOf<K extends RuleKey> = Pick<OfRule<K>, "rule" | "subject" | "distinct" | "proof">;

export type FindingFacts = { [K in RuleKey]: FactsOf<K> }[RuleKey];

export type Finding = {
  [K in RuleKey]: OfRule<K> & {
    /** The same finding bears the same one in every snapshot. */
    readonly fingerprint: string;
    readonly risk: number;
    readonly terms: readonly RiskTerm[];
  };
}[RuleKey];

/**
 * What a rule could not tell, said instead of guessed: of which subjects, and of how many dates the events cover how many where they cover least. `without`
 * is what it was not given at all.
 */
export interface CannotTell {
  readonly rule: RuleKey;
  readonly concerned: number;
  readonly covered: number;
  readonly days: number;
  readonly without?: "documents" | "decisions";
  /** The sites for want of whose events it could not be told; few. */
  readonly sites: readonly string[];
  /** Ids of the subjects, each once. */
  readonly subjects: readonly string[];
}

export interface Findings {
  /** The riskiest first; ties by fingerprint. Of a rule that finds more than can be looked through, the riskiest only. */
  readonly findings: readonly Finding[];
  readonly cannotTell: readonly CannotTell[];
  /** How many there are of each rule that was judged, also of those that are not kept. */
  readonly totals: ReadonlyMap<RuleKey, number>;
}
