import { QueryTypes, Transaction } from "sequelize";
import type { Sequelize } from "sequelize";
import type { Decision } from "@/core/certification/decide-line";
import type { LatestEntry, StoredDocket, Verification } from "@/operations/ports/verification";
import { hashOfOrders } from "./round-store";
import { registerTables } from "./register-tables";
import { hashedRows } from "./snapshot-store";

interface StoredSignature {
  readonly id: number;
  readonly round: number;
  readonly snapshot: string;
  readonly signed_at: string | null;
  readonly sign_in: string | null;
  readonly name: string | null;
  readonly statement: string | null;
  readonly hash: string | null;
}

/** A value as it is compared: flags come back as numbers, and numbers of some columns as texts. */
const plain = (value: unknown): string => (value === null || value === undefined ? "\u0000" : typeof value === "boolean" ? String(Number(value)) : String(value as string | number));

/** Runs some reading over the database as it stands at one moment. */
export function verifying<T>(sequelize: Sequelize, read: (store: Verification) => Promise<T>): Promise<T> {
  return sequelize.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ }, (transaction) => {
    const select = <R extends object>(statement: string, replacements: Record<string, unknown> = {}): Promise<R[]> => sequelize.query<R>(statement, { type: QueryTypes.SELECT, replacements, transaction });
    return read({
      latest: async (what) => {
        const rows = await select<{ number: number; on_what: string; content: string | null }>(
          "SELECT e.number, e.on_what, v.content FROM record_entries e LEFT JOIN record_values v ON v.number = e.number WHERE e.what = :what ORDER BY e.number",
          { what },
        );
        return new Map(rows.map(({ number, on_what, content }): [string, LatestEntry] => [on_what, { number, after: content === null ? undefined : (JSON.parse(content) as { after?: unknown }).after }]));
      },
      snapshots: () => select<{ id: number; hash: string }>("SELECT id, hash FROM snapshots ORDER BY id"),
      head: async () => (await select<{ snapshot: number | null }>("SELECT snapshot FROM register_head WHERE id = 1"))[0]?.snapshot ?? undefined,
      registerRows: async (snapshot, facility) => {
        let rows = 0;
        const different: string[] = [];
        for (const table of registerTables) {
          const wanted = hashedRows(table, facility);
          const columns = Object.keys(table.columns);
          const standing = await select<Record<string, unknown> & { row_hash: string }>(
            `SELECT row_hash, ${columns.map((column) => `\`${column}\``).join(", ")} FROM \`${table.name}\` WHERE since_snapshot <= :snapshot AND (until_snapshot IS NULL OR until_snapshot > :snapshot)`,
            { snapshot },
          );
          rows += standing.length;
          let [unknown, altered] = [0, 0];
          for (const row of standing) {
            const expected = wanted.get(row.row_hash);
            if (!expected) unknown += 1;
            else if (columns.some((column) => plain(row[column]) !== plain(expected[column]))) altered += 1;
            wanted.delete(row.row_hash);
          }
          if (unknown + altered + wanted.size > 0) different.push(`${table.name}: ${altered} rows altered, ${wanted.size} missing, ${unknown} that are none of its own`);
        }
        return { rows, different };
      },
      async *dockets() {
        const signatures = await select<StoredSignature>(
          `SELECT d.id, d.round, s.hash AS snapshot, d.signed_at, a.sign_in, a.name, d.statement, d.hash FROM dockets d JOIN rounds r ON r.id = d.round JOIN snapshots s ON s.id = r.snapshot
           LEFT JOIN accounts a ON a.id = d.signed_by ORDER BY d.id`,
        );
        for (const { id, round, snapshot, signed_at, sign_in, name, statement, hash } of signatures) {
          const lines = await select<{ id: number; content: string; decision: Decision | null; reason: string | null }>("SELECT id, content, decision, reason FROM docket_lines WHERE docket = :id ORDER BY position", { id });
          const orders = await select<{ id: number; line: number; change: string; also_lost: string }>("SELECT o.id, o.line, o.`change`, o.also_lost FROM orders o JOIN docket_lines l ON l.id = o.line WHERE l.docket = :id ORDER BY o.position, o.id", { id });
          yield {
            docket: id, round, snapshot, signedAt: signed_at ?? undefined, statement: statement ?? undefined, hash: hash ?? undefined,
            signer: sign_in === null || name === null ? undefined : { signIn: sign_in, name },
            lines: lines.map(({ content, decision, reason, ...line }) => ({ ...line, content: JSON.parse(content) as unknown, decision: decision ?? undefined, reason: reason ?? "" })),
            orders: orders.map(({ id: order, line }) => ({ id: order, line })),
            ordersHash: hashOfOrders(orders),
          } satisfies StoredDocket;
        }
      },
      accounts: async () =>
        (await select<{ sign_in: string; name: string; role: string; cardholder: string | null }>("SELECT sign_in, name, role, cardholder FROM accounts ORDER BY id")).map(({ sign_in, cardholder, ...account }) => ({ ...account, signIn: sign_in, cardholder: cardholder ?? undefined })),
    });
  });
}
