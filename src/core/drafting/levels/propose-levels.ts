import { compareAccess } from "../../compare/compare-access";
import { compileFacility } from "../../compile/compile-facility";
import { withChanges } from "../../facility/facility-change";
import type { Judged } from "../../findings/judged";
import type { AskingMode } from "../../paths/paths";
import { asIfLive, ordinary } from "../../paths/paths";
import type { Horizon } from "../../table/horizon";
import { levelsByUse } from "./by-use";
import { dropNeedless, mergeEqualLevels } from "./equal-levels";
import { exceptionsToLevels } from "./exceptions";
import { equalKinds, levelCounts } from "./level-proposal";
import type { LevelCounts, LevelProposal } from "./level-proposal";

/** A proposal with what it does to everybody, read off by comparison. */
export interface ProvedProposal extends LevelProposal {
  readonly before: LevelCounts;
  readonly after: LevelCounts;
  /** People and cards that open less, pairs that they lose, and pairs with fewer minutes; none where it is equal. */
  readonly holders: number;
  readonly lost: number;
  readonly fewerMinutes: number;
}

const modes: readonly AskingMode[] = [ordinary, { lockdown: true, asIfLive: false }, asIfLive];

/** The steps that are tried, one kind after the other: first what costs nobody anything. */
export const candidateProposals = (judged: Judged): LevelProposal[] => [
  ...mergeEqualLevels(judged.compiled),
  ...exceptionsToLevels(judged.compiled),
  ...dropNeedless(judged.compiled),
  ...levelsByUse(judged),
];

/**
 * Proves a proposal: the register with its changes is laid out beside it and everybody is compared, as things are, in a lockdown and as if live. Undefined
 * where anybody would open anything more, or, of a kind that says equal, anything less.
 */
export function proved(horizon: Horizon, proposal: LevelProposal): ProvedProposal | undefined {
  const { compiled } = horizon;
  const changed = withChanges(compiled.facility, proposal.changes);
  const beside = horizon.beside(compileFacility(changed, compiled));
  const effect = { holders: 0, lost: 0, fewerMinutes: 0 };
  for (const mode of modes)
    for (const { changes } of compareAccess(horizon.table(mode), beside.table(mode))) {
      if (equalKinds.has(proposal.kind) || changes.some(({ minutesMore }) => minutesMore > 0)) return undefined;
      if (mode !== ordinary) continue;
      effect.holders++;
      for (const { change } of changes)
        if (change === "lost") effect.lost++;
        else effect.fewerMinutes++;
    }
  return { ...proposal, ...effect, before: levelCounts(compiled.facility), after: levelCounts(changed) };
}
