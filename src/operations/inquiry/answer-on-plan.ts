import type { Position } from "@/core/compile/position-index";
import { groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import { askedPeople } from "@/core/questions/asked-people";
import type { HolderNumber } from "@/core/questions/asked-people";
import type { ListedPlan, ShownDoor, ShownPlan } from "../register/plans/show-plans";
import { listedPlan, plansSeen, shownPlan } from "../register/plans/show-plans";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { Plan } from "../ports/plans";
import { demand } from "../rights";
import type { Services } from "../services";
import type { Inquiry, NamedDoor, QuestionNames, RestsOnUses } from "./inquiry";
import { contextOf, credentialsOf, restsOnUses } from "./inquiry-context";
import type { InquiryContext } from "./inquiry-context";
import { namedDoor, namesOfQuestion } from "./inquiry-names";

/** How many doors that open are told of where they stand on no plan. */
const unplacedTold = 20;

/** What a door on a plan does for whoever is asked about, at the asked time. */
export interface MarkOnPlan extends ShownDoor {
  /** `asleep`: would open if cards were made active; `gone`: the register does not hold it. */
  readonly state: "open" | "asleep" | "shut" | "not-asked" | "gone";
  /** Whether it stands open to anybody at some asked minute, whoever else opens it. */
  readonly isFree: boolean;
  /** How many of those who are asked about open it, and how many more would if their cards were made active. */
  readonly opening: number;
  readonly asleep: number;
  /** When it opens, where one person or card is asked about. */
  readonly words: string | undefined;
}

/** A plan with how many of its doors are asked about, and how many of these open for somebody. */
export interface PlanChoice extends ListedPlan {
  readonly asked: number;
  readonly opening: number;
}

export interface AnswerOnPlan {
  readonly names: QuestionNames;
  readonly askedHolders: number;
  readonly isOfOne: boolean;
  /** How many doors are asked about, and how many of these open for somebody who is; as if live, where it is asked so. */
  readonly askedDoors: number;
  readonly openingDoors: number;
  /** Undefined where there is no plan yet. */
  readonly shown: { readonly plan: ShownPlan; readonly marks: readonly MarkOnPlan[] } | undefined;
  readonly choices: readonly PlanChoice[];
  /** Asked doors that open for somebody and stand on no plan: the first of them, and how many there are. */
  readonly unplaced: readonly NamedDoor[];
  readonly unplacedCount: number;
  readonly uses: RestsOnUses;
}

/** Index d: how many of some holders open door d at the asked time. */
function countsOf(context: InquiryContext, holders: readonly HolderNumber[], asIfLive: boolean): Uint32Array {
  const openings = context.openings(asIfLive);
  const counts = new Uint32Array(context.compiled.doors.length);
  for (const [row, own] of groupBy(holders, (holder) => openings.rowOf(holder)))
    for (const door of openings.doorsOf(row)) counts[door] = (counts[door] as number) + own.length;
  return counts;
}

/** An answer as it stands on the plans of the building: on one of them door by door, on the others in numbers. Cost: the entries of the distinct rows. */
export async function answerOnPlan(
  services: Services,
  account: Account,
  register: OpenRegister,
  inquiry: Inquiry,
  wanted: number | undefined,
): Promise<AnswerOnPlan | undefined> {
  demand(account, "ask");
  const { compiled } = register;
  const [context, plans] = await Promise.all([contextOf(services, compiled, inquiry), plansSeen(services, register)]);
  const holders = askedPeople(compiled, inquiry.who, context.since);
  const [live, woken] = [countsOf(context, holders, false), countsOf(context, holders, true)];
  const isAsked = new Uint8Array(compiled.doors.length);
  for (const door of context.doors ?? compiled.doors.map(({ position }) => position)) isAsked[door] = 1;
  const doorOf = (id: string): Position | undefined => compiled.doorById.get(id);
  // Asked as if live, what would open then counts; door by door it is still told apart.
  const counted = inquiry.asIfLive ? woken : live;
  const opens = (door: Position): boolean => (counted[door] as number) > 0;
  const choices = plans.map((plan): PlanChoice => {
    const asked = plan.doors.flatMap(({ door }) => doorOf(door) ?? []).filter((door) => isAsked[door] === 1);
    return { ...listedPlan(compiled, plan), asked: asked.length, opening: asked.filter(opens).length };
  });
  const one = holders.length === 1 ? holders[0] : undefined;
  const wordsOf = (door: Position, asIfLive: boolean): string | undefined =>
    one === undefined ? undefined : context.describe(context.timetable([one], [door], asIfLive), credentialsOf(compiled, one)[0], door);
  const markOf = (shown: ShownDoor): MarkOnPlan => {
    const door = doorOf(shown.door);
    const nothing = { isFree: false, opening: 0, asleep: 0, words: undefined };
    if (door === undefined) return { ...shown, ...nothing, state: "gone" };
    if (isAsked[door] !== 1) return { ...shown, ...nothing, state: "not-asked" };
    const [opening, all] = [live[door] as number, woken[door] as number];
    const state = opening > 0 ? "open" : all > 0 ? "asleep" : "shut";
    const isFree = context.freeAtAsked(door).length > 0;
    const words = all > 0 ? wordsOf(door, opening === 0) : undefined;
    return { ...shown, state, isFree, opening, asleep: Math.max(0, all - opening), words };
  };
  const chosen = choosePlan(plans, choices, wanted);
  if (wanted !== undefined && !chosen) return undefined;
  const plan = chosen && shownPlan(compiled, chosen, plans);
  const placed = new Set(plans.flatMap(({ doors }) => doors.map(({ door }) => door)));
  const unplaced = compiled.doors.filter(({ position, door }) => opens(position) && !placed.has(door.id));
  return {
    names: namesOfQuestion(compiled, inquiry),
    askedHolders: holders.length,
    isOfOne: one !== undefined,
    askedDoors: (context.doors ?? compiled.doors).length,
    openingDoors: compiled.doors.filter(({ position }) => opens(position)).length,
    shown: plan && { plan, marks: plan.doors.map(markOf) },
    choices,
    unplaced: unplaced.slice(0, unplacedTold).map(({ position }) => namedDoor(compiled, position)),
    unplacedCount: unplaced.length,
    uses: restsOnUses(register, holders),
  };
}

/** The plan that is asked for; or else that on which most doors open, or most are asked about. */
function choosePlan(plans: readonly Plan[], choices: readonly PlanChoice[], wanted: number | undefined): Plan | undefined {
  if (wanted !== undefined) return plans.find(({ id }) => id === wanted);
  const best = choices.reduce<PlanChoice | undefined>(
    (found, one) => (!found || one.opening > found.opening || (one.opening === found.opening && one.asked > found.asked) ? one : found),
    undefined,
  );
  return (
    best &&
    required(
      plans.find(({ id }) => id === best.id),
      "choices are of plans",
    )
  );
}
