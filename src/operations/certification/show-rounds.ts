import type { Names } from "../register/drafts/change-names";
import { namesInChanges } from "../register/drafts/change-names";
import type { Account } from "../ports/accounts";
import type { Docket, Order, Round } from "../ports/rounds";
import { demand } from "../rights";
import type { Services } from "../services";

export interface RoundOverview {
  readonly round: Round;
  readonly dockets: readonly (Docket & { readonly certifierName: string })[];
  readonly orders: number;
  /** Rows of the snapshot's files that were not read. */
  readonly leftOut: number;
}

async function overview(services: Services, round: Round): Promise<RoundOverview> {
  const dockets = await services.rounds.dockets({ round: round.id });
  const snapshot = await services.snapshots.byId(round.snapshot);
  const compiled = snapshot && (await services.compiled(snapshot));
  const nameOf = (certifier: string | undefined): string =>
    (certifier === undefined ? undefined : compiled?.facility.cardholders[compiled.cardholderById.get(certifier) ?? -1]?.name) ?? "Nobody named: the reviewer";
  return {
    round,
    dockets: dockets.map((docket) => ({ ...docket, certifierName: nameOf(docket.certifier) })),
    orders: (await services.rounds.orders(round.id)).length,
    leftOut: snapshot?.leftOut ?? 0,
  };
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
  readonly decidedBy: string;
  /** Names of what the change speaks of. */
  readonly names: Names;
}

/** The orders of a round, in terms of the source and with whom they are about. */
export async function listOrders(services: Services, account: Account, round: number): Promise<NamedOrder[]> {
  demand(account, "read-rounds");
  const found = await services.rounds.byId(round);
  const snapshot = found && (await services.snapshots.byId(found.snapshot));
  if (!found || !snapshot) return [];
  const compiled = await services.compiled(snapshot);
  const { facility, cardholderById } = compiled;
  const dockets = new Map((await overview(services, found)).dockets.map((docket) => [docket.id, docket.certifierName]));
  const lines = new Map((await Promise.all([...dockets.keys()].map((docket) => services.rounds.lines({ docket })))).flat().map((line) => [line.id, line]));
  return (await services.rounds.orders(round)).flatMap((order) => {
    const line = lines.get(order.line);
    if (!line) return [];
    const cardholder = facility.cardholders[cardholderById.get(line.line.cardholder ?? "") ?? -1];
    return [
      {
        ...order,
        holderName: line.holderName,
        staffNumber: cardholder?.staffNumber ?? "",
        subject: line.line.subject.name,
        reason: line.reason,
        decidedBy: dockets.get(line.docket) ?? "",
        names: namesInChanges(compiled, [order.described.change], order.alsoLost),
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
