import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Tries to sign in are counted where they come in, for names that no account has too. */
export async function up(schema: QueryInterface): Promise<void> {
  // Said as SQL: the library's own way reads an answer that the driver gives otherwise.
  await schema.sequelize.query("ALTER TABLE accounts DROP COLUMN IF EXISTS failures, DROP COLUMN IF EXISTS barred_until", { type: QueryTypes.RAW });
}
