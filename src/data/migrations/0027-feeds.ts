import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Tokens with which sources push people, and what they pushed: a resource that ended stays. */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run(
    `CREATE TABLE IF NOT EXISTS feed_tokens (id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, source VARCHAR(255) NOT NULL, hash CHAR(64) NOT NULL,
     made_at VARCHAR(32) NOT NULL, made_by VARCHAR(128) NOT NULL, last_used_at VARCHAR(32) NULL, revoked_at VARCHAR(32) NULL, UNIQUE KEY (hash))`,
  );
  // Names are compared by the hash of their lower-case form; one that ended has none, so that it stands in nobody's way.
  await run(
    `CREATE TABLE IF NOT EXISTS feed_resources (number BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, id CHAR(36) NOT NULL, source VARCHAR(255) NOT NULL,
     kind VARCHAR(8) NOT NULL, name_key CHAR(64) NULL, external_key CHAR(64) NULL, body MEDIUMTEXT NOT NULL, version INT NOT NULL,
     created_at VARCHAR(32) NOT NULL, changed_at VARCHAR(32) NOT NULL, inactive_since VARCHAR(32) NULL, ended_at VARCHAR(32) NULL,
     UNIQUE KEY (id), UNIQUE KEY name (source, kind, name_key), KEY external (source, kind, external_key), KEY listed (source, kind, ended_at, number),
     KEY counted (source, kind, ended_at, changed_at))`,
  );
  await run("CREATE TABLE IF NOT EXISTS feeds_taken (source VARCHAR(255) NOT NULL PRIMARY KEY, taken_at VARCHAR(32) NOT NULL)");
}
