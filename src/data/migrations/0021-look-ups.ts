import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Who looked up whose access or events, and when. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.sequelize.query(
    `CREATE TABLE IF NOT EXISTS look_ups (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, account INT NOT NULL, at VARCHAR(32) NOT NULL, what VARCHAR(32) NOT NULL,
     kind VARCHAR(32) NOT NULL, object VARCHAR(128) NOT NULL, name VARCHAR(255) NOT NULL, KEY (object), KEY (account, id))`,
    { type: QueryTypes.RAW },
  );
}
