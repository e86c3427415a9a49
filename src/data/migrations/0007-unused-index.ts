import type { QueryInterface } from "sequelize";
import { registerTables } from "../register-tables";

/** Rows are compared by hash in memory; the index by hash was never asked, and inserting in its random order cost most of an intake. */
export async function up(schema: QueryInterface): Promise<void> {
  for (const { name } of registerTables) await schema.removeIndex(name, "by_hash");
}
