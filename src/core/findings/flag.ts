import type { EpochMinute } from "../time/instant";
import type { Proofs, RuleKey } from "./proofs";

export const subjectKinds = [
  "cardholder",
  "credential",
  "door",
  "area",
  "level",
  "bundle",
  "group",
  "schedule",
  "calendar",
  "grant",
  "site",
] as const;

export type SubjectKind = (typeof subjectKinds)[number];

export interface Subject {
  readonly kind: SubjectKind;
  readonly id: string;
}

/** The proof of a finding: ids, minutes and dates as texts, all else whole numbers. */
export type ProofData = Readonly<Partial<Record<string, string | number | readonly string[]>>>;

/** One thing that breaks a rule. */
export interface Flag<Proof extends object = ProofData> {
  /** One object for all flags of it that follow one another: it is weighed once. */
  readonly subject: Subject;
  /** Tells several findings of one rule on one subject apart; part of the fingerprint. */
  readonly distinct?: readonly string[];
  readonly proof: Proof;
  /** Since when it stands, if known; beyond what can be written too. */
  readonly since?: EpochMinute | undefined;
}

/** One thing that breaks a certain rule. */
export type FlagOf<Key extends RuleKey> = Flag<Proofs[Key]>;

/** Flags that are made while they are gone through, so that millions of them are never held at once. */
export const lazily = <One>(make: () => Generator<One>): Iterable<One> => ({ [Symbol.iterator]: make });

/** A subject of which a rule cannot tell, and the sites for want of whose events, with the days that would have to be covered there. */
export interface Untold {
  readonly id: string;
  readonly sites?: readonly (readonly [site: string, days: number])[];
}

/** Says that it cannot be told of a subject for want of some sites, once; `told` are the lists of sites that were said of this subject already. */
export function tellOnce(untold: Untold[], told: Set<Untold["sites"]>, id: string, sites: Untold["sites"]): void {
  if (told.has(sites)) return;
  told.add(sites);
  untold.push({ id, ...(sites && { sites }) });
}

export interface Found<Proof extends object = ProofData> {
  /** To be gone through once: of a large register there are millions. */
  readonly flags: Iterable<Flag<Proof>>;
  /** Complete once the flags were gone through. */
  readonly untold?: readonly Untold[];
  /** What the rule was not given, where it can say nothing at all without. */
  readonly without?: "documents" | "decisions";
}
