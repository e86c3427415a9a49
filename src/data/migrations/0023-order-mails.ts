import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Where a source's orders are sent by mail, and what is attached to a mail. */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run("ALTER TABLE source_profiles ADD COLUMN IF NOT EXISTS orders_to TEXT");
  await run("ALTER TABLE mails ADD COLUMN IF NOT EXISTS attachment MEDIUMTEXT");
}
