import { waysOf } from "@/core/certification/closing-check";
import { holderOfLine } from "@/core/certification/holder-of-line";
import { askedOfLine, wishOfDecision, withdrawTogether } from "@/core/certification/line-withdrawal";
import { isCovered, strongest } from "@/core/certification/decided-together";
import { isDefinition, lineKey } from "@/core/certification/line-content";
import { renamedChanges } from "@/core/certification/withdrawal/renamed-changes";
import type { ByHand, PathLeft, Task } from "@/core/certification/withdrawal/described-change";
import { describedChanges, isDescribed } from "@/core/certification/withdrawal/described-change";
import type { PlanningTerms } from "@/core/certification/withdrawal/plan-withdrawal";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { directoryOf } from "@/core/register/directory";
import { canonicalJson } from "@/core/facility/canonical-json";
import { ownerOfChange } from "@/core/drafting/change-owner";
import type { ListKey } from "@/core/facility/document";
import type { DefinitionKind } from "@/core/certification/definitions/definition";
import type { Ownership } from "@/core/facility/ownership";
import { groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import { horizonOf } from "@/core/table/horizon";
import { addDays, formatCivilDay, parseCivilDay } from "@/core/time/civil-day";
import { readOwnership } from "../register/drafts/show-draft";
import { namesInChanges } from "../register/drafts/change-names";
import type { OpenRegister } from "../register/open-register";
import type { NewOrder } from "../ports/orders";
import type { AccessDocketLine, DocketLine, Round } from "../ports/rounds";
import type { Services } from "../services";

export const wishOf = <L extends DocketLine>(line: L) => ({ line: line.line as L["line"], wish: wishOfDecision(line) });

export const isAccessLine = (line: DocketLine): line is AccessDocketLine => !isDefinition(line.line);

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
  terms: PlanningTerms,
): NewOrder[] {
  const { compiled } = register;
  const due = daysAfter(at, round.terms.orderDays);
  const about = lines.filter(isAccessLine);
  const joint = withdrawTogether(horizonOf(compiled), about.map(wishOf), terms);
  const tasks = lines.flatMap((line) => taskOf(line, round, ownership, due));
  const withdrawals = joint.flatMap(({ lines: places, changes, effects, searched }) => {
    const served = places.map((place) => required(about[place], "a withdrawal is of some line").id);
    const first = required(served[0], "a withdrawal is of some line");
    // What its source cannot do is an order all the same: somebody has to see to it.
    const byHand = searched === "none" ? byHandOf(compiled, about, places) : undefined;
    const order = { round: round.id, line: first, lines: served, due };
    const left: NewOrder[] = byHand
      ? [{ ...order, source: ownership.ofObjects("grants"), described: byHand, alsoLost: [], names: namesOfWays(compiled, byHand.ways) }]
      : [];
    const ordered = describedChanges(compiled, renamedChanges(changes, nextId)).map((described): NewOrder => ({
      ...order,
      source: ownerOfChange(ownership, described),
      described,
      alsoLost: effects.lost,
      names: namesInChanges(compiled, [described.change], effects.lost),
    }));
    return [...ordered, ...left];
  });
  return [...withdrawals, ...tasks];
}

const listOf = { level: "levels", unlocking: "doors", calendar: "calendars", stock: "credentials", privilege: "cardholders" } as const satisfies Record<
  DefinitionKind,
  ListKey
>;

/** The order of a definition that needs changing, in words: to whoever owns such objects. */
function taskOf({ id, line, decision, reason }: DocketLine, round: Pick<Round, "id">, ownership: Ownership, due: string): NewOrder[] {
  if (!isDefinition(line) || decision !== "withdraw") return [];
  const described: Task = { task: reason, subject: line.subject };
  return [{ round: round.id, line: id, lines: [id], due, source: ownership.ofObjects(listOf[line.subject.kind]), described, alsoLost: [], names: {} }];
}

/** The ways by which what some lines ask for opens, which no change that can be made takes away. */
function byHandOf(compiled: CompiledFacility, lines: readonly AccessDocketLine[], places: readonly number[]): ByHand {
  const ways = places.flatMap((place) => {
    const line = required(lines[place], "a withdrawal is of some line");
    const asked = askedOfLine(compiled, line.line, wishOfDecision(line));
    return waysOf(compiled, { kind: "doors", holder: holderOfLine(line.line), ...asked });
  });
  return { ways: [...new Map(ways.map((way) => [canonicalJson(way), way])).values()] };
}

/** Names of the grants and groups of some ways. */
export function namesOfWays(compiled: CompiledFacility, ways: readonly PathLeft[]): Record<string, string> {
  const directory = directoryOf(compiled);
  const names: Record<string, string> = {};
  for (const way of ways) {
    if (way.kind !== "grant") continue;
    const grant = compiled.facility.grants[compiled.indexes.of("grants").get(way.grant) ?? -1];
    if (grant) names[`grant ${way.grant}`] = directory.target(grant);
    if (way.group !== undefined) names[`group ${way.group}`] = directory.name("group", way.group);
  }
  return names;
}

/** What can be asked for: whoever says which grants there are knows those that shut a door only where its profile says so; Nomade itself does. */
export async function planningTerms(services: Services): Promise<PlanningTerms> {
  const source = (await readOwnership(services)).ofObjects("grants");
  return { withBlocks: source === undefined || (await services.sources.owns(source)).grants?.blocks === true };
}

/** The cardholders whose access some lines are about. */
export const cardholdersOf = (lines: readonly DocketLine[]): string[] => [
  ...new Set(lines.flatMap(({ line }) => (isDefinition(line) ? [] : (line.cardholder ?? [])))),
];

/** Lines of a docket without those that another certifier of the same, who signed before, withdrew or narrowed no less. */
export async function notYetOrdered(services: Services, round: Round, docket: number, lines: readonly DocketLine[]): Promise<readonly DocketLine[]> {
  if (round.terms.by !== "both") return lines;
  const cardholders = cardholdersOf(lines);
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
  const access = strongest(lines.filter(isAccessLine).map((line) => ({ ...wishOf(line), decided: line })));
  // What several ask for in words stands in the words of each.
  return [...access.map(({ decided }) => decided), ...lines.filter((line) => !isAccessLine(line))];
}

/** What tells an order from others: what it changes, and how. What is added is told by what it says: it has another id each time it is planned. */
export function orderKey({ described, source }: Pick<NewOrder, "described" | "source">): string {
  if (!isDescribed(described)) return canonicalJson(["by hand", described, source]);
  const { change } = described;
  if (change.do !== "add") return canonicalJson([change, source]);
  const { id: _, schedule, ...object } = change.object;
  const isNew = typeof schedule === "string" && schedule.startsWith("withdrawal-");
  return canonicalJson(["add", change.list, object, isNew ? "new" : schedule, source]);
}
