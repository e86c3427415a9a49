import type { QueryInterface } from "sequelize";

/** What speaks against one card is asked for wherever that card is shown. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.addIndex("findings", ["subject"], { name: "by_subject" });
}
