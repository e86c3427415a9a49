import type { Found } from "./flag";
import type { Judged } from "./judged";
import type { Proofs, RuleKey } from "./proofs";

export type Parameters = Readonly<Record<string, number>>;

/** One rule of the catalogue: pure, over what is judged; in codes and facts. */
export interface Rule<Key extends RuleKey = RuleKey, P extends Parameters = Parameters> {
  readonly key: Key;
  /** Points that every finding of the rule has before anything is added. */
  readonly base: number;
  /** Where the rule comes from; every standard is cited from memory. */
  readonly source: string;
  readonly parameters: P;
  readonly find: (judged: Judged, parameters: P) => Found<Proofs[Key]>;
}

/** A rule with its key and parameters inferred: it proves what is said of its key. */
export const rule = <const Key extends RuleKey, P extends Parameters>(one: Rule<Key, P>): Rule<Key, P> => one;

/** Standards, cited from memory; CP is common practice with no source. */
export const standards = {
  pci: (clauses: string): string => `PCI DSS v4.0.1 ${clauses} (cited from memory)`,
  nist: (clauses: string): string => `NIST SP 800-53 r5 ${clauses} (cited from memory)`,
  iso: (clauses: string): string => `ISO/IEC 27002:2022 ${clauses} (cited from memory)`,
  cip: (clauses: string): string => `NERC CIP-004-7 ${clauses} (cited from memory)`,
  rbac: (clauses: string): string => `ANSI/INCITS 359-2012 ${clauses} (cited from memory)`,
  practice: "common practice, no source",
} as const;

export const sources = (...all: readonly string[]): string => all.join("; ");
