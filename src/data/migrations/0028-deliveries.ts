import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** What each source sent and when, how often it is to, whom it named, and what arrived and waits for somebody. */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run(
    `CREATE TABLE IF NOT EXISTS deliveries (id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, source VARCHAR(255) NOT NULL, name VARCHAR(255) NOT NULL,
     at VARCHAR(32) NOT NULL, as_of VARCHAR(40) NULL, KEY (source, id))`,
  );
  await run(
    `CREATE TABLE IF NOT EXISTS arrivals (token VARCHAR(64) NOT NULL PRIMARY KEY, source VARCHAR(255) NOT NULL, name VARCHAR(255) NOT NULL,
     arrived_by VARCHAR(8) NOT NULL, at VARCHAR(32) NOT NULL, as_of VARCHAR(40) NULL, why TEXT NOT NULL)`,
  );
  await run(
    "CREATE TABLE IF NOT EXISTS source_people (source VARCHAR(255) NOT NULL, snapshot INT NOT NULL, people MEDIUMBLOB NOT NULL, PRIMARY KEY (source, snapshot))",
  );
  await run("ALTER TABLE source_profiles ADD COLUMN IF NOT EXISTS rhythm TEXT NOT NULL DEFAULT '{}'");
  // What was taken in before tells how often its sources send.
  await run(
    "INSERT INTO deliveries (source, name, at, as_of) SELECT source, '', taken_at, as_of FROM snapshots WHERE source <> '' AND files <> '[]' ORDER BY id",
  );
}
