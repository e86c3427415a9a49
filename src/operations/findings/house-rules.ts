import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { HouseRule } from "@/core/findings/house-rule";
import { questionIn } from "@/core/findings/house-rules";
import type { Proofs } from "@/core/findings/proofs";
import { houseRule } from "@/core/findings/rules/house-rule";
import type { FlagOf, Subject } from "@/core/findings/flag";
import { namesSpokenOf } from "@/core/findings/about";
import { firstFew, groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import type { Who } from "@/core/questions/question";
import type { LocalTime, When } from "@/core/questions/when";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { localTime } from "@/core/time/zone";
import { horizonOf } from "@/core/table/horizon";
import type { QuestionNames } from "../inquiry/inquiry";
import { namesOfQuestion } from "../inquiry/inquiry-names";
import type { Account } from "../ports/accounts";
import type { KeptHouseRule, WrittenHouseRule } from "../ports/house-rules";
import type { Report } from "../ports/progress";
import type { OpenRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { judgedAlone } from "./judging";
import { lookForFindings } from "./look-for-findings";
import { houseRuleIn, placeOfText } from "./read-house-rule";

/** So many rules a house has at most; each is looked at in every intake and draft. */
export const mostHouseRules = 200;
const examplesShown = 12;

/** What breaks a rule. */
export interface HouseBreach {
  readonly subject: Subject;
  readonly proof: Proofs["house-rule"];
  /** The minute of its counterexample on the clock of the door's site; undefined where it has no door, or lies beyond what can be written. */
  readonly at: LocalTime | undefined;
}

/** How a rule stands in a register. */
export interface StateOfHouseRule {
  /** Undefined where its words, people or places mean nothing there. */
  readonly asks: { readonly who: Who | undefined; readonly names: QuestionNames; readonly other: string | undefined; readonly when: When } | undefined;
  readonly broken: number;
  /** The first by minute. */
  readonly breaches: readonly HouseBreach[];
  /** Names of what breaches speak of, by kind and id. */
  readonly names: Readonly<Record<string, string>>;
  readonly timeZone: string;
}

export interface ListedHouseRule extends KeptHouseRule, StateOfHouseRule {
  /** Whether whoever looks may end it as the second person. */
  readonly mayEnd: boolean;
}

/** How each of some rules stands in a register. Cost: each distinct row once a rule. */
async function statesOf(services: Services, compiled: CompiledFacility, rules: readonly HouseRule[]): Promise<StateOfHouseRule[]> {
  const judged = await judgedAlone(services, compiled, rules);
  const byRule = groupBy(houseRule.find(judged, {}).flags, ({ distinct }) => distinct?.[0]);
  return rules.map((one) => stateOf(compiled, one, byRule.get(one.id) ?? []));
}

function stateOf(compiled: CompiledFacility, one: HouseRule, breaches: readonly FlagOf<"house-rule">[]): StateOfHouseRule {
  const shown = firstFew(breaches, examplesShown, (a, b) => (a.proof.at ?? "").localeCompare(b.proof.at ?? "")).map(({ subject, proof }): HouseBreach => {
    const instant = proof.at === undefined ? undefined : parseInstant(proof.at);
    const zone = compiled.doors[compiled.doorById.get(proof.door ?? "") ?? -1]?.zone;
    return { subject, proof, at: instant && zone && localTime(zone, minuteDown(instant)) };
  });
  const facts = shown.map(({ subject, proof }) => ({ rule: "house-rule" as const, subject, distinct: [one.id], proof }));
  const asks = questionIn(compiled, one);
  const { demand: wanted } = one;
  return {
    asks: asks && {
      who: asks.who,
      names: namesOfQuestion(compiled, asks),
      other: wanted.must === "not-both" ? namesOfQuestion(compiled, { who: undefined, where: wanted.other }).where : undefined,
      when: asks.when,
    },
    broken: breaches.length,
    breaches: shown,
    names: namesSpokenOf(compiled, ...facts),
    timeZone: compiled.facility.timeZone,
  };
}

/** The rules of the house that count, each as it stands in a register. Cost: each distinct row once a rule. */
export async function listHouseRules(services: Services, account: Account, { compiled }: OpenRegister): Promise<readonly ListedHouseRule[]> {
  demand(account, "read-findings");
  const { asOf } = horizonOf(compiled);
  const kept = await services.houseRules.inForce();
  const states = await statesOf(
    services,
    compiled,
    kept.map((rule) => houseRuleIn(compiled, rule, asOf)),
  );
  return kept.map((rule, i): ListedHouseRule => {
    const mayEnd = rule.endAskedBy !== undefined && rule.endAskedBy !== account.signIn;
    return { ...rule, ...required(states[i], "a state a rule"), mayEnd };
  });
}

/** Why a rule cannot be written down as it is. */
export type HouseRuleRefusal = "no-name" | "not-understood" | "no-other-place" | "nobody-named" | "no-count" | "full" | "name-taken";

/** What is wrong with a rule; undefined where nothing is. */
function refusalOf(compiled: CompiledFacility, written: WrittenHouseRule): HouseRuleRefusal | undefined {
  const { asOf } = horizonOf(compiled);
  if (written.must === "not-both" && !placeOfText(compiled, written.other, asOf)) return "no-other-place";
  if ((written.must === "at-least" || written.must === "at-most") && written.count === undefined) return "no-count";
  const asks = questionIn(compiled, houseRuleIn(compiled, { ...written, id: 0 }, asOf));
  if (!asks) return "not-understood";
  // That only everybody may says nothing.
  return written.must === "only" && asks.who === undefined ? "nobody-named" : undefined;
}

export type TriedHouseRule = { readonly outcome: "refused"; readonly why: HouseRuleRefusal } | ({ readonly outcome: "tried" } & StateOfHouseRule);

/** How a rule would stand in a register, before it is written down. */
export async function tryHouseRule(services: Services, account: Account, { compiled }: OpenRegister, written: WrittenHouseRule): Promise<TriedHouseRule> {
  demand(account, "read-findings");
  const why = refusalOf(compiled, written);
  if (why) return { outcome: "refused", why };
  const [state] = await statesOf(services, compiled, [houseRuleIn(compiled, { ...written, id: 0 }, horizonOf(compiled).asOf)]);
  return { outcome: "tried", ...required(state, "a state a rule") };
}

export type WrittenDown = { readonly outcome: "written" } | { readonly outcome: "refused"; readonly why: HouseRuleRefusal };

/** Writes a rule down and looks for what breaks it in the present register. Gives undefined where there is none. */
export async function writeHouseRule(services: Services, account: Account, written: WrittenHouseRule, report: Report): Promise<WrittenDown | undefined> {
  demand(account, "set-rules");
  report({ step: "reading", done: 0, of: 1 });
  const snapshot = await services.snapshots.latest();
  if (!snapshot) return undefined;
  const compiled = await services.compiled(snapshot);
  const name = written.name.trim();
  const kept = await services.houseRules.inForce();
  const why =
    name === "" ? "no-name" : kept.length >= mostHouseRules ? "full" : kept.some((one) => one.name === name) ? "name-taken" : refusalOf(compiled, written);
  if (why) return { outcome: "refused", why };
  await services.houseRules.add({ ...written, name }, { signIn: account.signIn }, services.now());
  report({ step: "findings", done: 0, of: 1 });
  await lookForFindings(services);
  return { outcome: "written" };
}

/** Asks that a rule no longer counts, which a second person confirms; or takes that back. */
export async function askEndOfHouseRule(services: Services, account: Account, id: number, asks: boolean): Promise<boolean> {
  demand(account, "set-rules");
  return services.houseRules.askEnd(id, asks, { signIn: account.signIn }, services.now());
}

/** Ends a rule of which somebody else asked it, and looks for the findings of the present register anew; false where nobody else did. */
export async function endHouseRule(services: Services, account: Account, id: number, report: Report): Promise<boolean> {
  demand(account, "set-rules");
  if (!(await services.houseRules.end(id, { signIn: account.signIn }, services.now()))) return false;
  report({ step: "findings", done: 0, of: 1 });
  await lookForFindings(services);
  return true;
}
