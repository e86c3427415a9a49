import type { PlanningTerms } from "@/core/certification/withdrawal/plan-withdrawal";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Narrowing } from "@/core/certification/decide-line";
import { isDefinition } from "@/core/certification/line-content";
import type { Line } from "@/core/certification/line";
import type { PlannedWithdrawal } from "@/core/certification/line-withdrawal";
import { doorsOfLine, withdrawLine } from "@/core/certification/line-withdrawal";
import type { WeeksOfDoors } from "@/core/certification/line-weeks";
import { weeksOfLine } from "@/core/certification/line-weeks";
import { describedChanges } from "@/core/certification/withdrawal/described-change";
import type { DescribedChange } from "@/core/certification/withdrawal/described-change";
import { BusinessWeeks, businessHoursOf } from "@/core/findings/business-hours";
import type { RuleSettings } from "@/core/findings/settings";
import type { WithdrawalEffects } from "@/core/certification/withdrawal/withdrawal-effects";
import type { Names } from "../register/drafts/change-names";
import { namesInChanges } from "../register/drafts/change-names";
import type { Horizon } from "@/core/table/horizon";
import { horizonOf } from "@/core/table/horizon";
import { openRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import { seenLine } from "./docket-access";
import { isPossible } from "./narrow-line";
import { planningTerms } from "./orders-of-lines";

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

/** The same of a line: beside it the weeks of its doors, as they are and as they would be. */
export interface ShownLineEffect extends ShownWithdrawal {
  readonly weeks: readonly WeeksOfDoors[];
}

/** The effect of withdrawing a line as it is kept with it, and what its source could be asked for then. */
interface KeptEffect {
  readonly terms: PlanningTerms;
  readonly effect: ShownLineEffect;
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

function effectOfLine(horizon: Horizon, line: Line, wish: "withdraw" | Narrowing, terms: PlanningTerms, settings: RuleSettings): ShownLineEffect {
  const planned = withdrawLine(horizon, line, wish, terms);
  const business = new BusinessWeeks(horizon.compiled, businessHoursOf(settings), horizon.ahead.from);
  const weeks = weeksOfLine(horizon, line, planned.changes, business);
  const shown = shownWithdrawal(horizon.compiled, planned);
  const names = namesInChanges(
    horizon.compiled,
    [],
    weeks.flatMap(({ doors }) => doors),
  );
  return { ...shown, names: { ...shown.names, ...names }, weeks };
}

/**
 * What withdrawing a line would come to, or narrowing it; undefined where there is no such line that the account may see, or no such narrowing. What
 * withdrawing
 * comes to is worked out over the frozen snapshot once, and kept with the line.
 */
export async function showWithdrawal(services: Services, account: Account, lineId: number, narrowing?: Narrowing): Promise<ShownLineEffect | undefined> {
  demand(account, "see-dockets");
  const seen = await seenLine(services, account, lineId);
  if (!seen || isDefinition(seen.line.line)) return undefined;
  const terms = await planningTerms(services);
  const text = narrowing ? undefined : await services.rounds.effect(lineId);
  const kept = text === undefined ? undefined : (JSON.parse(text) as KeptEffect);
  // What its source can be asked for may have been set otherwise since: what is shown is what would be ordered now.
  if (kept?.terms.withBlocks === terms.withBlocks) return kept.effect;
  const register = await openRegister(services, seen.round.snapshot);
  const { line } = seen.line;
  if (
    !register ||
    isDefinition(line) ||
    (narrowing && (line.subject.kind === "credential" || !isPossible(register.compiled, doorsOfLine(register.compiled, line), narrowing)))
  )
    return undefined;
  const { settings } = await services.ruleSettings.current();
  const effect = effectOfLine(horizonOf(register.compiled), line, narrowing ?? "withdraw", terms, settings);
  if (!narrowing) await services.rounds.keepEffects([{ line: lineId, effect: JSON.stringify({ terms, effect } satisfies KeptEffect) }]);
  return effect;
}

/** Whether there are such lines whose effects are not kept yet. */
export const awaitsEffects = async (services: Services): Promise<boolean> => (await services.rounds.linesWithoutEffect(1)).length > 0;

/** So many lines are taken at once; of another register none before these are done. */
const linesAtOnce = 50;

/**
 * Keeps the effects of lines of open rounds, one after the other, for so long in milliseconds: whoever decides finds them there. It rests between lines for as
 * long as each took, so that whoever works meanwhile has the machine as well. Gives how many were kept; 0 where there are none left.
 */
export async function fillEffects(services: Services, forMs: number): Promise<number> {
  const began = performance.now();
  const [terms, { settings }] = [await planningTerms(services), await services.ruleSettings.current()];
  let kept = 0;
  for (;;) {
    const lines = await services.rounds.linesWithoutEffect(linesAtOnce);
    const before = kept;
    for (const { id, snapshot, line } of lines) {
      const register = isDefinition(line) ? undefined : await openRegister(services, snapshot);
      if (isDefinition(line) || !register) continue;
      const at = performance.now();
      const effect = effectOfLine(horizonOf(register.compiled), line, "withdraw", terms, settings);
      await services.rounds.keepEffects([{ line: id, effect: JSON.stringify({ terms, effect } satisfies KeptEffect) }]);
      kept += 1;
      const now = performance.now();
      if (now - began >= forMs) return kept;
      await new Promise((resolve) => setTimeout(resolve, now - at));
    }
    if (lines.length < linesAtOnce || kept === before) return kept;
  }
}
