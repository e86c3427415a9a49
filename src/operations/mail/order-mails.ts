import { groupBy } from "@/core/kernel/compare";
import { todayOf } from "../findings/today";
import type { NewMail } from "../ports/mail";
import type { Order } from "../ports/orders";
import type { Round } from "../ports/rounds";
import type { OrdersTo } from "../ports/sources";
import { namedOrdersOf } from "../certification/show-rounds";
import type { Services } from "../services";
import { usableAddress } from "./usable-address";

/** What a source is asked for in one mail, all of it at once. */
interface Asked {
  readonly round: Round;
  readonly source: string;
  readonly to: OrdersTo;
  readonly orders: readonly Order[];
}

async function mailOf(services: Services, kind: "orders" | "orders-reminder", { round, source, to, orders }: Asked, dueKey: string): Promise<NewMail> {
  const due = orders.flatMap((order) => order.due ?? []).sort()[0] ?? round.due;
  const words = services.papers.mailWords({
    kind,
    language: to.language,
    name: source,
    round: round.name,
    due,
    lines: orders.length,
    flagged: 0,
    minutes: 0,
    orders: orders.map(({ id }) => id).sort((a, b) => a - b),
  });
  return {
    ...words,
    kind,
    dueKey,
    round: round.id,
    docket: undefined,
    toAddress: to.address,
    toName: source,
    account: undefined,
    path: "",
    attachment: {
      name: `orders-${round.id}.csv`,
      type: "text/csv; charset=utf-8",
      text: services.papers.ordersByMail(await namedOrdersOf(services, round.id, orders)),
    },
  };
}

/** Where the orders of each of these sources go by mail; those without an address that can be used are left out. */
async function addressesOf(services: Services, sources: Iterable<string>): Promise<Map<string, OrdersTo>> {
  const addresses = new Map<string, OrdersTo>();
  for (const source of new Set(sources)) {
    const to = await services.sources.ordersTo(source);
    const address = usableAddress(to?.address);
    if (to && address !== undefined) addresses.set(source, { ...to, address });
  }
  return addresses;
}

const sourcesOf = (orders: readonly Order[]): string[] => orders.flatMap(({ source }) => source ?? []);

/** Queues what was just sent to each source that takes its orders by mail; gives these sources. */
export async function queueOrderMails(services: Services, round: Round, orders: readonly Order[]): Promise<readonly string[]> {
  if (services.mailSender.address === undefined) return [];
  const addresses = await addressesOf(services, sourcesOf(orders));
  const mails: NewMail[] = [];
  for (const [source, own] of groupBy(orders, (order) => order.source ?? "")) {
    const to = addresses.get(source);
    if (to)
      mails.push(
        await mailOf(
          services,
          "orders",
          { round, source, to, orders: own },
          `orders ${round.id} ${own
            .map(({ id }) => id)
            .join(",")
            .slice(0, 180)}`,
        ),
      );
  }
  await services.mails.queue(mails, services.now());
  return [...addresses.keys()];
}

/** Queues, once, a reminder to each source of the orders that are due by now and that it said nothing of. */
export async function queueOrderReminders(services: Services): Promise<number> {
  if (services.mailSender.address === undefined) return 0;
  const today = todayOf(services);
  const open = (await services.orders.sent()).filter(
    ({ due, answer, source }) => due !== undefined && due < today && answer === undefined && source !== undefined,
  );
  if (open.length === 0) return 0;
  const addresses = await addressesOf(services, sourcesOf(open));
  const known = await services.mails.queuedKeys([...new Set(open.map(({ round }) => round))]);
  const mails: NewMail[] = [];
  for (const [key, orders] of groupBy(open, ({ round, source = "", due = "" }) => `orders-reminder ${round} ${due} ${source}`.slice(0, 250))) {
    const [first] = orders;
    const to = addresses.get(first?.source ?? "");
    const round = to && first && !known.has(key) ? await services.rounds.byId(first.round) : undefined;
    if (to && round && first?.source !== undefined) mails.push(await mailOf(services, "orders-reminder", { round, source: first.source, to, orders }, key));
  }
  return services.mails.queue(mails, services.now());
}
