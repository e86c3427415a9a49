import { Transaction } from "sequelize";
import type { Sequelize } from "sequelize";
import { canonicalJson } from "@/core/facility/canonical-json";
import { required } from "@/core/kernel/invariant";
import type { Decision } from "@/core/certification/decide-line";
import type { LatestEntry, StoredDocket, Verification } from "@/operations/ports/verification";
import { groupBy } from "@/core/kernel/compare";
import { readTerms } from "./docket-rows";
import { hashOfOrders } from "./order-rows";
import type { OrderRow } from "./order-rows";
import type { ColumnKind, Row, Value } from "./register-tables";
import { registerTables } from "./register-tables";
import type { StatementValues } from "./statements";
import { select } from "./statements";

interface StoredSignature {
  readonly id: number;
  readonly round: number;
  readonly snapshot: string;
  readonly signed_at: string | null;
  readonly closed_at: string | null;
  readonly sign_in: string | null;
  readonly name: string | null;
  readonly statement: string | null;
  readonly hash: string | null;
}

/** A value as it is compared: flags come back as numbers, and objects were written with their keys in any order. */
function plain(value: Value | undefined, kind: ColumnKind): string | null {
  if (value === null || value === undefined) return null;
  if (kind === "json") return canonicalJson(JSON.parse(String(value)));
  return String(typeof value === "boolean" ? Number(value) : value);
}

/** Runs some reading over the database as it stands at one moment. */
export function verifying<T>(sequelize: Sequelize, read: (store: Verification) => Promise<T>): Promise<T> {
  return sequelize.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ }, (transaction) => {
    const rowsOf = <R extends object>(statement: string, values: StatementValues = {}): Promise<R[]> => select<R>(sequelize, statement, values, transaction);
    return read({
      latest: async (what) => {
        const rows = await rowsOf<{ number: number; on_what: string; content: string | null }>(
          "SELECT e.number, e.on_what, v.content FROM record_entries e LEFT JOIN record_values v ON v.number = e.number WHERE e.what = :what ORDER BY e.number",
          { what },
        );
        return new Map(
          rows.map(({ number, on_what, content }): [string, LatestEntry] => [
            on_what,
            { number, after: content === null ? undefined : (JSON.parse(content) as { after?: unknown }).after },
          ]),
        );
      },
      snapshots: async () =>
        (await rowsOf<{ id: number; hash: string; dropped_at: string | null }>("SELECT id, hash, dropped_at FROM snapshots ORDER BY id")).map(
          ({ id, hash, dropped_at }) => ({ id, hash, isDropped: dropped_at !== null }),
        ),
      droppedDockets: async () =>
        (await rowsOf<{ id: number; hash: string | null }>("SELECT id, hash FROM dockets WHERE dropped_at IS NOT NULL ORDER BY id")).map(({ id, hash }) => ({
          id,
          hash: hash ?? undefined,
        })),
      valuesGone: async () => {
        const rows = await rowsOf<{ number: number; entry: number }>("SELECT number, entry FROM record_values_gone ORDER BY number");
        return new Map([...groupBy(rows, ({ entry }) => entry)].map(([entry, own]) => [entry, own.map(({ number }) => number)]));
      },
      head: async () => (await rowsOf<{ snapshot: number | null }>("SELECT snapshot FROM register_head WHERE id = 1"))[0]?.snapshot ?? undefined,
      registerRows: async (snapshot, facility) => {
        let rows = 0;
        const different: string[] = [];
        for (const table of registerTables) {
          const columns = Object.keys(table.columns);
          const textOf = (row: Row): string =>
            JSON.stringify(columns.map((column) => plain(row[column], required(table.columns[column], "a table has its columns"))));
          const wanted = new Map<string, number>();
          for (const row of table.rows(facility)) wanted.set(textOf(row), (wanted.get(textOf(row)) ?? 0) + 1);
          const standing = await rowsOf<Row>(
            `SELECT ${columns.map((column) => `\`${column}\``).join(", ")} FROM \`${table.name}\` WHERE since_snapshot <= :snapshot AND (until_snapshot IS NULL OR until_snapshot > :snapshot)`,
            { snapshot },
          );
          rows += standing.length;
          let unknown = 0;
          for (const row of standing) {
            const text = textOf(row);
            const left = wanted.get(text) ?? 0;
            if (left === 0) unknown += 1;
            else if (left === 1) wanted.delete(text);
            else wanted.set(text, left - 1);
          }
          const missing = [...wanted.values()].reduce((sum, count) => sum + count, 0);
          if (unknown + missing > 0) different.push(`${table.name}: rows missing ${missing}, rows that are none of its own ${unknown}`);
        }
        return { rows, different };
      },
      async *dockets(round) {
        const signatures = await rowsOf<StoredSignature>(
          `SELECT d.id, d.round, s.hash AS snapshot, d.signed_at, d.closed_at, a.sign_in, a.name, d.statement, d.hash FROM dockets d JOIN rounds r ON r.id = d.round JOIN snapshots s ON s.id = r.snapshot
           LEFT JOIN accounts a ON a.id = d.signed_by WHERE d.dropped_at IS NULL ${round === undefined ? "" : "AND d.round = :round "}ORDER BY d.id`,
          round === undefined ? {} : { round },
        );
        for (const { id, round: of, snapshot, signed_at, closed_at, sign_in, name, statement, hash } of signatures) {
          const lines = await rowsOf<{ id: number; content: string; decision: Decision | null; reason: string | null; terms: string | null }>(
            "SELECT id, content, decision, reason, terms FROM docket_lines WHERE docket = :id ORDER BY position",
            { id },
          );
          const orders = await rowsOf<Pick<OrderRow, "id" | "line" | "lines" | "source" | "change" | "also_lost"> & { readonly is_anew: number | boolean }>(
            "SELECT o.id, o.line, o.`lines`, o.source, o.`change`, o.also_lost, o.is_anew FROM orders o JOIN docket_lines l ON l.id = o.line WHERE l.docket = :id ORDER BY o.position, o.id",
            { id },
          );
          // Those that were planned anew before they were sent stand in the record by themselves.
          const [first, anew] = [orders.filter(({ is_anew }) => !is_anew), orders.filter(({ is_anew }) => !!is_anew)];
          yield {
            docket: id,
            round: of,
            snapshot,
            signedAt: signed_at ?? undefined,
            closedAt: closed_at ?? undefined,
            statement: statement ?? undefined,
            hash: hash ?? undefined,
            signer: sign_in === null || name === null ? undefined : { signIn: sign_in, name },
            lines: lines.map(({ content, decision, reason, terms, ...line }) => ({
              ...line,
              ...readTerms(terms),
              terms: terms ?? undefined,
              content: JSON.parse(content) as unknown,
              decision: decision ?? undefined,
              reason: reason ?? "",
            })),
            orders: first.map(({ id: order, line }) => ({ id: order, line })),
            ordersHash: hashOfOrders(first),
            plannedAnew: [...groupBy(anew, ({ line }) => line)].map(([line, own]) => ({ line, orders: own.length, hash: hashOfOrders(own) })),
          } satisfies StoredDocket;
        }
      },
      accounts: async () =>
        (
          await rowsOf<{ sign_in: string; name: string; role: string; cardholder: string | null; sites: string | null }>(
            "SELECT sign_in, name, role, cardholder, sites FROM accounts ORDER BY id",
          )
        ).map(({ sign_in: signIn, cardholder, sites, ...account }) => ({ ...account, signIn, cardholder: cardholder ?? undefined, sites: sites ?? undefined })),
    });
  });
}
