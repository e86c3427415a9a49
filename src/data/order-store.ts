import type { Sequelize, Transaction } from "sequelize";
import type { CheckOutcome } from "@/core/certification/wish-state";
import type { OrderStore } from "@/operations/ports/orders";
import type { OrderRow } from "./order-rows";
import { asOrder, insertOrders, orderColumns } from "./order-rows";
import { appendRecord, writeHead } from "./record-store";
import { execute, insertRows, select } from "./statements";

interface CheckRow {
  readonly line: number;
  readonly snapshot: number;
  readonly at: string;
  readonly outcome: string;
  readonly names: string;
}

/** Orders on their way to whoever carries them out, and what later registers tell of them. */
export function orderStore(sequelize: Sequelize, folder: string): OrderStore {
  /** Writes in one transaction, and then the head of the record beside the database. */
  async function written<T>(write: (transaction: Transaction) => Promise<T>): Promise<T> {
    const done = await sequelize.transaction(write);
    await writeHead(sequelize, folder);
    return done;
  }
  /** Locks orders of a round; whether all of them stand and were not sent yet. */
  async function areUnsent(round: number, ids: readonly number[], transaction: Transaction): Promise<boolean> {
    const open = await select<{ id: number }>(
      sequelize,
      "SELECT id FROM orders WHERE round = :round AND id IN (:ids) AND sent_at IS NULL AND cancelled_at IS NULL FOR UPDATE",
      { round, ids: [0, ...ids] },
      transaction,
    );
    return open.length === new Set(ids).size;
  }
  const roundsOf = async (ids: readonly number[], transaction: Transaction): Promise<ReadonlyMap<number, number>> =>
    new Map(
      (await select<{ id: number; round: number }>(sequelize, "SELECT id, round FROM orders WHERE id IN (:ids)", { ids: [0, ...ids] }, transaction)).map(
        ({ id, round }) => [id, round],
      ),
    );
  return {
    ofRound: async (round) =>
      (await select<OrderRow>(sequelize, `SELECT ${orderColumns} FROM orders WHERE round = :round ORDER BY id`, { round })).map(asOrder),
    sent: async () =>
      (await select<OrderRow>(sequelize, `SELECT ${orderColumns} FROM orders WHERE sent_at IS NOT NULL AND cancelled_at IS NULL ORDER BY id`)).map(asOrder),
    planAnew: (round, instead, by, at) =>
      written(async (transaction) => {
        const cancelled = instead.flatMap(({ cancel }) => cancel);
        if (!(await areUnsent(round, cancelled, transaction))) return false;
        if (cancelled.length > 0) await execute(sequelize, "UPDATE orders SET cancelled_at = :at WHERE id IN (:ids)", { at, ids: cancelled }, transaction);
        for (const { cancel, orders } of instead) {
          const anew = await insertOrders(sequelize, transaction, orders, at, true);
          const on = `orders of line ${orders[0]?.line ?? ""}`;
          await appendRecord(sequelize, transaction, by, at, { what: "orders.planned-anew", on, after: { instead: cancel, ...anew } });
        }
        return true;
      }),
    send: (round, ids, by, at) =>
      written(async (transaction) => {
        if (!(await areUnsent(round, ids, transaction))) return false;
        await execute(sequelize, "UPDATE orders SET sent_at = :at, sent_by = :by WHERE id IN (:ids)", { at, by: by.id, ids: [0, ...ids] }, transaction);
        await appendRecord(sequelize, transaction, by, at, { what: "orders.sent", on: `round ${round}`, after: { orders: ids.length, ids } });
        return true;
      }),
    answer: ({ answers, tickets }, by, at) =>
      written(async (transaction) => {
        const rounds = await roundsOf(
          [...answers, ...tickets].map(({ order }) => order),
          transaction,
        );
        const named = (order: number): string => `order ${order} of round ${rounds.get(order) ?? ""}`;
        for (const { order, ticket } of tickets) {
          await execute(sequelize, "UPDATE orders SET ticket = :ticket WHERE id = :order", { order, ticket }, transaction);
          await appendRecord(sequelize, transaction, by, at, { what: "order.ticket", on: named(order), after: { ticket } });
        }
        for (const { order, said, note } of answers) {
          await execute(
            sequelize,
            "UPDATE orders SET answered_at = :at, answer = :said, answer_note = :note WHERE id = :order",
            { order, at, said, note },
            transaction,
          );
          await appendRecord(sequelize, transaction, by, at, { what: "order.answered", on: named(order), after: { said, note } });
        }
      }),
    checks: async (lines) =>
      (
        await select<CheckRow>(sequelize, "SELECT line, snapshot, at, outcome, names FROM closing_checks WHERE line IN (:lines) ORDER BY snapshot, id", {
          lines: [0, ...lines],
        })
      ).map(({ outcome, names, ...row }) => ({
        ...row,
        found: JSON.parse(outcome) as CheckOutcome,
        names: JSON.parse(names) as Record<string, string>,
      })),
    putChecks: async (checks, by) => {
      if (checks.length === 0) return;
      const at = checks[0]?.at ?? "";
      await written(async (transaction) => {
        const rows = checks.map(({ found, names, ...row }) => ({ ...row, outcome: JSON.stringify(found), names: JSON.stringify(names) }));
        await insertRows(
          sequelize,
          "closing_checks",
          rows,
          transaction,
          "ON DUPLICATE KEY UPDATE at = VALUES(at), outcome = VALUES(outcome), names = VALUES(names)",
        );
        const counts: Record<string, number> = {};
        for (const { found } of checks) counts[found.outcome] = (counts[found.outcome] ?? 0) + 1;
        await appendRecord(sequelize, transaction, by, at, { what: "orders.checked", on: `snapshot ${checks[0]?.snapshot ?? ""}`, after: counts });
      });
    },
  };
}
