import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Rule settings that wait for a second person: at most one row. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.sequelize.query(
    `CREATE TABLE IF NOT EXISTS rule_settings_waiting (id INT NOT NULL PRIMARY KEY, settings MEDIUMTEXT NOT NULL, second_person_from INT NOT NULL, instead INT NOT NULL,
     made_by VARCHAR(128) NOT NULL, made_at VARCHAR(32) NOT NULL)`,
    { type: QueryTypes.RAW },
  );
}
