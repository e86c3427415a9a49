import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Orders that were put in the place of others before these were sent are told by themselves, and not by when they were made. */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run("ALTER TABLE orders ADD COLUMN IF NOT EXISTS is_anew BOOLEAN NOT NULL DEFAULT FALSE");
  await run(
    `UPDATE orders o JOIN docket_lines l ON l.id = o.line JOIN dockets d ON d.id = l.docket
     SET o.is_anew = TRUE WHERE o.made_at <> COALESCE(d.signed_at, d.closed_at, o.made_at)`,
  );
}
