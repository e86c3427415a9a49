import { candidateProposals, proved } from "@/core/drafting/levels/propose-levels";
import type { ProvedProposal } from "@/core/drafting/levels/propose-levels";
import type { LevelProposal, ProposalKind } from "@/core/drafting/levels/level-proposal";
import { daysOfUse, useOfLevels } from "@/core/drafting/levels/use-of-levels";
import type { UseOfLevel } from "@/core/drafting/levels/use-of-levels";
import type { Judged } from "@/core/findings/judged";
import { directoryOf } from "@/core/register/directory";
import { horizonOf } from "@/core/table/horizon";
import { judgeSnapshot } from "../findings/judge-snapshot";
import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import { demand } from "../rights";
import type { Services } from "../services";
import { changeDraft, wantedOf } from "./drafts/change-draft";
import { beginDraft, dropDraft } from "./drafts/open-draft";

/** So many proposals are proved; each is a register laid out beside the present one. */
export const mostProved = 40;
const namesTold = 6;

/** A proposal by name, with what it saves and what it takes away. */
export interface ToldProposal extends Pick<ProvedProposal, "kind" | "before" | "after" | "holders" | "lost" | "fewerMinutes"> {
  /** By which it is asked for again. */
  readonly key: string;
  readonly levels: readonly { readonly id: string; readonly name: string }[];
  /** People, doors or groups that it is about, the first few by name. */
  readonly about: readonly string[];
  readonly aboutCount: number;
}

/** What holders of a level used of it, by name. */
export interface ToldUse extends Pick<UseOfLevel, "doors" | "holders" | "isTold" | "using" | "usedPairs"> {
  readonly id: string;
  readonly name: string;
  /** Its doors that none of them used: the first few by name, and how many there are. */
  readonly unused: readonly string[];
  readonly unusedCount: number;
}

export interface ToldProposals {
  readonly snapshot: number;
  /** How many days back a use counts. */
  readonly days: number;
  /** Every level, those first of whose doors least is used; those of which that cannot be told last. */
  readonly use: readonly ToldUse[];
  readonly proposals: readonly ToldProposal[];
  /** How many more steps could be tried than were. */
  readonly notTried: number;
}

export const keyOfProposal = ({ kind, levels, about }: Pick<LevelProposal, "kind" | "levels" | "about">): string => JSON.stringify([kind, levels, about]);

function told({ compiled }: Judged, proposal: ProvedProposal): ToldProposal {
  const directory = directoryOf(compiled);
  const { kind, levels, about, before, after, holders, lost, fewerMinutes } = proposal;
  const kindOfAbout = { "exceptions-to-level": "cardholder", "drop-unused": "door", "split-by-use": "group" } as const;
  const named = kind === "exceptions-to-level" || kind === "drop-unused" || kind === "split-by-use" ? kindOfAbout[kind] : undefined;
  return {
    key: keyOfProposal(proposal),
    kind,
    levels: levels.map((id) => ({ id, name: directory.name("level", id) })),
    about: about.slice(0, namesTold).map((id) => (named ? directory.name(named, id) : id)),
    aboutCount: about.length,
    before,
    after,
    holders,
    lost,
    fewerMinutes,
  };
}

/** The share of a level that is used, of everybody who holds it at each of its doors; of one that nobody holds, or without a door, all. */
const shareUsed = ({ usedPairs, holders, doors }: UseOfLevel): number => (holders * doors === 0 ? 1 : usedPairs / (holders * doors));

function toldUse(judged: Judged): ToldUse[] {
  const { doors, levels } = judged.facility;
  return useOfLevels(judged)
    .sort((a, b) => Number(b.isTold) - Number(a.isTold) || shareUsed(a) - shareUsed(b) || b.holders - a.holders || a.level - b.level)
    .map(({ level, unused, ...counts }) => ({
      ...counts,
      id: levels[level]?.id ?? "",
      name: levels[level]?.name ?? "",
      unused: unused.slice(0, namesTold).map((door) => doors[door]?.name ?? ""),
      unusedCount: unused.length,
    }));
}

/** What could be put right with the levels of the present register, each step proved by comparison for everybody; undefined where there is no register. */
export async function proposeLevels(services: Services, account: Account, report: Report): Promise<ToldProposals | undefined> {
  demand(account, "edit-drafts");
  demand(account, "read-whole");
  report({ step: "reading", done: 0, of: 1 });
  const snapshot = await services.snapshots.latest();
  const judged = snapshot && (await judgeSnapshot(services, snapshot.id));
  if (!judged) return undefined;
  const horizon = horizonOf(judged.compiled);
  const candidates = candidateProposals(judged);
  const tried = candidates.slice(0, mostProved);
  const proposals: ToldProposal[] = [];
  for (const [i, candidate] of tried.entries()) {
    report({ step: "access", done: i, of: tried.length });
    const sound = proved(horizon, candidate);
    if (sound) proposals.push(told(judged, sound));
  }
  return { snapshot: snapshot.id, days: daysOfUse, use: toldUse(judged), proposals, notTried: candidates.length - tried.length };
}

const titles: Readonly<Record<ProposalKind, string>> = {
  "merge-equal": "Merge equal levels",
  "exceptions-to-level": "Give a level instead of exceptions",
  "drop-needless": "Drop what is given twice or to nobody",
  "drop-unused": "Drop doors that nobody used",
  "split-by-use": "Split a level by use",
};

/** Begins a draft with a proposal as it was proved; gives its number. Undefined where the register no longer has it, or it would give anybody more. */
export async function draftLevels(services: Services, account: Account, key: string, report: Report): Promise<number | undefined> {
  demand(account, "edit-drafts");
  demand(account, "read-whole");
  report({ step: "reading", done: 0, of: 1 });
  const snapshot = await services.snapshots.latest();
  const judged = snapshot && (await judgeSnapshot(services, snapshot.id));
  const candidate = judged && candidateProposals(judged).find((one) => keyOfProposal(one) === key);
  report({ step: "access", done: 0, of: 1 });
  const sound = judged && candidate && proved(horizonOf(judged.compiled), candidate);
  if (!sound) return undefined;
  const names = sound.levels.map((id) => directoryOf(judged.compiled).name("level", id)).join(", ");
  const draft = await beginDraft(services, account, `${titles[sound.kind]}${names === "" ? "" : `: ${names}`}`.slice(0, 255));
  const { outcome } = await changeDraft(services, account, draft, sound.changes.map(wantedOf), true);
  if (outcome === "written") return draft;
  await dropDraft(services, account, draft);
  return undefined;
}
