import type { ListKey } from "../facility/document";
import { holderOfFinding } from "../findings/about";
import type { HolderId } from "../facility/holder-id";
import type { FactsOf, Finding, FindingFacts, RuleKey, SubjectKind } from "../findings/finding";

/** What somebody may want to be taken away: doors or the doors into areas from a holder, or credentials, which get a status that opens nothing. */
export type Withdrawable = { readonly holder: HolderId } & (
  | { readonly doors: readonly string[] }
  | { readonly areas: readonly string[] }
  | { readonly credentials: readonly string[]; readonly status: "returned" | "suspended" }
);

type WithoutHolder<W> = W extends { readonly holder: HolderId } ? Omit<W, "holder"> : never;

/** What of a finding of each rule is to be taken away; undefined for rules whose findings end by other changes. */
const withdrawals: { readonly [K in RuleKey]?: (finding: FactsOf<K>) => WithoutHolder<Withdrawable> } = {
  "leaver-live": ({ proof }) => ({ credentials: proof.credentials, status: "returned" }),
  "mover-kept": ({ proof }) => ({ doors: proof.doors }),
  "not-certified": ({ distinct }) => ({ areas: distinct }),
  "expired-active": ({ subject }) => ({ credentials: [subject.id], status: "returned" }),
  "spare-outstanding": ({ subject }) => ({ credentials: [subject.id], status: "returned" }),
  // What is not used is asked back only when nobody asks for it.
  unused: ({ subject }) => ({ credentials: [subject.id], status: "suspended" }),
  "never-used": ({ subject }) => ({ credentials: [subject.id], status: "suspended" }),
  "stock-active": ({ subject }) => ({ credentials: [subject.id], status: "returned" }),
  "lost-in-use": ({ subject }) => ({ credentials: [subject.id], status: "returned" }),
  waking: ({ subject }) => ({ credentials: [subject.id], status: "suspended" }),
  "around-the-clock": ({ proof }) => ({ doors: proof.doors }),
  "out-of-hours": ({ proof }) => ({ doors: proof.doors }),
  "unlike-peers": ({ distinct }) => ({ areas: distinct }),
  "right-unused": ({ proof }) => ({ doors: proof.unused }),
  "by-exception": ({ proof }) => ({ doors: proof.doors }),
  "hidden-path": ({ distinct }) => ({ doors: distinct }),
  "house-rule": ({ proof }) => ({ doors: proof.doors ?? [] }),
  "duties-conflict": ({ proof }) => ({ doors: proof.b }),
  "visitor-sensitive": ({ proof }) => ({ areas: proof.areas }),
  "stranded-right": ({ distinct }) => ({ doors: distinct }),
};

/** What would end a finding by taking something away from a holder; undefined where it ends by another change. */
export function withdrawableOf(finding: FindingFacts & Pick<Finding, "cardholder">): Withdrawable | undefined {
  const holder = holderOfFinding(finding);
  if (!holder) return undefined;
  // A finding proves what is said of its rule.
  const what = (withdrawals[finding.rule] as ((of: FindingFacts) => WithoutHolder<Withdrawable>) | undefined)?.(finding);
  return what && ({ holder, ...what } satisfies Withdrawable);
}

const listOfSubject = {
  cardholder: "cardholders",
  credential: "credentials",
  door: "doors",
  area: "areas",
  level: "levels",
  bundle: "bundles",
  group: "groups",
  schedule: "schedules",
  calendar: "calendars",
  grant: "grants",
  site: "sites",
} as const satisfies Readonly<Record<SubjectKind, ListKey>>;

/** Rules that tell what happened: no change of the register undoes it. */
const happened: ReadonlySet<RuleKey> = new Set<RuleKey>([
  // What the register says is right: it is the unit that has to hear it.
  "not-at-door",
  "removed-late",
  "opened-against-record",
  "refused-against-record",
  "tried-again",
  "unknown-tried",
  "two-places",
  "let-in",
  "dead-card-tried",
]);

/** The object whose change would end a finding where nothing is taken away; undefined where no change does. */
export function editedOf({ rule, subject, distinct }: FindingFacts): { readonly list: ListKey; readonly id: string } | undefined {
  if (happened.has(rule)) return undefined;
  if (rule === "twice-given") return { list: "credentials", id: distinct[0] ?? "" };
  return { list: listOfSubject[subject.kind], id: subject.id };
}
