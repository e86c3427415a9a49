import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Questions that somebody keeps, by the query of their address, times in words. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.sequelize.query(
    `CREATE TABLE IF NOT EXISTS kept_questions (id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, account INT NOT NULL, query TEXT NOT NULL, watched TINYINT NOT NULL,
     kept_at VARCHAR(32) NOT NULL, KEY (account, id))`,
    { type: QueryTypes.RAW },
  );
}
