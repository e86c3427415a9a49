import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Demand, HouseQuestion, HouseRule } from "@/core/findings/house-rule";
import type { AddressParts } from "@/core/questions/question-address";
import type { Where } from "@/core/questions/question";
import type { EpochMinute } from "@/core/time/instant";
import { questionOfParts } from "../inquiry/question-of-parts";
import type { KeptHouseRule, WrittenHouseRule } from "../ports/house-rules";

export const partsOfQuery = (query: string): AddressParts => Object.fromEntries(new URLSearchParams(query));

/** A place as an address has it; undefined where it is none. */
export function placeOfText(compiled: CompiledFacility, text: string | undefined, now: EpochMinute): Where | undefined {
  const read = text === undefined ? undefined : questionOfParts(compiled, { where: text }, now);
  return read?.ok ? read.value.where : undefined;
}

function demandOf(compiled: CompiledFacility, { must, other, count = 1 }: WrittenHouseRule, now: EpochMinute): Demand | undefined {
  if (must === "at-least" || must === "at-most") return { must, count };
  if (must !== "not-both") return { must };
  const place = placeOfText(compiled, other, now);
  return place && { must, other: place };
}

/** Of whom, where and when a rule speaks; undefined where its words mean nothing in the register, or it asks of an instant, a draft or a snapshot. */
export function askedByRule(compiled: CompiledFacility, query: string, now: EpochMinute): HouseQuestion | undefined {
  const read = questionOfParts(compiled, partsOfQuery(query), now);
  if (!read.ok) return undefined;
  const { who, where, when, lockdown, asIfLive, snapshot, draft } = read.value;
  if (lockdown || asIfLive || snapshot !== undefined || draft !== undefined || when.kind === "now") return undefined;
  return { who: who?.kind === "everybody" ? undefined : who, where: where ?? { kind: "anywhere" }, when };
}

/** A written rule in a register: times that recur hold from its export on. */
export function houseRuleIn(compiled: CompiledFacility, written: WrittenHouseRule & Pick<KeptHouseRule, "id">, asOf: EpochMinute): HouseRule {
  const demand = demandOf(compiled, written, asOf);
  return {
    id: String(written.id),
    name: written.name,
    demand: demand ?? { must: "none" },
    asks: demand && askedByRule(compiled, written.query, asOf),
  };
}
