import type { QueryInterface } from "sequelize";

/** From a finding to the lines of rounds that told it, without a walk of all that was ever certified. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.addIndex("docket_lines", ["cardholder"], { name: "by_cardholder" });
}
