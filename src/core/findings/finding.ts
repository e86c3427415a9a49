import type { Cardholder } from "../facility/document";
import type { EpochMinute } from "../time/instant";
import type { SubjectKind } from "./flag";

export type { SubjectKind };

/** What the rules that are shown prove, with what is told beside. Lists are of ids, minutes are texts of UTC, dates `YYYY-MM-DD`. */
export interface Proofs {
  readonly "leaver-live": {
    readonly status: Cardholder["status"];
    readonly left?: string;
    readonly leftBy?: "status" | "end";
    readonly credentials: readonly string[];
  };
  readonly "expired-active": { readonly end: string; readonly by: "until" | "expiry" };
  readonly unused: { readonly days: number; readonly lastUse?: string; readonly coveredDays: number };
  /** `week` is the Monday of the first whole week; `override`: the holder passes everywhere. */
  readonly "around-the-clock": { readonly sensitivity: number; readonly week: string; readonly doors: readonly string[]; readonly override: boolean };
}

/** The rules whose findings are looked for in a register and shown: those that have their words. */
export type RuleKey = keyof Proofs;

/** In the order in which they are listed. */
export const shownRules: readonly RuleKey[] = ["leaver-live", "expired-active", "unused", "around-the-clock"];

/** Of these it cannot be told of what is added only: that it was not used says nothing. */
export const rulesOfUse: ReadonlySet<RuleKey> = new Set<RuleKey>(["unused"]);

export const isRuleKey = (key: string): key is RuleKey => (shownRules as readonly string[]).includes(key);

/** One term of the sum that a risk is: its points, and what they are for. Sensitivity 0 to 3, percent of the week's minutes, hours a week, days. */
export interface RiskTerm {
  readonly term: "base" | "sensitivity" | "outOfHours" | "weeklyHours" | "standing";
  readonly points: number;
  readonly of: number;
}

interface OfRule<K extends RuleKey> {
  readonly rule: K;
  readonly subject: { readonly kind: SubjectKind; readonly id: string };
  /** The cardholder concerned, if there is one. */
  readonly cardholder?: string;
  /** Tells several findings of one rule on one subject apart; part of the fingerprint. */
  readonly distinct: readonly string[];
  readonly proof: Proofs[K];
  /** Since when it stands, if known. */
  readonly since?: EpochMinute;
}

/** What a finding says, without how much it weighs. */
export type FindingFacts = { [K in RuleKey]: Pick<OfRule<K>, "rule" | "subject" | "distinct" | "proof"> }[RuleKey];

export type Finding = {
  [K in RuleKey]: OfRule<K> & {
    /** The same finding bears the same one in every snapshot. */
    readonly fingerprint: string;
    readonly risk: number;
    readonly terms: readonly RiskTerm[];
  };
}[RuleKey];

/** What a rule could not tell, said instead of guessed: of how many subjects, and of how many dates the events cover how many where they cover least. */
export interface CannotTell {
  readonly rule: RuleKey;
  readonly concerned: number;
  readonly covered: number;
  readonly days: number;
}

export interface Findings {
  /** The riskiest first; ties by fingerprint. */
  readonly findings: readonly Finding[];
  readonly cannotTell: readonly CannotTell[];
}
