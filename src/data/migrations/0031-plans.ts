import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Plans of buildings: a picture, and where doors stand on it. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.sequelize.query(
    `CREATE TABLE IF NOT EXISTS plans (id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, head TEXT NOT NULL, media_type VARCHAR(32) NOT NULL,
     width INT NOT NULL, height INT NOT NULL, sha256 CHAR(64) NOT NULL, picture LONGBLOB NOT NULL, doors MEDIUMTEXT NOT NULL,
     version INT NOT NULL, changed_by VARCHAR(128) NOT NULL, changed_at VARCHAR(32) NOT NULL)`,
    { type: QueryTypes.RAW },
  );
}
