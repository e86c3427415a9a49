import { DataTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** How each source writes its tables: which file is which, and which header stands for which column. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.createTable("source_profiles", {
    source: { type: DataTypes.STRING(255), primaryKey: true },
    mapping: { type: DataTypes.TEXT("medium"), allowNull: false },
    changed_at: { type: DataTypes.STRING(32), allowNull: false },
    changed_by: { type: DataTypes.STRING(128), allowNull: false },
  });
}
