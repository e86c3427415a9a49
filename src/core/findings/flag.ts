import type { EpochMinute } from "../time/instant";
import type { Proofs, RuleKey } from "./proofs";

export type SubjectKind = "cardholder" | "credential" | "door" | "area" | "level" | "bundle" | "group" | "schedule" | "calendar" | "grant" | "site";

export interface Subject {
  readonly kind: SubjectKind;
  readonly id: string;
}

/** The proof of a finding: ids, minutes and dates as texts, all else whole numbers. */
export type ProofData = Readonly<Partial<Record<string, string | number | readonly string[]>>>;

/** One thing that breaks a rule. */
export interface Flag<Proof extends object = ProofData> {
  readonly subject: Subject;
  /** Tells several findings of one rule on one subject apart; part of the fingerprint. */
  readonly distinct?: readonly string[];
  readonly proof: Proof;
  /** Since when it stands, if known; beyond what can be written too. */
  readonly since?: EpochMinute | undefined;
}

/** One thing that breaks a certain rule. */
export type FlagOf<Key extends RuleKey> = Flag<Proofs[Key]>;

/** A subject of which a rule cannot tell, and the sites for want of whose events, with the days that would have to be covered there. */
export interface Untold {
  readonly id: string;
  readonly sites?: readonly (readonly [site: string, days: number])[];
}

export interface Found<Proof extends object = ProofData> {
  /** To be gone through once: of a large register there are millions. */
  readonly flags: Iterable<Flag<Proof>>;
  readonly untold?: readonly Untold[];
  /** What the rule was not given, where it can say nothing at all without. */
  readonly without?: "documents" | "decisions";
}
