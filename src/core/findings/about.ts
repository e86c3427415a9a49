import { unreachable } from "../kernel/invariant";
import { credentialLabel } from "../facility/labels";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Finding, FindingFacts } from "./finding";

/** An object that a finding speaks of beside its subject. */
export interface SpokenOf {
  readonly kind: "area" | "door" | "credential";
  readonly id: string;
}

/** Everything that a finding speaks of beside its subject, so that whoever tells it can look the names up. */
export function spokenOf(finding: FindingFacts): readonly SpokenOf[] {
  switch (finding.rule) {
    case "leaver-live":
      return finding.proof.credentials.map((id) => ({ kind: "credential", id }));
    case "around-the-clock":
      return [...finding.distinct.map((id): SpokenOf => ({ kind: "area", id })), ...finding.proof.doors.map((id): SpokenOf => ({ kind: "door", id }))];
    case "expired-active":
    case "unused":
      return [];
    default:
      return unreachable(finding);
  }
}

const of = (finding: FindingFacts, kind: SpokenOf["kind"]): string[] => spokenOf(finding).flatMap((one) => (one.kind === kind ? [one.id] : []));

/** The areas that a finding speaks of; none where it speaks of a person or a card as such. */
export const areasOf = (finding: FindingFacts): string[] => of(finding, "area");
export const credentialsOfFinding = (finding: FindingFacts): string[] => of(finding, "credential");

/** Whether a finding is about a credential: it names it as its subject or in its proof, as of a leaver whose card still opens. */
export const concernsCredential = (finding: FindingFacts, credential: string): boolean =>
  (finding.subject.kind === "credential" && finding.subject.id === credential) || credentialsOfFinding(finding).includes(credential);

/** What a finding says, without what is told of it beside. */
export const factsOf = ({ rule, subject, distinct, proof }: Finding): FindingFacts => ({ rule, subject, distinct, proof }) as FindingFacts;

/** Under which the name of an object is kept beside a finding. */
export const spokenKey = ({ kind, id }: SpokenOf): string => `${kind} ${id}`;

/** The names of what findings speak of, by `spokenKey`; what is not in the register has none. */
export function namesSpokenOf({ facility, indexes }: CompiledFacility, ...findings: readonly FindingFacts[]): Record<string, string> {
  const names: Record<string, string> = {};
  for (const spoken of findings.flatMap(spokenOf)) {
    const { kind, id } = spoken;
    const credential = kind === "credential" ? facility.credentials[indexes.of("credentials").get(id) ?? -1] : undefined;
    const name =
      kind === "area"
        ? facility.areas[indexes.of("areas").get(id) ?? -1]?.name
        : kind === "door"
          ? facility.doors[indexes.of("doors").get(id) ?? -1]?.name
          : credential && credentialLabel(credential);
    if (name !== undefined) names[spokenKey(spoken)] = name;
  }
  return names;
}
