import { QueryTypes } from "sequelize";
import type { Sequelize, Transaction } from "sequelize";

/** Named values of a statement. A list of rows stands for `(…), (…)`, a list of values for what an `IN` holds. */
export type StatementValues = Readonly<Record<string, unknown>>;

/** Most rows that one statement inserts or names: what is sent stays well below the packet that the server takes. */
export const rowsAtOnce = 2000;

/** Rows of a `SELECT`; `Row` says the columns as the driver gives them. */
export const select = <Row extends object>(sequelize: Sequelize, sql: string, values: StatementValues = {}, transaction?: Transaction): Promise<Row[]> =>
  sequelize.query<Row>(sql, { type: QueryTypes.SELECT, replacements: values, transaction: transaction ?? null });

/** The first row of a `SELECT`; undefined where there is none. */
export async function selectFirst<Row extends object>(
  sequelize: Sequelize,
  sql: string,
  values: StatementValues = {},
  transaction?: Transaction,
): Promise<Row | undefined> {
  return (await select<Row>(sequelize, sql, values, transaction))[0];
}

/** Runs an `INSERT`; gives the number that the first new row was given, where its table numbers rows. */
export async function insert(sequelize: Sequelize, sql: string, values: StatementValues, transaction?: Transaction): Promise<number> {
  const [number] = await sequelize.query(sql, { type: QueryTypes.INSERT, replacements: values, transaction: transaction ?? null });
  return number;
}

/** Runs an `INSERT … VALUES :rows …` for as many rows at once as may be, until all are in. */
export async function insertValues(sequelize: Sequelize, sql: string, rows: readonly (readonly unknown[])[], transaction: Transaction): Promise<void> {
  for (let i = 0; i < rows.length; i += rowsAtOnce) await insert(sequelize, sql, { rows: rows.slice(i, i + rowsAtOnce) }, transaction);
}

/**
 * Inserts objects whose keys are columns of a table; every object has the keys of the first. `orElse` follows the values, such as
 * `ON DUPLICATE KEY UPDATE …`. Names of tables and columns are our own.
 */
export function insertRows<Row extends object>(
  sequelize: Sequelize,
  table: string,
  rows: readonly Row[],
  transaction: Transaction,
  orElse = "",
): Promise<void> {
  const columns = Object.keys(rows[0] ?? {}) as (keyof Row & string)[];
  const statement = `INSERT INTO \`${table}\` (${columns.map((column) => `\`${column}\``).join(", ")}) VALUES :rows ${orElse}`;
  const values = rows.map((row) => columns.map((column) => row[column]));
  return insertValues(sequelize, statement, values, transaction);
}

/** Runs an `UPDATE` or `DELETE`; gives how many rows it touched. The library's type for bulk statements is the one that gives that number. */
export const execute = (sequelize: Sequelize, sql: string, values: StatementValues, transaction?: Transaction): Promise<number> =>
  sequelize.query(sql, { type: QueryTypes.BULKDELETE, replacements: values, transaction: transaction ?? null });
