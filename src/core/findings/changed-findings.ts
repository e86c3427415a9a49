import { mostOfARule } from "./find";
import type { Finding, Findings, RuleKey } from "./finding";

/** How much a rule finds of which not all is looked through one by one. */
export interface BeyondCount {
  readonly rule: RuleKey;
  readonly was: number;
  readonly is: number;
}

export interface ChangedFindings {
  readonly come: readonly Finding[];
  readonly gone: readonly Finding[];
  /** Rules of which it is not known what comes and goes, as not all that they find is kept; only how much they find. */
  readonly beyond: readonly BeyondCount[];
}

/** Which findings come and go between two looks for them. */
export function changedFindings(was: Findings, is: Findings): ChangedFindings {
  const isBeyond = (found: Findings, rule: RuleKey): boolean => (found.totals.get(rule) ?? 0) > mostOfARule;
  const rules = [...new Set([...was.totals.keys(), ...is.totals.keys()])];
  const beyond = rules.filter((rule) => isBeyond(was, rule) || isBeyond(is, rule));
  const without = new Set(beyond);
  const notAmong = (some: Findings, others: Findings): Finding[] => {
    const known = new Set(others.findings.map(({ fingerprint }) => fingerprint));
    return some.findings.filter(({ rule, fingerprint }) => !without.has(rule) && !known.has(fingerprint));
  };
  return {
    come: notAmong(is, was),
    gone: notAmong(was, is),
    beyond: beyond.map((rule) => ({ rule, was: was.totals.get(rule) ?? 0, is: is.totals.get(rule) ?? 0 })),
  };
}
