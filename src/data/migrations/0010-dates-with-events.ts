import { DataTypes, QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

const id = { type: DataTypes.STRING(128), allowNull: false };

/** Local dates on which a site had events, counted by the site and the zone that each door had when it was counted. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.createTable("site_event_dates", { site: { ...id, primaryKey: true }, date: { type: DataTypes.INTEGER, allowNull: false, primaryKey: true } });
  await schema.createTable("counted_doors", { door: { ...id, primaryKey: true }, site: id, zone: { type: DataTypes.STRING(64), allowNull: false } });
  // How far back events of a door go tells nothing of what lies between: only that it has some is asked for.
  await schema.createTable("doors_with_events", { door: { ...id, primaryKey: true } });
  await schema.sequelize.query("INSERT INTO doors_with_events (door) SELECT door FROM door_coverage", { type: QueryTypes.INSERT });
  await schema.dropTable("door_coverage");
}
