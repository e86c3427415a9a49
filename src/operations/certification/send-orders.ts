import { holderOf } from "@/core/certification/withdrawal/wish";
import { holderOfLine } from "@/core/certification/holder-of-line";
import { orderIds } from "@/core/certification/withdrawal/renamed-changes";
import { aboutKey, aboutOfLine, isDefinition } from "@/core/certification/line-content";
import { isDescribed } from "@/core/certification/withdrawal/described-change";
import { doorsOfLine } from "@/core/certification/line-withdrawal";
import { groupBy } from "@/core/kernel/compare";
import type { Account } from "../ports/accounts";
import type { NewOrder, Order } from "../ports/orders";
import type { DocketLine, Round } from "../ports/rounds";
import { readOwnership } from "../register/drafts/show-draft";
import type { OpenRegister } from "../register/open-register";
import { openRegister } from "../register/open-register";
import { demand } from "../rights";
import { queueOrderMails } from "../mail/order-mails";
import type { Services } from "../services";
import { cardholdersOf, effectiveLines, orderKey, ordersOfLines, planningTerms } from "./orders-of-lines";

/** Orders of one holder that would be otherwise on the present register: those that go, and those that come in their place. */
export interface PlannedAnew {
  readonly holderName: string;
  readonly before: readonly Order[];
  readonly after: readonly NewOrder[];
}

export interface SendingPreview {
  readonly round: number;
  /** The register over which orders are planned anew. */
  readonly snapshot: number;
  /** Orders that can be sent as they are. */
  readonly asOrdered: readonly Order[];
  readonly otherwise: readonly PlannedAnew[];
  /** Holders of whom the present register has nothing any more, so that nothing could be planned anew. */
  readonly unknown: readonly string[];
}

const unsentOf = (orders: readonly Order[]): Order[] => orders.filter(({ sentAt, cancelledAt }) => sentAt === undefined && cancelledAt === undefined);

/** Whether the present register still has all that lines speak of, so that they can be planned anew over it. */
const isKnown = ({ compiled }: OpenRegister, lines: readonly DocketLine[]): boolean =>
  lines.every(({ line }) => {
    // What is asked for in words stands as it was written.
    if (isDefinition(line)) return true;
    const { kind, id } = line.subject;
    return (
      holderOf(compiled, holderOfLine(line)) !== undefined && (kind === "credential" ? compiled.credentialById.has(id) : doorsOfLine(compiled, line).length > 0)
    );
  });

/** What was decided of the holders of some lines in dockets of their round that are signed or closed, by holder. */
async function decidedLines(services: Services, round: Round, of: readonly number[]): Promise<Map<string, DocketLine[]>> {
  const [ordered, dockets] = await Promise.all([services.rounds.lines({ ids: of }), services.rounds.dockets({ round: round.id })]);
  const over = new Set(dockets.filter(({ signedAt, closedAt }) => (signedAt ?? closedAt) !== undefined).map(({ id }) => id));
  const cardholders = cardholdersOf(ordered);
  const ofCardholders = cardholders.length === 0 ? [] : await services.rounds.lines({ round: round.id, cardholders });
  // Cards that nobody holds, and definitions, are asked for by their dockets.
  const ownerless = ordered.filter(({ line }) => isDefinition(line) || line.cardholder === undefined);
  const holders = new Set(ownerless.map(({ line }) => aboutKey(aboutOfLine(line))));
  const beside = await Promise.all([...new Set(ownerless.map(({ docket }) => docket))].map((docket) => services.rounds.lines({ docket })));
  const ofCards = beside.flat().filter(({ line }) => holders.has(aboutKey(aboutOfLine(line))));
  return groupBy(
    [...ofCardholders, ...ofCards].filter(({ docket }) => over.has(docket)),
    ({ line }) => aboutKey(aboutOfLine(line)),
  );
}

