import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Units at the doors: where they are, how they were last, and what they told that they hold. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.sequelize.query(
    `CREATE TABLE IF NOT EXISTS units (id VARCHAR(128) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL PRIMARY KEY, address VARCHAR(512) NOT NULL,
     token TEXT NOT NULL, is_sent_from_here TINYINT(1) NOT NULL, erring VARCHAR(8) NOT NULL, state MEDIUMTEXT NOT NULL, memory LONGBLOB NULL)`,
    { type: QueryTypes.RAW },
  );
}
