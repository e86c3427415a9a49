import { credentialLabel } from "../facility/labels";
import type { HolderId } from "../facility/holder-id";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Finding, FindingFacts } from "./finding";
import type { Subject, SubjectKind } from "./flag";
import type { RuleKey } from "./proofs";

/** An object that a finding speaks of beside its subject. */
export type SpokenOf = Subject;

/** Of what kind the ids in a proof are, by their names there. */
const kindOfProof: Readonly<Record<string, SubjectKind>> = {
  credentials: "credential",
  among: "cardholder",
  doors: "door",
  unused: "door",
  a: "door",
  b: "door",
  areas: "area",
  grants: "grant",
  cardholders: "cardholder",
  by: "cardholder",
  sites: "site",
  department: "group",
  from: "area",
  door: "door",
  otherDoor: "door",
};

/** What tells findings of a rule apart, where that is an object: its kind, or what the first text says of the others. */
const kindOfDistinct: Partial<Record<RuleKey, SubjectKind | ((first: string) => SubjectKind | undefined)>> = {
  "mover-kept": "group",
  "not-certified": "area",
  "not-authorised": () => "group",
  "around-the-clock": "area",
  "out-of-hours": "area",
  "unlike-peers": "area",
  "right-unused": (first) => (first === "level" ? "level" : "grant"),
  "by-exception": "grant",
  "hidden-path": "door",
  "twice-given": "credential",
  "stranded-right": "door",
  "not-at-door": "credential",
  "opened-against-record": "credential",
  "refused-against-record": "credential",
  "two-places": (first) => (first === "sites" ? "site" : "area"),
  "let-in": "door",
};

/** What a finding is told apart by, as objects. */
function spokenInDistinct({ rule, distinct }: FindingFacts): readonly SpokenOf[] {
  const kind = kindOfDistinct[rule];
  if (kind === undefined) return [];
  if (typeof kind === "string") return distinct.map((id) => ({ kind, id }));
  const [first = "", ...ids] = distinct;
  const said = kind(first);
  return said === undefined ? [] : ids.map((id) => ({ kind: said, id }));
}

/** Proofs in which a name means something else than usual. */
const isNoObject = (rule: RuleKey, name: string): boolean =>
  (name === "from" && rule !== "stranded-right") || (name === "by" && rule !== "let-in") || (name === "unused" && rule !== "right-unused");

/** Of what kind the ids under a name in a rule's proof are; undefined where it holds none. */
export const kindInProof = (rule: RuleKey, name: string): SubjectKind | undefined =>
  Object.hasOwn(kindOfProof, name) && !isNoObject(rule, name) ? kindOfProof[name] : undefined;

/** Everything that a finding speaks of beside its subject, so that whoever tells it can look the names up. */
export function spokenOf(finding: FindingFacts): readonly SpokenOf[] {
  const inProof = Object.entries(finding.proof as Readonly<Record<string, unknown>>).flatMap(([name, value]): SpokenOf[] => {
    const kind = kindInProof(finding.rule, name);
    if (kind === undefined) return [];
    const ids = Array.isArray(value) ? (value as readonly string[]) : typeof value === "string" ? [value] : [];
    return ids.map((id) => ({ kind, id }));
  });
  return [...spokenInDistinct(finding), ...inProof];
}

const of = (spoken: readonly SpokenOf[], kind: SubjectKind): string[] => spoken.flatMap((one) => (one.kind === kind ? [one.id] : []));

/** The areas that a finding is told apart by; none where it speaks of a person or a card as such. */
export const areasOf = (finding: FindingFacts): string[] => of(spokenInDistinct(finding), "area");
export const credentialsOfFinding = (finding: FindingFacts): string[] => of(spokenOf(finding), "credential");
/** The doors that a finding speaks of. */
export const doorsOfFinding = (finding: FindingFacts): string[] => of(spokenOf(finding), "door");

/** Whether a finding is about a credential: it names it as its subject or in its proof, as of a leaver whose card still opens. */
export const concernsCredential = (finding: FindingFacts, credential: string): boolean =>
  (finding.subject.kind === "credential" && finding.subject.id === credential) || credentialsOfFinding(finding).includes(credential);

/** What a finding says, without what is told of it beside. */
export const factsOf = ({ rule, subject, distinct, proof }: Finding): FindingFacts => ({ rule, subject, distinct, proof }) as FindingFacts;

/** Under which the name of an object is kept beside a finding. */
export const spokenKey = ({ kind, id }: SpokenOf): string => `${kind} ${id}`;

const listOf = {
  area: "areas",
  door: "doors",
  level: "levels",
  bundle: "bundles",
  group: "groups",
  schedule: "schedules",
  calendar: "calendars",
  site: "sites",
  cardholder: "cardholders",
} as const;

/** What an object is called; undefined for one that is not in the register, or has no name. */
export function nameOfSpoken({ facility, indexes, credentialById }: CompiledFacility, { kind, id }: SpokenOf): string | undefined {
  if (kind === "grant") return undefined;
  if (kind === "credential") {
    const credential = facility.credentials[credentialById.get(id) ?? -1];
    return credential && credentialLabel(credential);
  }
  const list = listOf[kind];
  return facility[list][indexes.of(list).get(id) ?? -1]?.name;
}

/** The names of what findings speak of, and of what they are about, by `spokenKey`; what is not in the register has none. */
export function namesSpokenOf(compiled: CompiledFacility, ...findings: readonly FindingFacts[]): Record<string, string> {
  const names: Record<string, string> = {};
  for (const finding of findings)
    for (const spoken of [finding.subject, ...spokenOf(finding)]) {
      const key = spokenKey(spoken);
      if (key in names) continue;
      const name = nameOfSpoken(compiled, spoken);
      if (name !== undefined) names[key] = name;
    }
  return names;
}

/** Whom a finding is about; undefined where it is about no person and no card. */
export function holderOfFinding({ subject, cardholder }: Pick<Finding, "subject" | "cardholder">): HolderId | undefined {
  if (cardholder !== undefined) return { kind: "cardholder", id: cardholder };
  return subject.kind === "cardholder" || subject.kind === "credential" ? { kind: subject.kind, id: subject.id } : undefined;
}
