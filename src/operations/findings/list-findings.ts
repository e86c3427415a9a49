import { namesSpokenOf } from "@/core/findings/about";
import type { RuleKey } from "@/core/findings/finding";
import { credentialLabel } from "@/core/facility/labels";
import type { OpenRegister } from "../register/open-register";
import type { FindingCounts, StoredFinding } from "../ports/findings";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";

/** A finding with the names of what it is about. */
export type NamedFinding = StoredFinding & {
  readonly about: string;
  /** Words for the card that it is about, where it is about one. */
  readonly card: string | undefined;
  /** What it speaks of beside, by `spokenKey`. */
  readonly names: Readonly<Record<string, string>>;
};

export interface FindingsPage {
  readonly counts: FindingCounts;
  readonly findings: readonly NamedFinding[];
}

const findingsListed = 300;

/** The findings of a register by risk, those of one rule or of all, with names. */
export async function listFindings(
  services: Services,
  account: Account,
  { snapshot, compiled }: OpenRegister,
  rule: RuleKey | undefined,
): Promise<FindingsPage> {
  demand(account, "read-findings");
  const { facility, cardholderById, credentialById } = compiled;
  const [page, counts] = await Promise.all([
    services.findings.page(snapshot.id, rule === undefined ? {} : { rule }, findingsListed),
    services.findings.counts(snapshot.id),
  ]);
  const nameOf = (cardholder: string | undefined) => facility.cardholders[cardholderById.get(cardholder ?? "") ?? -1]?.name;
  const cardOf = (id: string) => {
    const credential = facility.credentials[credentialById.get(id) ?? -1];
    return credential ? credentialLabel(credential) : id;
  };
  return {
    counts,
    findings: page.map((finding) => ({
      ...finding,
      about: nameOf(finding.cardholder) ?? (finding.subject.kind === "credential" ? cardOf(finding.subject.id) : finding.subject.id),
      card: finding.subject.kind === "credential" ? cardOf(finding.subject.id) : undefined,
      names: namesSpokenOf(compiled, finding),
    })),
  };
}
