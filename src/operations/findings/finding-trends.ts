import type { RuleKey } from "@/core/findings/proofs";
import type { Account } from "../ports/accounts";
import type { FindingGroup } from "../ports/findings";
import type { OpenRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { groupName } from "./list-findings";
import { todayOf } from "./today";

export interface FindingTrends {
  /** The earliest first; `fresh` are new or came back. */
  readonly snapshots: readonly { readonly id: number; readonly asOf: string; readonly total: number; readonly fresh: number; readonly gone: number }[];
  /** Those of which there are most at present first; counts as the snapshots. */
  readonly byRule: readonly { readonly rule: RuleKey; readonly now: number; readonly counts: readonly number[] }[];
  readonly byArea: readonly (FindingGroup & { readonly name: string })[];
  /** Of how many subjects a rule could not tell at present, beside what it found. */
  readonly told: readonly { readonly rule: RuleKey; readonly cannot: number; readonly found: number }[];
}

const snapshotsDrawn = 24;

/** How findings went over the last snapshots, and what they are of at present. */
export async function findingTrends(services: Services, account: Account, register: OpenRegister): Promise<FindingTrends> {
  demand(account, "read-findings");
  const today = todayOf(services);
  const [runs, list] = [(await services.findings.trend()).slice(-snapshotsDrawn), await services.snapshots.list()];
  const asOf = new Map(list.map((snapshot) => [snapshot.id, snapshot.asOf]));
  const { id } = register.snapshot;
  const present = await services.findings.counts(id, today);
  const rules = [...new Set(runs.flatMap(({ totals }) => Object.keys(totals) as RuleKey[]))];
  const byRule = rules.map((rule) => ({ rule, now: runs.at(-1)?.totals[rule] ?? 0, counts: runs.map(({ totals }) => totals[rule] ?? 0) }));
  const groups = await services.findings.groups(id, { waived: "with" }, today, "area");
  const snapshots = await Promise.all(
    runs.map(async ({ snapshot, totals }) => {
      const { byLife, gone } = await services.findings.counts(snapshot, today);
      return {
        id: snapshot,
        asOf: asOf.get(snapshot) ?? "",
        total: Object.values(totals).reduce((sum, n) => sum + n, 0),
        fresh: (byLife.new ?? 0) + (byLife.back ?? 0),
        gone,
      };
    }),
  );
  return {
    snapshots,
    byRule: byRule.filter(({ counts }) => counts.some((n) => n > 0)).sort((a, b) => b.now - a.now),
    byArea: groups.filter(({ key }) => key !== "").map((group) => ({ ...group, name: groupName(register, "area", group.key) })),
    told: present.cannotTell
      .filter(({ concerned }) => concerned > 0)
      .map(({ rule, concerned }) => ({ rule, cannot: concerned, found: present.byRule[rule] ?? 0 }))
      .sort((a, b) => b.cannot - a.cannot),
  };
}
