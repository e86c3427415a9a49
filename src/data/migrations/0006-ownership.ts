import { DataTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** What each source's profile lets it own. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.addColumn("source_profiles", "owns", { type: DataTypes.TEXT("medium"), allowNull: false, defaultValue: "{}" });
}
