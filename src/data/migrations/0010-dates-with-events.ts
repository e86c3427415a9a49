import { DataTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

const id = { type: DataTypes.STRING(128), allowNull: false };

/** Local dates on which a site had events, counted by the site and the zone that each door had when it was counted. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.createTable("site_event_dates", { site: { ...id, primaryKey: true }, date: { type: DataTypes.INTEGER, allowNull: false, primaryKey: true } });
  await schema.createTable("counted_doors", { door: { ...id, primaryKey: true }, site: id, zone: { type: DataTypes.STRING(64), allowNull: false } });
  // How far back events of a door go tells nothing of what lies between: only that it has some is asked for.
  await schema.renameTable("door_coverage", "doors_with_events");
  await schema.removeColumn("doors_with_events", "from_minute");
  await schema.removeColumn("doors_with_events", "to_minute");
}