/** What sending the orders of a round would come to: they are planned anew on the present register, and every difference is told. */
export async function previewSending(services: Services, account: Account, roundId: number): Promise<SendingPreview | undefined> {
  demand(account, "run-rounds");
  const [round, register] = await Promise.all([services.rounds.byId(roundId), openRegister(services)]);
  if (!round || !register) return undefined;
  const orders = await services.orders.ofRound(roundId);
  const unsent = unsentOf(orders);
  const sent = new Set(orders.filter(({ sentAt, cancelledAt }) => sentAt !== undefined && cancelledAt === undefined).map(orderKey));
  const nothing = { round: roundId, snapshot: register.snapshot.id, asOrdered: [], otherwise: [], unknown: [] };
  if (unsent.length === 0) return nothing;
  const [byHolder, ownership, terms] = [
    await decidedLines(
      services,
      round,
      unsent.map(({ line }) => line),
    ),
    await readOwnership(services),
    await planningTerms(services),
  ];
  const lineHolder = new Map([...byHolder].flatMap(([holder, lines]) => lines.map(({ id }) => [id, holder] as const)));
  const asOrdered: Order[] = [];
  const otherwise: PlannedAnew[] = [];
  const unknown: string[] = [];
  const ids = new Map<number, () => string>();
  for (const [holder, own] of groupBy(unsent, ({ line }) => lineHolder.get(line) ?? "")) {
    const lines = effectiveLines(byHolder.get(holder) ?? []);
    const name = lines[0] === undefined || isDefinition(lines[0].line) ? "" : lines[0].holderName;
    if (!isKnown(register, lines)) {
      unknown.push(name);
      asOrdered.push(...own);
      continue;
    }
    const docket = lines[0]?.docket ?? 0;
    const nextId = ids.get(docket) ?? orderIds(register.compiled.facility, docket, orders.length);
    ids.set(docket, nextId);
    const planned = ordersOfLines(register, ownership, round, lines, services.now(), nextId, terms).filter((order) => !sent.has(orderKey(order)));
    const [was, is] = [own.map(orderKey).sort(), planned.map(orderKey).sort()];
    if (was.length === is.length && was.every((key, i) => key === is[i])) asOrdered.push(...own);
    else otherwise.push({ holderName: name, before: own, after: planned });
  }
  return { ...nothing, asOrdered, otherwise, unknown };
}

/**
 * The orders of a round that were not sent yet, as they are planned on the present register: where that changed since they were made, others are put in
 * their place. `seen` is the snapshot over which somebody saw them; undefined where another one stands by now, or somebody sent one meanwhile.
 */
export async function plannedAnew(services: Services, account: Account, roundId: number, seen: number): Promise<readonly Order[] | undefined> {
  const preview = await previewSending(services, account, roundId);
  if (preview?.snapshot !== seen) return undefined;
  const instead = preview.otherwise.map(({ before, after }) => ({ cancel: before.map(({ id }) => id), orders: after }));
  if (instead.length > 0 && !(await services.orders.planAnew(roundId, instead, account, services.now()))) return undefined;
  return unsentOf(await services.orders.ofRound(roundId));
}

export type SendingOutcome =
  | { readonly outcome: "sent"; readonly orders: number; readonly mailedTo: readonly string[] }
  | { readonly outcome: "refused"; readonly why: "nothing-to-send" | "changed-meanwhile" };

/**
 * Marks the orders of a round that were not sent yet as sent, and mails them to the sources that take them so. What Nomade itself can carry out is sent to
 * nobody: it is applied.
 */
export async function sendOrders(services: Services, account: Account, roundId: number, seen: number): Promise<SendingOutcome> {
  demand(account, "run-rounds");
  const unsent = await plannedAnew(services, account, roundId, seen);
  if (!unsent) return { outcome: "refused", why: "changed-meanwhile" };
  const ids = unsent.filter(({ source, described }) => source !== undefined || !isDescribed(described)).map(({ id }) => id);
  if (ids.length === 0) return { outcome: "refused", why: "nothing-to-send" };
  if (!(await services.orders.send(roundId, ids, account, services.now()))) return { outcome: "refused", why: "changed-meanwhile" };
  const [round, sent] = [await services.rounds.byId(roundId), new Set(ids)];
  const mailedTo = round
    ? await queueOrderMails(
        services,
        round,
        (await services.orders.ofRound(roundId)).filter(({ id }) => sent.has(id)),
      )
    : [];
  return { outcome: "sent", orders: ids.length, mailedTo };
}
