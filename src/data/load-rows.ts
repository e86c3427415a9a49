import { invariant } from "@/core/kernel/invariant";
import { Readable } from "node:stream";
import type { Sequelize } from "sequelize";

/** A value of a row that is loaded; bytes are written as digits of 16. */
export type LoadedValue = string | number | null;

const special = /[\\\t\n\r\0]/g;
const escapes: Readonly<Record<string, string>> = { "\\": "\\\\", "\t": "\\t", "\n": "\\n", "\r": "\\r", "\0": "\\0" };

const written = (value: LoadedValue): string =>
  value === null ? "\\N" : typeof value === "number" ? String(value) : value.replace(special, (one) => escapes[one] ?? one);

/** What of a connection is used here: a query whose rows come from a stream. The library's own types do not reach through. */
interface LoadingConnection {
  query(of: { readonly sql: string; readonly infileStreamFactory: () => Readable }): Promise<{ readonly affectedRows: number }>;
}

interface Connections {
  getConnection(of: { readonly type: "write" }): Promise<LoadingConnection>;
  releaseConnection(connection: LoadingConnection): void;
}

/**
 * Loads rows into a table as one stream, some ten times as quick as statements with values. `columns` are those of the values, in their order, in the words of
 * `LOAD DATA`. It is committed at once: what is loaded must be such that nobody looks at it yet. A row that is not taken is a broken promise of ours.
 */
export async function loadRows(sequelize: Sequelize, table: string, columns: string, rows: readonly (readonly LoadedValue[])[]): Promise<void> {
  const connections = sequelize.connectionManager as unknown as Connections;
  const connection = await connections.getConnection({ type: "write" });
  try {
    const text = rows.map((row) => row.map(written).join("\t")).join("\n");
    const { affectedRows } = await connection.query({
      sql: `LOAD DATA LOCAL INFILE 'rows' INTO TABLE ${table} CHARACTER SET utf8mb4 ${columns}`,
      infileStreamFactory: () => Readable.from([Buffer.from(text, "utf8")]),
    });
    invariant(affectedRows === rows.length, `${table} takes every row that is loaded`);
  } finally {
    connections.releaseConnection(connection);
  }
}
