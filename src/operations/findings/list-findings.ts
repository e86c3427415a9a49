import type { HolderId } from "@/core/facility/holder-id";
import { nameOfSpoken, namesSpokenOf } from "@/core/findings/about";
import type { RuleKey } from "@/core/findings/finding";
import type { Life } from "@/core/findings/life";
import type { SubjectKind } from "@/core/findings/flag";
import type { Account } from "../ports/accounts";
import type { FindingCounts, FindingFilter, FindingGroup, FindingGrouping, StoredFinding, Waived } from "../ports/findings";
import type { LineOfFinding } from "../ports/rounds";
import type { FindingNote, Waiver } from "../ports/triage";
import type { OpenRegister } from "../register/open-register";
import { demand, may } from "../rights";
import type { Services } from "../services";
import { silentDoors } from "../events/silent-doors";
import type { SilentDoor } from "../events/silent-doors";
import { todayOf } from "./today";

/** A finding with the names of what it is about. */
export type NamedFinding = StoredFinding & {
  readonly about: string;
  /** Words for the card that it is about, where it is about one of somebody's. */
  readonly card: string | undefined;
  /** What it is about and speaks of, by `spokenKey`. */
  readonly names: Readonly<Record<string, string>>;
};

/** What is asked of the list of findings. */
export interface AskedFindings {
  readonly rule?: RuleKey | undefined;
  readonly life?: Life | "gone" | undefined;
  readonly waived?: Waived | undefined;
  /** Only those that are one's own task. */
  readonly isMine?: boolean | undefined;
  readonly by?: FindingGrouping | undefined;
  /** One group; empty for what belongs nowhere. */
  readonly key?: string | undefined;
  readonly about?: { readonly kind: string; readonly id: string } | undefined;
  /** How many are passed over: the listed ones begin behind them. */
  readonly from?: number | undefined;
  /** One finding alone. */
  readonly fingerprint?: string | undefined;
}

export interface FindingsPage {
  readonly counts: FindingCounts;
  readonly findings: readonly NamedFinding[];
  /** How many there are of those that are asked for, and how many are passed over where the next ones begin. */
  readonly total: number;
  readonly next: number | undefined;
  /** The groups, where findings are put together and none of the groups is chosen. */
  readonly groups: readonly (FindingGroup & { readonly name: string })[] | undefined;
  /** What the chosen group is called. */
  readonly groupName: string | undefined;
  /** Doors that have told nothing for long: what rules say of use there rests on little. */
  readonly silent: readonly SilentDoor[];
}

const findingsListed = 200;
const groupsListed = 500;

/** What is called how in a register, whatever findings speak of. */
export function namer({ compiled }: OpenRegister): (finding: StoredFinding) => NamedFinding {
  return (finding) => {
    const name = (kind: SubjectKind, id: string): string => nameOfSpoken(compiled, { kind, id }) ?? id;
    const { subject, cardholder } = finding;
    return {
      ...finding,
      about: cardholder === undefined ? name(subject.kind, subject.id) : name("cardholder", cardholder),
      card: subject.kind === "credential" && cardholder !== undefined ? name("credential", subject.id) : undefined,
      names: namesSpokenOf(compiled, finding),
    };
  };
}

const groupKind: Readonly<Partial<Record<FindingGrouping, SubjectKind>>> = { area: "area", department: "group", manager: "cardholder" };

/** The name of a group; of one of findings that belong nowhere it is empty, and of a rule it is left to whoever tells it. */
export function groupName({ compiled }: OpenRegister, by: FindingGrouping, key: string): string {
  if (key === "" || by === "rule") return key;
  const kind = groupKind[by];
  if (kind) return nameOfSpoken(compiled, { kind, id: key }) ?? key;
  const space = key.indexOf(" ");
  const id = key.slice(space + 1);
  return nameOfSpoken(compiled, { kind: key.slice(0, space) as SubjectKind, id }) ?? id;
}

