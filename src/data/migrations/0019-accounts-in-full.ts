import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Accounts with address, language, end and second factor; links that sign in once; mails that wait to be sent. Times of the clock are ISO texts of UTC. */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run(
    `ALTER TABLE accounts ADD COLUMN IF NOT EXISTS email VARCHAR(320), ADD COLUMN IF NOT EXISTS language VARCHAR(8), ADD COLUMN IF NOT EXISTS ended_at VARCHAR(32),
     ADD COLUMN IF NOT EXISTS last_sign_in VARCHAR(32), ADD COLUMN IF NOT EXISTS second_factor TEXT`,
  );
  await run("ALTER TABLE sessions ADD COLUMN IF NOT EXISTS agent VARCHAR(255) NOT NULL DEFAULT ''");
  await run(
    `CREATE TABLE IF NOT EXISTS sign_in_links (token_hash VARCHAR(64) NOT NULL PRIMARY KEY, account INT NOT NULL, path VARCHAR(255) NOT NULL, made_at VARCHAR(32) NOT NULL,
     until_at VARCHAR(32) NOT NULL, used_at VARCHAR(32), KEY (account))`,
  );
  await run(
    `CREATE TABLE IF NOT EXISTS mails (id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, kind VARCHAR(32) NOT NULL, due_key VARCHAR(255) NOT NULL UNIQUE, round INT, docket INT, account INT, path VARCHAR(255) NOT NULL DEFAULT '',
     to_address VARCHAR(320) NOT NULL, to_name VARCHAR(255) NOT NULL, subject VARCHAR(255) NOT NULL, words MEDIUMTEXT NOT NULL, made_at VARCHAR(32) NOT NULL, sent_at VARCHAR(32),
     tries INT NOT NULL DEFAULT 0, last_error VARCHAR(500), next_at VARCHAR(32) NOT NULL, KEY (round), KEY (sent_at, next_at))`,
  );
  await run("CREATE TABLE IF NOT EXISTS role_rules (role VARCHAR(32) NOT NULL PRIMARY KEY, second_factor BOOLEAN NOT NULL)");
}
