import type { Sequelize, Transaction } from "sequelize";
import type { OrderedChange } from "@/core/certification/withdrawal/described-change";
import type { NewOrder, Order } from "@/operations/ports/orders";
import { sha256 } from "./record-store";
import { insertRows } from "./statements";

export interface OrderRow {
  readonly id: number;
  readonly round: number;
  readonly line: number;
  readonly lines: string | null;
  readonly source: string | null;
  readonly change: string;
  readonly also_lost: string;
  readonly names: string | null;
  readonly made_at: string;
  readonly due: string | null;
  readonly ticket: string | null;
  readonly sent_at: string | null;
  readonly answered_at: string | null;
  readonly answer: "done" | "refused" | null;
  readonly answer_note: string | null;
  readonly cancelled_at: string | null;
}

export const orderColumns =
  "id, round, line, `lines`, source, `change`, also_lost, names, made_at, due, ticket, sent_at, answered_at, answer, answer_note, cancelled_at";

export const asOrder = (row: OrderRow): Order => ({
  id: row.id,
  round: row.round,
  line: row.line,
  lines: row.lines === null ? [row.line] : (JSON.parse(row.lines) as number[]),
  source: row.source ?? undefined,
  described: JSON.parse(row.change) as OrderedChange,
  alsoLost: JSON.parse(row.also_lost) as string[],
  names: row.names === null ? undefined : (JSON.parse(row.names) as Record<string, string>),
  madeAt: row.made_at,
  due: row.due ?? undefined,
  ticket: row.ticket ?? undefined,
  sentAt: row.sent_at ?? undefined,
  answer: row.answered_at === null || row.answer === null ? undefined : { at: row.answered_at, said: row.answer, note: row.answer_note ?? "" },
  cancelledAt: row.cancelled_at ?? undefined,
});

/** What of an order a signature stands for. */
export type SignedOrder = Pick<OrderRow, "line" | "lines" | "source" | "change" | "also_lost">;

/** SHA-256 of the orders of a docket as they are stored, in their order; of those of older versions without what these did not write. */
export const hashOfOrders = (orders: readonly SignedOrder[]): string =>
  sha256(
    JSON.stringify(
      orders.map(({ line, lines, source, change, also_lost }) => [
        line,
        change,
        also_lost,
        ...(lines === null ? [] : [lines, ...(source === null ? [] : [source])]),
      ]),
    ),
  );

/** Writes orders, `isAnew` where they stand in the place of others; gives how many, and their hash. */
export async function insertOrders(
  sequelize: Sequelize,
  transaction: Transaction,
  orders: readonly NewOrder[],
  at: string,
  isAnew = false,
): Promise<{ readonly orders: number; readonly ordersHash: string }> {
  const rows = orders.map(({ round, line, lines, source, described, alsoLost, names, due }, position) => ({
    round,
    line,
    lines: JSON.stringify(lines),
    source: source ?? null,
    position,
    made_at: at,
    change: JSON.stringify(described),
    also_lost: JSON.stringify(alsoLost),
    names: names ? JSON.stringify(names) : null,
    due: due ?? null,
    is_anew: isAnew,
  }));
  await insertRows(sequelize, "orders", rows, transaction);
  return { orders: rows.length, ordersHash: hashOfOrders(rows) };
}
