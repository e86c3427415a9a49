import { DataTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** What of an intake's files was read and what was not: how many rows were left out, and each file with its hash and rows. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.addColumn("snapshots", "left_out", { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 });
  await schema.addColumn("snapshots", "files", { type: DataTypes.TEXT("medium"), allowNull: false, defaultValue: "[]" });
}
