import { required } from "@/core/kernel/invariant";
import { doorSensitivity } from "@/core/compile/door-sensitivity";
import type { RuleKey } from "@/core/findings/finding";
import { findingsOf } from "../findings/findings-of";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand, may, seesRound } from "../rights";
import type { Services } from "../services";
import { mostSensitiveDoor, nightsFrom } from "./example-questions";
import type { Inquiry, NamedHolder } from "./inquiry";
import { contextOf, minuteNow } from "./inquiry-context";
import { holderKey, namedHolder } from "./inquiry-names";
import { openedPairs } from "./opened-pairs";

/** A story of the register at hand, from a question to its proof; of what there is not yet, nothing. */
export interface FirstSteps {
  readonly door: { readonly id: string; readonly name: string; readonly sensitivity: number };
  /** Who opens it at night, and how many do. */
  readonly nights: Inquiry;
  readonly openers: number;
  /** Whoever of them is most at risk, with the question why they open it. */
  readonly holder: { readonly named: NamedHolder; readonly verdict: Inquiry; readonly risk: number } | undefined;
  /** What speaks against them: how many findings, and the rule of the first. */
  readonly findings: { readonly count: number; readonly rule: RuleKey | undefined } | undefined;
  /** Of the last rounds that which was closed and withdrew most, else of those under way; with how many lines it withdrew. */
  readonly round: { readonly id: number; readonly name: string; readonly isClosed: boolean; readonly withdrawn: number } | undefined;
}

/** So many of the last rounds are looked at for one to tell of. */
const roundsLookedAt = 12;

async function roundToTell(services: Services, account: Account): Promise<FirstSteps["round"]> {
  if (!may(account, "read-rounds")) return undefined;
  const seen = (await services.rounds.list()).filter((round) => seesRound(account, round));
  const rounds = seen.sort((a, b) => b.id - a.id).slice(0, roundsLookedAt);
  let best: FirstSteps["round"];
  for (const { id, name, closedAt } of rounds) {
    const { total: withdrawn } = await services.rounds.someLines(id, { decision: "withdraw" }, 0, 1);
    const isClosed = closedAt !== undefined;
    if (!best || Number(isClosed) > Number(best.isClosed) || (isClosed === best.isClosed && withdrawn > best.withdrawn))
      best = { id, name, isClosed, withdrawn };
  }
  return best;
}

/** Where a story begins that leads through everything; undefined where there is no door. */
export async function firstSteps(services: Services, account: Account, register: OpenRegister): Promise<FirstSteps | undefined> {
  demand(account, "ask");
  const { compiled, snapshot } = register;
  const position = mostSensitiveDoor(compiled);
  const door = compiled.facility.doors[position];
  if (!door) return undefined;
  const nights: Inquiry = { who: undefined, where: { kind: "door", id: door.id }, when: nightsFrom(minuteNow(services), compiled), lockdown: false };
  const { awake } = openedPairs(await contextOf(services, compiled, nights));
  const risks = await services.findings.risks(snapshot.id);
  const riskOf = (pair: (typeof awake)[number]): number => risks.get(holderKey(compiled, required(pair.holders[0], "a row has a holder"))) ?? 0;
  const riskiest = awake.reduce<(typeof awake)[number] | undefined>((best, pair) => (best && riskOf(best) >= riskOf(pair) ? best : pair), undefined);
  const named = riskiest && namedHolder(compiled, required(riskiest.holders[0], "a row has a holder"));
  const against = named && may(account, "read-findings") ? (await findingsOf(services, register, [named]))(named) : undefined;
  return {
    door: { id: door.id, name: door.name, sensitivity: doorSensitivity(compiled, position) },
    nights,
    openers: awake.length,
    holder: named && { named, verdict: { ...nights, who: { kind: named.kind, id: named.id } }, risk: riskOf(riskiest) },
    findings: against && { count: against.length, rule: against[0]?.rule },
    round: await roundToTell(services, account),
  };
}
