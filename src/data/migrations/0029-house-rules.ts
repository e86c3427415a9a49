import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** What the house has written down that must always be so. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.sequelize.query(
    `CREATE TABLE IF NOT EXISTS house_rules (id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, rule TEXT NOT NULL, made_by VARCHAR(128) NOT NULL,
     made_at VARCHAR(32) NOT NULL, end_asked_by VARCHAR(128) NULL, ended_at VARCHAR(32) NULL)`,
    { type: QueryTypes.RAW },
  );
}
