import type { FactsOf, RuleKey } from "@/core/findings/finding";
import type { SubjectKind } from "@/core/findings/flag";
import { fingerprintOf } from "@/core/findings/judge";
import type { NamedFinding } from "@/operations/findings/list-findings";

/** A finding as pages are given it, about a person called Ada Tannwald. */
export const namedFinding = <K extends RuleKey>(
  rule: K,
  proof: FactsOf<K>["proof"],
  more: Partial<NamedFinding> & { readonly kind?: SubjectKind } = {},
): NamedFinding => {
  const { kind = "cardholder", ...given } = more;
  const subject = { kind, id: "p1" };
  return {
    rule,
    subject,
    ...(kind === "cardholder" && { cardholder: "p1" }),
    distinct: [],
    proof,
    fingerprint: fingerprintOf(rule, subject),
    risk: 40,
    terms: [{ term: "base", points: 40, of: 40 }],
    position: 0,
    about: "Ada Tannwald",
    card: undefined,
    names: { "cardholder p1": "Ada Tannwald" },
    ...given,
  } as unknown as NamedFinding;
};
