import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** How long what is personal is kept, what of it was let go, and to which sites an account is limited. Times of the clock are ISO texts of UTC. */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run(
    "CREATE TABLE IF NOT EXISTS retention (kind VARCHAR(32) NOT NULL PRIMARY KEY, months INT NOT NULL, set_at VARCHAR(32) NOT NULL, set_by VARCHAR(128) NOT NULL)",
  );
  // The values of an entry that were let go, and the entry that says so.
  await run("CREATE TABLE IF NOT EXISTS record_values_gone (number INT NOT NULL PRIMARY KEY, entry INT NOT NULL, KEY (entry))");
  for (const table of ["snapshots", "rounds", "dockets"]) await run(`ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS dropped_at VARCHAR(32)`);
  await run("ALTER TABLE accounts ADD COLUMN IF NOT EXISTS sites TEXT");
}
