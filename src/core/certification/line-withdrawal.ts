import type { CompiledFacility } from "../compile/compiled-facility";
import { compileFacility } from "../compile/compile-facility";
import { canonicalJson } from "../facility/canonical-json";
import { composeChanges } from "../facility/compose-changes";
import type { FacilityChange } from "../facility/facility-change";
import { withChanges } from "../facility/facility-change";
import type { HolderId } from "../facility/holder-id";
import { holderKey } from "../facility/holder-id";
import { compareCodePoints, groupBy } from "../kernel/compare";
import { required, unreachable } from "../kernel/invariant";
import type { Decision, Narrowing } from "./decide-line";
import { holderOfLine } from "./holder-of-line";
import type { Line } from "./line";
import type { PlanningTerms } from "./withdrawal/plan-withdrawal";
import { planReturn, planWithdrawal } from "./withdrawal/plan-withdrawal";
import type { WithdrawalPlan } from "./withdrawal/plan-withdrawal";
import type { Horizon } from "../table/horizon";
import type { MayStay } from "./withdrawal/wish";
import type { AskedDoors, EffectsOf, WithdrawalEffects } from "./withdrawal/withdrawal-effects";
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

/** All that a grant can say: where nothing is known of who carries it out, or Nomade does. */
const anyChange: PlanningTerms = { withBlocks: true };

function planned(horizon: Horizon, plan: WithdrawalPlan, of: EffectsOf): PlannedWithdrawal {
  return { ...plan, effects: withdrawalEffects(horizon, plan.changes, of) };
}

/** The best way to shut doors for a holder, but for what may stay, by whatever changes, blocks among them. */
export function withdrawDoors(
  horizon: Horizon,
  holder: HolderId,
  doors: readonly string[],
  { kept = [], stays = {}, terms = anyChange }: { readonly kept?: readonly string[]; readonly stays?: MayStay; readonly terms?: PlanningTerms } = {},
): PlannedWithdrawal {
  const of: EffectsOf = { holder, doors, stays };
  return planned(horizon, planWithdrawal(horizon.compiled, horizon.ahead, { ...of, kept }, terms), of);
}

function returnCredential(horizon: Horizon, line: Line): PlannedWithdrawal {
  return planned(horizon, planReturn(horizon.compiled, horizon.ahead, line.subject.id), { holder: holderOfLine(line), doors: [], stays: {} });
}

/** What is to happen to a line: nothing, or it goes, whole or in part. */
export type LineWish = "keep" | "withdraw" | Narrowing;

/** The wish of a decision. What somebody passed on is for that one to decide, and stays until then. */
export const wishOfDecision = ({ decision, narrowing }: { readonly decision: Decision | undefined; readonly narrowing?: Narrowing | undefined }): LineWish =>
  decision === "withdraw" ? "withdraw" : decision === "narrow" && narrowing ? narrowing : "keep";

/** The doors of a line that a wish speaks of, and what may stay there; no doors where nothing is to go. */
export function askedOfLine(compiled: CompiledFacility, line: Line, wish: LineWish): AskedDoors {
  if (wish === "keep" || line.subject.kind === "credential") return { doors: [], stays: {} };
  const doors = doorsOfLine(compiled, line);
  if (wish === "withdraw") return { doors, stays: {} };
  switch (wish.kind) {
    case "doors": {
      const shut = new Set(wish.shut);
      return { doors: doors.filter((door) => shut.has(door)), stays: {} };
    }
    case "hours":
      return {
        doors,
        stays: { ...(wish.schedule !== undefined && { schedule: wish.schedule }), ...(wish.until !== undefined && { until: wish.until }) },
      };
    default:
      return unreachable(wish);
  }
}

/** What withdrawing or narrowing one line would come to. */
export function withdrawLine(
  horizon: Horizon,
  line: Line,
  wish: Exclude<LineWish, "keep"> = "withdraw",
  terms: PlanningTerms = anyChange,
): PlannedWithdrawal {
  if (line.subject.kind === "credential") return returnCredential(horizon, line);
  const { doors, stays } = askedOfLine(horizon.compiled, line, wish);
  return withdrawDoors(horizon, holderOfLine(line), doors, { stays, terms });
}

export interface DecidedForPlanning {
  readonly line: Line;
  readonly wish: LineWish;
}

/** Lines of one holder that are withdrawn together, by their places among the decided ones, and what that comes to. */
export interface JointWithdrawal extends PlannedWithdrawal {
  readonly lines: readonly number[];
}

/**
 * The doors of a holder that are withdrawn or narrowed, those with the same that may stay together. One after the other, each on what the one before
 * leaves.
 */
