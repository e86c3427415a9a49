import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Credentials presented at doors, written down with what was expected, to be run again. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.sequelize.query(
    `CREATE TABLE IF NOT EXISTS trials (id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, trial TEXT NOT NULL, made_by VARCHAR(128) NOT NULL,
     made_at VARCHAR(32) NOT NULL, dropped_at VARCHAR(32) NULL)`,
    { type: QueryTypes.RAW },
  );
}
