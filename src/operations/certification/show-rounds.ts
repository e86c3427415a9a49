import type { Account } from "../ports/accounts";
import type { MailState } from "../ports/mail";
import type { NamedOrder, Order } from "../ports/orders";
import type { DepartmentProgress, Docket, DocketLine, Round, Substitute } from "../ports/rounds";
import { demand, seesRound } from "../rights";
import type { Services } from "../services";
import type { Wish, WishCounts, WishProgress } from "./wishes";
import { countWishes, wishesOf, wishProgress } from "./wishes";

export interface RoundOverview {
  readonly round: Round;
  readonly dockets: readonly Docket[];
  /** Orders that stand: those that were planned anew or taken back left out. */
  readonly orders: number;
  readonly wishes: WishCounts;
  /** Rows of the snapshot's files that were not read. */
  readonly leftOut: number;
}

interface RoundInFull extends Omit<RoundOverview, "wishes" | "orders"> {
  readonly orders: readonly Order[];
  readonly progress: readonly WishProgress[];
}

/** What the snapshot decides was kept when the round was opened, so that no register is opened for it. */
async function inFull(services: Services, round: Round): Promise<RoundInFull> {
  const [dockets, snapshot, orders] = await Promise.all([
    services.rounds.dockets({ round: round.id }),
    services.snapshots.byId(round.snapshot),
    services.orders.ofRound(round.id),
  ]);
  const standing = orders.filter(({ cancelledAt }) => cancelledAt === undefined);
  return { round, dockets, orders: standing, progress: await wishProgress(services, standing), leftOut: snapshot?.leftOut ?? 0 };
}

const overview = (services: Services, { progress, orders, ...round }: RoundInFull): RoundOverview => ({
  ...round,
  orders: orders.length,
  wishes: countWishes(progress, services.now()),
});

/** Every round with its dockets, the latest first. */
export async function listRounds(services: Services, account: Account): Promise<RoundOverview[]> {
  demand(account, "read-rounds");
  return Promise.all(
    (await services.rounds.list()).filter((round) => seesRound(account, round)).map(async (round) => overview(services, await inFull(services, round))),
  );
}

/** The lines that orders serve, by their numbers. */
const linesOfOrders = async (services: Services, orders: readonly Order[]): Promise<Map<number, DocketLine>> =>
  new Map((await services.rounds.lines({ ids: [...new Set(orders.flatMap(({ lines }) => lines))] })).map((line) => [line.id, line]));

function namedOrders(orders: readonly Order[], dockets: readonly Docket[], lines: ReadonlyMap<number, DocketLine>): NamedOrder[] {
  const certifiers = new Map(dockets.map(({ id, certifierName }) => [id, certifierName]));
  return orders.flatMap((order) => {
    const line = lines.get(order.line);
    if (!line) return [];
    return [
      {
        ...order,
        holderName: line.holderName,
        staffNumber: line.holder?.staffNumber ?? "",
        subject: line.line.subject,
        reason: line.reason,
        decidedBy: certifiers.get(line.docket),
        names: order.names ?? {},
      },
    ];
  });
}

/** The orders of a round that stand, in terms of the source and with whom they are about. */
export async function listOrders(services: Services, account: Account, round: number): Promise<NamedOrder[]> {
  demand(account, "read-rounds");
  const of = await services.rounds.byId(round);
  if (!of || !seesRound(account, of)) return [];
  const [orders, dockets] = await Promise.all([services.orders.ofRound(round), services.rounds.dockets({ round })]);
  const standing = orders.filter(({ cancelledAt }) => cancelledAt === undefined);
  return namedOrders(standing, dockets, await linesOfOrders(services, standing));
}

/** Some orders of a round with whom they are about. */
export const namedOrdersOf = async (services: Services, round: number, orders: readonly Order[]): Promise<NamedOrder[]> =>
  namedOrders(orders, await services.rounds.dockets({ round }), await linesOfOrders(services, orders));

export interface RoundSheet extends RoundOverview {
  readonly named: readonly NamedOrder[];
  readonly wishList: readonly Wish[];
  readonly departments: readonly DepartmentProgress[];
  readonly substitutes: readonly Substitute[];
  /** Undefined where no mail is sent at all. */
  readonly mails: readonly MailState[] | undefined;
  /** Who could stand in for a certifier: everybody who may certify. */
  readonly couldSubstitute: readonly Pick<Account, "id" | "name" | "cardholder">[];
  /** Whether this account asked for the round to be closed, and so cannot confirm it. */
  readonly askedByYou: boolean;
}

/** A round as a reviewer works with it; undefined where there is none. */
export async function showRound(services: Services, account: Account, id: number): Promise<RoundSheet | undefined> {
  demand(account, "read-rounds");
  const round = await services.rounds.byId(id);
  if (!round || !seesRound(account, round)) return undefined;
  const full = await inFull(services, round);
  const [lines, departments, substitutes, accounts] = await Promise.all([
    linesOfOrders(services, full.orders),
    services.rounds.departments(id),
    services.rounds.substitutes(id),
    services.accounts.all(),
  ]);
  const mails = services.mailSender.address === undefined ? undefined : await services.mails.ofRound(id);
  return {
    ...overview(services, full),
    named: namedOrders(full.orders, full.dockets, lines),
    wishList: wishesOf(full.progress, lines),
    departments,
    substitutes,
    mails,
    couldSubstitute: accounts.filter(({ role }) => role !== "auditor").map(({ id: number, name, cardholder }) => ({ id: number, name, cardholder })),
    askedByYou: round.closingAsked?.by.id === account.id,
  };
}

/** The orders of a round as they leave Nomade, which stands in the record; undefined where there is no such round. */
export async function exportOrders(services: Services, account: Account, round: number): Promise<NamedOrder[] | undefined> {
  demand(account, "read-rounds");
  const of = await services.rounds.byId(round);
  if (!of || !seesRound(account, of)) return undefined;
  const orders = await listOrders(services, account, round);
  await services.record.append(account, services.now(), { what: "orders.exported", on: `round ${round}` });
  return orders;
}