function withdrawPlaces(
  horizon: Horizon,
  holder: HolderId,
  places: readonly (DecidedForPlanning & { readonly number: number })[],
  terms: PlanningTerms,
): JointWithdrawal | undefined {
  const { compiled } = horizon;
  const asked = places.map(({ line, wish, number }) => ({ number, ...askedOfLine(compiled, line, wish), all: doorsOfLine(compiled, line) }));
  const wishes = asked.filter(({ doors }) => doors.length > 0);
  const groups = [...groupBy(wishes, ({ stays }) => canonicalJson(stays))].sort(([a], [b]) => compareCodePoints(a, b));
  if (groups.length === 0) return undefined;
  let changes: FacilityChange[] = [];
  let [searched, alternative]: [WithdrawalPlan["searched"], WithdrawalPlan["alternative"]] = ["all", undefined];
  for (const [, group] of groups) {
    const { stays } = required(group[0], "groups are not empty");
    const doors = group.flatMap((one) => one.doors);
    const spoken = new Set(doors);
    const kept = asked.flatMap(({ all }) => all.filter((door) => !spoken.has(door)));
    const present = changes.length === 0 ? compiled : compileFacility(withChanges(compiled.facility, changes), compiled);
    const plan = planWithdrawal(present, horizon.ahead, { holder, doors, stays, kept }, terms);
    changes = changes.length === 0 ? [...plan.changes] : composeChanges(changes, plan.changes);
    // Where one of them has no right plan, that is what has to be told.
    if (plan.searched !== "all" && searched !== "none") ({ searched } = plan);
    // Where several are planned, one after the other, another way for one of them is no way for all.
    alternative = groups.length === 1 ? plan.alternative : undefined;
  }
  const [first, ...also] = groups.map(([, group]) => ({ doors: group.flatMap((one) => one.doors), stays: required(group[0], "groups are not empty").stays }));
  const of: EffectsOf = { holder, ...required(first, "there is a group"), also };
  return { lines: wishes.map(({ number }) => number), ...planned(horizon, { changes, searched, alternative }, of) };
}

/**
 * The places of a holder that can be withdrawn together, and by themselves those of which no plan takes away just what was asked: one that cannot be had
 * does not stand in the way of the others.
 */
function withdrawPossible(horizon: Horizon, holder: HolderId, places: readonly (DecidedForPlanning & { readonly number: number })[], terms: PlanningTerms) {
  const together = withdrawPlaces(horizon, holder, places, terms);
  if (!together) return [];
  if (together.searched !== "none" || together.lines.length === 1) return [together];
  const only = (numbers: ReadonlySet<number>) =>
    withdrawPlaces(
      horizon,
      holder,
      places.map((place) => (numbers.has(place.number) ? place : { ...place, wish: "keep" as const })),
      terms,
    );
  const possible = new Set<number>();
  const left: JointWithdrawal[] = [];
  for (const number of together.lines) {
    const tried = only(new Set([...possible, number]));
    if (tried && tried.searched !== "none") possible.add(number);
    else left.push({ lines: [number], changes: [], searched: "none", alternative: undefined, effects: { lost: [], narrowed: [], staysLess: [], others: [] } });
  }
  const joint = possible.size === 0 ? undefined : only(possible);
  return [...(joint ? [joint] : []), ...left];
}

/**
 * The withdrawals of a docket: the doors of each holder are planned together, and what is taken at doors of lines that were kept weighs as
 * much as what is taken from others; credentials are returned one by one.
 */
export function withdrawTogether(horizon: Horizon, decided: readonly DecidedForPlanning[], terms: PlanningTerms = anyChange): JointWithdrawal[] {
  const numbered = decided.map((one, number) => ({ ...one, number }));
  return [...groupBy(numbered, ({ line }) => holderKey(holderOfLine(line))).values()].flatMap((lines): JointWithdrawal[] => {
    const holder = holderOfLine(required(lines[0], "groups are not empty").line);
    const returned = lines.filter(({ line, wish }) => wish !== "keep" && line.subject.kind === "credential");
    const places = withdrawPossible(
      horizon,
      holder,
      lines.filter(({ line }) => line.subject.kind !== "credential"),
      terms,
    );
    return [...returned.map(({ line, number }) => ({ lines: [number], ...returnCredential(horizon, line) })), ...places];
  });
}

/** The other way of a plan, with fewer blocks, and what it does; undefined where the plan has none. */
export const otherWay = (horizon: Horizon, plan: PlannedWithdrawal, holder: HolderId, doors: readonly string[]): PlannedWithdrawal | undefined =>
  plan.alternative && {
    changes: plan.alternative,
    searched: plan.searched,
    alternative: undefined,
    effects: withdrawalEffects(horizon, plan.alternative, { holder, doors, stays: {} }),
  };
