import type { CheckedWish, ClosingOutcome } from "@/core/certification/closing-check";
import { closingCheck } from "@/core/certification/closing-check";
import { holderOfLine } from "@/core/certification/holder-of-line";
import { askedOfLine, wishOfDecision } from "@/core/certification/line-withdrawal";
import { isDescribed } from "@/core/certification/withdrawal/described-change";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import { directoryOf } from "@/core/register/directory";
import { horizonOf } from "@/core/table/horizon";
import type { EpochMinute } from "@/core/time/instant";
import { minuteDown, parseInstant } from "@/core/time/instant";
import type { CheckOutcome } from "@/core/certification/wish-state";
import type { ClosingCheck, Order } from "../ports/orders";
import type { AccessDocketLine } from "../ports/rounds";
import { system } from "../ports/record";
import { checkTask } from "@/core/certification/check-task";
import { isDefinition } from "@/core/certification/line-content";
import { isAccessLine, namesOfWays } from "./orders-of-lines";
import type { OpenRegister } from "../register/open-register";
import { openRegister } from "../register/open-register";
import type { Services } from "../services";

const minuteOf = (at: string) => minuteDown(required(parseInstant(at), "times of the clock are instants"));

/**
 * When the last order of a wish was sent to a source; what Nomade carries out itself stands in the register as soon as it is stored, whenever that
 * was exported.
 */
function lastSent(orders: readonly Order[], asOf: EpochMinute): EpochMinute {
  const sent = orders.flatMap(({ source, sentAt }) => (source === undefined || sentAt === undefined ? [] : minuteOf(sentAt)));
  return sent.length === 0 ? asOf : sent.reduce((a, b) => (a > b ? a : b));
}

/** What a line wished, over the register that it was decided on. */
function checkedWish(before: CompiledFacility, line: AccessDocketLine): CheckedWish {
  const holder = holderOfLine(line.line);
  if (line.line.subject.kind === "credential") return { kind: "return", holder, credential: line.line.subject.id };
  return { kind: "doors", holder, ...askedOfLine(before, line.line, wishOfDecision(line)) };
}

/** Names of all that a check speaks of, by kind and id. */
function namesIn(after: CompiledFacility, found: ClosingOutcome): Record<string, string> {
  const directory = directoryOf(after);
  const names: Record<string, string> = {};
  const doors = "doors" in found ? found.doors : found.outcome === "in-part" ? [...found.shut, ...found.fewer, ...found.left, ...found.lost] : [];
  for (const door of doors) names[`door ${door}`] = directory.name("door", door);
  return { ...names, ...(found.outcome === "record-gone" && namesOfWays(after, found.by)) };
}

/** Sources with orders of a wish that have brought nothing since these were sent. */
function silentSources(orders: readonly Order[], spoken: ReadonlyMap<string, string>): string[] {
  const silent = orders.filter(({ source, sentAt }) => source !== undefined && (spoken.get(source) ?? "") <= (sentAt ?? ""));
  return [...new Set(silent.flatMap(({ source }) => source ?? []))].sort();
}

/**
 * Asks a register that was just stored what became of the orders that were sent to its source, and of those that Nomade carries out itself; the answers are
 * kept. An edit of our own never closes an order of a source, and a wish is done only when all sources with orders of it have spoken.
 */
export async function checkOrders(services: Services, register: OpenRegister): Promise<void> {
  const { snapshot, compiled: after } = register;
  const sent = await services.orders.sent();
  const byLine = groupBy(
    sent.flatMap((order) => order.lines.map((line) => ({ line, order }))),
    ({ line }) => line,
  );
  const concerned = [...byLine].filter(([, own]) => own.some(({ order }) => order.source === undefined || order.source === snapshot.source));
  if (concerned.length === 0) return;
  const ids = concerned.map(([line]) => line);
  const [lines, earlier, snapshots] = await Promise.all([services.rounds.lines({ ids }), services.orders.checks(ids), services.snapshots.list()]);
  const wasDone = new Set(earlier.filter(({ snapshot: of, found }) => of < snapshot.id && found.outcome === "done").map(({ line }) => line));
  const spoken = new Map<string, string>();
  for (const { source, takenAt } of snapshots) if (takenAt > (spoken.get(source) ?? "")) spoken.set(source, takenAt);
  const rounds = new Map((await services.rounds.list()).map(({ id, snapshot: of }) => [id, of]));
  const lineOf = new Map(lines.map((line) => [line.id, line]));
  const checks: ClosingCheck[] = [];
  // One register of before after the other: few are at hand at once.
  const bySnapshot = groupBy(concerned, ([, own]) => rounds.get(own[0]?.order.round ?? -1));
  for (const [of, group] of bySnapshot) {
    const before = of === undefined ? undefined : await openRegister(services, of);
    if (!before) continue;
    for (const [id, own] of group) {
      const line = lineOf.get(id);
      if (!line) continue;
      const orders = own.map(({ order }) => order);
      const asked = { before: before.compiled, after, sentAt: lastSent(orders, horizonOf(after).asOf), leftOut: snapshot.leftOut };
      if (isDefinition(line.line)) {
        const isSaidDone = orders.every(({ answer }) => answer?.said === "done");
        const found = checkTask({ ...asked, subject: line.line.subject, isSaidDone });
        checks.push({ line: id, snapshot: snapshot.id, at: services.now(), found, names: {} });
      }
      if (!isAccessLine(line)) continue;
      const found = closingCheck({
        ...asked,
        wish: checkedWish(before.compiled, line),
        ordered: orders.flatMap(({ described }) => (isDescribed(described) ? described.change : [])),
        wasDone: wasDone.has(id),
      });
      const silent = found.outcome === "done" ? silentSources(orders, spoken) : [];
      const told: CheckOutcome = silent.length > 0 ? { outcome: "awaited", sources: silent } : found;
      checks.push({ line: id, snapshot: snapshot.id, at: services.now(), found: told, names: namesIn(after, found) });
    }
  }
  await services.orders.putChecks(checks, system);
}
