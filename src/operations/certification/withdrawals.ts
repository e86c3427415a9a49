import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { PlannedWithdrawal } from "@/core/certification/line-withdrawal";
import { withdrawLine } from "@/core/certification/line-withdrawal";
import { describedChanges } from "@/core/certification/withdrawal/described-change";
import type { DescribedChange } from "@/core/certification/withdrawal/described-change";
import type { WithdrawalEffects } from "@/core/certification/withdrawal/withdrawal-effects";
import type { Names } from "../register/drafts/change-names";
import { namesInChanges } from "../register/drafts/change-names";
import { horizonOf } from "@/core/table/horizon";
import { openRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand, may } from "../rights";
import type { Services } from "../services";

/** A planned withdrawal as it is shown: each change with what it alters, what it does, and the names of all that it speaks of. */
export interface ShownWithdrawal {
  /** Whether there is a right way at all; without one there are no changes. */
  readonly isPossible: boolean;
  readonly changes: readonly DescribedChange[];
  /** A plan that blocks fewer doors and takes more from the holder; undefined where there is none. */
  readonly alternative: readonly DescribedChange[] | undefined;
  readonly effects: WithdrawalEffects;
  readonly names: Names;
}

export function shownWithdrawal(compiled: CompiledFacility, { changes, searched, alternative, effects }: PlannedWithdrawal): ShownWithdrawal {
  const doors = [...effects.lost, ...[...effects.narrowed, ...effects.staysLess].map(({ door }) => door)];
  return {
    isPossible: searched !== "none",
    changes: describedChanges(compiled, changes),
    alternative: alternative && describedChanges(compiled, alternative),
    effects,
    names: namesInChanges(compiled, [...changes, ...(alternative ?? [])], doors),
  };
}

/** What withdrawing a line would come to; undefined where there is no such line that the account may see. */
export async function showWithdrawal(services: Services, account: Account, lineId: number): Promise<ShownWithdrawal | undefined> {
  demand(account, "see-dockets");
  const [line] = await services.rounds.lines({ id: lineId });
  const [docket] = line ? await services.rounds.dockets({ id: line.docket }) : [];
  if (!line || !docket || (docket.account !== account.id && !may(account, "read-rounds"))) return undefined;
  const round = await services.rounds.byId(docket.round);
  const register = round && (await openRegister(services, round.snapshot));
  return register && shownWithdrawal(register.compiled, withdrawLine(horizonOf(register.compiled), line.line));
}