/** What of the findings is asked for, as the store is asked. */
export const filterOf = (account: Account, { rule, life, waived, isMine, by, key, about }: AskedFindings): FindingFilter => ({
  rule,
  life: life === "gone" ? undefined : life,
  waived,
  assignee: isMine ? account.signIn : undefined,
  group: by !== undefined && key !== undefined ? { by, key } : undefined,
  subject: about,
});

/** The findings of a register by risk, those that are asked for, with names; or groups of them. */
export async function listFindings(services: Services, account: Account, register: OpenRegister, asked: AskedFindings): Promise<FindingsPage> {
  demand(account, "read-findings");
  const { id } = register.snapshot;
  const today = todayOf(services);
  const named = namer(register);
  const counts = await services.findings.counts(id, today);
  const silent = await silentDoors(services, register);
  const none = { groups: undefined, groupName: undefined, next: undefined, silent };
  if (asked.fingerprint !== undefined) {
    const finding = await services.findings.byFingerprint(id, asked.fingerprint);
    return { ...none, counts, findings: finding ? [named(finding)] : [], total: finding ? 1 : 0 };
  }
  if (asked.life === "gone") return { ...none, counts, findings: (await services.findings.gone(id, findingsListed)).map(named), total: counts.gone };
  const filter = filterOf(account, asked);
  if (asked.by !== undefined && asked.key === undefined) {
    const groups = await services.findings.groups(id, filter, today, asked.by);
    const { by } = asked;
    return {
      ...none,
      counts,
      findings: [],
      total: groups.reduce((sum, { findings }) => sum + findings, 0),
      groups: groups.slice(0, groupsListed).map((group) => ({ ...group, name: groupName(register, by, group.key) })),
    };
  }
  const [page, total] = await Promise.all([
    services.findings.page(id, filter, today, findingsListed + 1, { newFirst: true, skip: asked.from ?? 0 }),
    services.findings.count(id, filter, today),
  ]);
  return {
    counts,
    silent,
    findings: page.slice(0, findingsListed).map(named),
    total,
    next: page.length > findingsListed ? (asked.from ?? 0) + findingsListed : undefined,
    groups: undefined,
    groupName: asked.by !== undefined && asked.key !== undefined ? groupName(register, asked.by, asked.key) : undefined,
  };
}

/** The riskiest finding of a rule, as an example of what it says; undefined where it has none. */
export async function exampleFinding(services: Services, account: Account, register: OpenRegister, rule: RuleKey): Promise<NamedFinding | undefined> {
  demand(account, "read-findings");
  const [finding] = await services.findings.page(register.snapshot.id, { rule, waived: "with" }, todayOf(services), 1);
  return finding && namer(register)(finding);
}

/** What became of a finding beside its proof: notes, all its waivers, and the lines of rounds that told of it, the latest first. */
export interface FindingHistory {
  readonly notes: readonly FindingNote[];
  readonly waivers: readonly (Waiver & { readonly endedBy: string | undefined; readonly endedAt: string | undefined })[];
  readonly lines: readonly LineOfFinding[];
}

/** What became of a finding, also of one that is gone; lines are those about a holder, where it is about one. */
export async function showFindingHistory(services: Services, account: Account, fingerprint: string, holder: HolderId | undefined): Promise<FindingHistory> {
  demand(account, "read-findings");
  return {
    notes: await services.triage.notesOf(fingerprint),
    waivers: await services.triage.waiversOf(fingerprint),
    lines: holder ? await services.rounds.linesTelling(holder, fingerprint) : [],
  };
}

/** Waivers that wait for a second person, with whether this one may be it. */
export async function waitingWaivers(services: Services, account: Account): Promise<readonly (Waiver & { readonly mayConfirm: boolean })[]> {
  demand(account, "read-findings");
  const waiting = await services.triage.waiting(todayOf(services));
  return waiting.map((waiver) => ({ ...waiver, mayConfirm: may(account, "triage") && waiver.madeBy !== account.signIn }));
}
