import { wishOfDecision, withdrawTogether } from "@/core/certification/line-withdrawal";
import { isCovered, strongest } from "@/core/certification/decided-together";
import { lineKey } from "@/core/certification/round-scope";
import { renamedChanges } from "@/core/certification/withdrawal/renamed-changes";
import { describedChanges } from "@/core/certification/withdrawal/described-change";
import { canonicalJson } from "@/core/facility/canonical-json";
import { ownerOfChange } from "@/core/drafting/change-owner";
import type { Ownership } from "@/core/facility/ownership";
import { groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import { horizonOf } from "@/core/table/horizon";
import { addDays, formatCivilDay, parseCivilDay } from "@/core/time/civil-day";
import { namesInChanges } from "../register/drafts/change-names";
import type { OpenRegister } from "../register/open-register";
import type { NewOrder } from "../ports/orders";
import type { DocketLine, Round } from "../ports/rounds";
import type { Services } from "../services";

export const wishOf = (line: DocketLine) => ({ line: line.line, wish: wishOfDecision(line) });

/** The date of UTC so many days after an ISO text. */
export const daysAfter = (at: string, days: number): string => {
  const date = required(parseCivilDay(at.slice(0, 10)), "a time begins with its date");
  return formatCivilDay(addDays(date, days));
};

/**
 * The orders that come of lines as they were decided, planned together over a register; those of one plan one after the other. `nextId` names what
 * they add.
 */
export function ordersOfLines(
  register: OpenRegister,
  ownership: Ownership,
  round: Pick<Round, "id" | "terms">,
  lines: readonly DocketLine[],
  at: string,
  nextId: () => string,
): NewOrder[] {
  const { compiled } = register;
  const joint = withdrawTogether(horizonOf(compiled), lines.map(wishOf));
  return joint.flatMap(({ lines: places, changes, effects }) => {
    const served = places.map((place) => required(lines[place], "a withdrawal is of some line").id);
    return describedChanges(compiled, renamedChanges(changes, nextId)).map((described): NewOrder => ({
      round: round.id,
      line: required(served[0], "a withdrawal is of some line"),
      lines: served,
      source: ownerOfChange(ownership, described),
      described,
      alsoLost: effects.lost,
      names: namesInChanges(compiled, [described.change], effects.lost),
      due: daysAfter(at, round.terms.orderDays),
    }));
  });
}

/** Lines of a docket without those that another certifier of the same, who signed before, withdrew or narrowed no less. */
export async function notYetOrdered(services: Services, round: Round, docket: number, lines: readonly DocketLine[]): Promise<readonly DocketLine[]> {
  if (round.terms.by !== "both") return lines;
  const cardholders = [...new Set(lines.flatMap(({ line }) => line.cardholder ?? []))];
  const done = new Set(
    (await services.rounds.dockets({ round: round.id })).filter((other) => other.id !== docket && other.signedAt !== undefined).map(({ id }) => id),
  );
  const others = groupBy(
    (await services.rounds.lines({ round: round.id, cardholders })).filter((line) => done.has(line.docket)),
    ({ line }) => lineKey(line),
  );
  return lines.filter((line) => {
    const { wish } = wishOf(line);
    return !(others.get(lineKey(line.line)) ?? []).some((other) => wishOf(other).wish !== "keep" && isCovered(wish, wishOf(other).wish));
  });
}

/** The lines of holders that are to go, whole or in part, as all their certifiers who are done have decided. */
export function effectiveLines(lines: readonly DocketLine[]): DocketLine[] {
  return strongest(lines.map((line) => ({ ...wishOf(line), decided: line }))).map(({ decided }) => decided);
}

/** What tells an order from others: what it changes, and how. What is added is told by what it says: it has another id each time it is planned. */
export function orderKey({ described: { change }, source }: Pick<NewOrder, "described" | "source">): string {
  if (change.do !== "add") return canonicalJson([change, source]);
  const { id: _, schedule, ...object } = change.object;
  const isNew = typeof schedule === "string" && schedule.startsWith("withdrawal-");
  return canonicalJson(["add", change.list, object, isNew ? "new" : schedule, source]);
}
