import type { Names } from "../register/drafts/change-names";
import type { Account } from "../ports/accounts";
import type { Docket, Order, Round } from "../ports/rounds";
import { demand } from "../rights";
import type { Services } from "../services";

export interface RoundOverview {
  readonly round: Round;
  readonly dockets: readonly Docket[];
  readonly orders: number;
  /** Rows of the snapshot's files that were not read. */
  readonly leftOut: number;
}

/** What the snapshot decides was kept when the round was opened, so that no register is opened for it. */
async function overview(services: Services, round: Round): Promise<RoundOverview> {
  const [dockets, snapshot, orders] = await Promise.all([
    services.rounds.dockets({ round: round.id }),
    services.snapshots.byId(round.snapshot),
    services.rounds.orders(round.id),
  ]);
  return { round, dockets, orders: orders.length, leftOut: snapshot?.leftOut ?? 0 };
}

/** Every round with its dockets, the latest first. */
export async function listRounds(services: Services, account: Account): Promise<RoundOverview[]> {
  demand(account, "read-rounds");
  return Promise.all((await services.rounds.list()).map((round) => overview(services, round)));
}

export async function showRound(services: Services, account: Account, id: number): Promise<RoundOverview | undefined> {
  demand(account, "read-rounds");
  const round = await services.rounds.byId(id);
  return round && overview(services, round);
}

export interface NamedOrder extends Order {
  readonly holderName: string;
  readonly staffNumber: string;
  readonly subject: string;
  readonly reason: string;
  /** Who decided it; undefined for the reviewer. */
  readonly decidedBy: string | undefined;
  /** Names of what the change speaks of. */
  readonly names: Names;
}

/** The orders of a round, in terms of the source and with whom they are about. */
export async function listOrders(services: Services, account: Account, round: number): Promise<NamedOrder[]> {
  demand(account, "read-rounds");
  const [orders, dockets] = await Promise.all([services.rounds.orders(round), services.rounds.dockets({ round })]);
  const certifiers = new Map(dockets.map(({ id, certifierName }) => [id, certifierName]));
  const lines = new Map((await services.rounds.lines({ ids: orders.map(({ line }) => line) })).map((line) => [line.id, line]));
  return orders.flatMap((order) => {
    const line = lines.get(order.line);
    if (!line) return [];
    return [
      {
        ...order,
        holderName: line.holderName,
        staffNumber: line.holder?.staffNumber ?? "",
        subject: line.line.subject.name,
        reason: line.reason,
        decidedBy: certifiers.get(line.docket),
        names: order.names ?? {},
      },
    ];
  });
}

/** The orders of a round as they leave Nomade, which stands in the record; undefined where there is no such round. */
export async function exportOrders(services: Services, account: Account, round: number): Promise<NamedOrder[] | undefined> {
  demand(account, "read-rounds");
  if (!(await services.rounds.byId(round))) return undefined;
  const orders = await listOrders(services, account, round);
  await services.record.append(account, services.now(), { what: "orders.exported", on: `round ${round}` });
  return orders;
}
