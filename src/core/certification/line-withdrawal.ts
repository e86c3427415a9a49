import type { CompiledFacility } from "../compile/compiled-facility";
import type { FacilityChange } from "../facility/facility-change";
import type { HolderId } from "../facility/holder-id";
import { holderKey } from "../facility/holder-id";
import { groupBy } from "../kernel/compare";
import { holderOfLine } from "./holder-of-line";
import type { Line } from "./line";
import { planReturn, planWithdrawal } from "./withdrawal/plan-withdrawal";
import type { WithdrawalPlan } from "./withdrawal/plan-withdrawal";
import type { Horizon } from "../table/horizon";
import type { EffectsOf, WithdrawalEffects } from "./withdrawal/withdrawal-effects";
import { withdrawalEffects } from "./withdrawal/withdrawal-effects";

/** The doors that a line is about: those into its area, or those of its site that lead into none. */
export function doorsOfLine({ doors, facility }: CompiledFacility, { subject: { kind, id } }: Line): string[] {
  return doors.flatMap(({ door, areas }) => {
    const nearest = areas[0] === undefined ? undefined : facility.areas[areas[0]]?.id;
    const isConcerned = kind === "area" ? nearest === id : kind === "site" && nearest === undefined && door.site === id;
    return isConcerned ? [door.id] : [];
  });
}

/** What a withdrawal comes to: the changes, and what they do to access. */
export interface PlannedWithdrawal extends Omit<WithdrawalPlan, "alternative"> {
  readonly alternative: readonly FacilityChange[] | undefined;
  readonly effects: WithdrawalEffects;
}

const withBlocks = { withBlocks: true };

function planned(horizon: Horizon, plan: WithdrawalPlan, of: EffectsOf): PlannedWithdrawal {
  return { ...plan, effects: withdrawalEffects(horizon, plan.changes, of) };
}

/** The best way to shut doors for a holder, by whatever changes, blocks among them. */
export function withdrawDoors(horizon: Horizon, holder: HolderId, doors: readonly string[], kept: readonly string[] = []): PlannedWithdrawal {
  const of: EffectsOf = { holder, doors, stays: {} };
  return planned(horizon, planWithdrawal(horizon.compiled, horizon.ahead, { ...of, kept }, withBlocks), of);
}

function returnCredential(horizon: Horizon, line: Line): PlannedWithdrawal {
  return planned(horizon, planReturn(horizon.compiled, horizon.ahead, line.subject.id), { holder: holderOfLine(line), doors: [], stays: {} });
}

/** What withdrawing one line would come to. */
export const withdrawLine = (horizon: Horizon, line: Line): PlannedWithdrawal =>
  line.subject.kind === "credential" ? returnCredential(horizon, line) : withdrawDoors(horizon, holderOfLine(line), doorsOfLine(horizon.compiled, line));

export interface DecidedForPlanning {
  readonly line: Line;
  readonly withdrawn: boolean;
}

/** Lines of one holder that are withdrawn together, by their places among the decided ones, and what that comes to. */
export interface JointWithdrawal extends PlannedWithdrawal {
  readonly lines: readonly number[];
}

/**
 * The withdrawals of a docket: the doors of each holder are planned together, and what is taken at doors of lines that were kept weighs as
 * much as what is taken from others; credentials are returned one by one.
 */
export function withdrawTogether(horizon: Horizon, decided: readonly DecidedForPlanning[]): JointWithdrawal[] {
  const numbered = decided.map((one, number) => ({ ...one, number }));
  return [...groupBy(numbered, ({ line }) => holderKey(holderOfLine(line))).values()].flatMap((lines): JointWithdrawal[] => {
    const returned = lines.filter(({ line, withdrawn }) => withdrawn && line.subject.kind === "credential");
    const places = lines.filter(({ line }) => line.subject.kind !== "credential");
    const doorsOf = (withdrawn: boolean): string[] =>
      places.filter((one) => one.withdrawn === withdrawn).flatMap(({ line }) => doorsOfLine(horizon.compiled, line));
    const [first] = places;
    const asked = doorsOf(true);
    return [
      ...returned.map(({ line, number }) => ({ lines: [number], ...returnCredential(horizon, line) })),
      ...(first && asked.length > 0
        ? [
            {
              lines: places.filter(({ withdrawn }) => withdrawn).map(({ number }) => number),
              ...withdrawDoors(horizon, holderOfLine(first.line), asked, doorsOf(false)),
            },
          ]
        : []),
    ];
  });
}
