import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** What a source says of an event in its own words may be longer than an id. */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  for (const table of ["events", "event_loading", "event_repeats"]) await run(`ALTER TABLE ${table} MODIFY reason VARCHAR(500) NULL`);
  await run("ALTER TABLE event_reasons MODIFY reason VARCHAR(500) NOT NULL");
}
