import { DataTypes } from "sequelize";
import type { QueryInterface } from "sequelize";
import { columnType, registerTables } from "../register-tables";

/**
 * The register: a row stands from the snapshot `since_snapshot` until before `until_snapshot` (none: it stands now), so that
 * every snapshot can be read without a copy. `row_hash` is the SHA-256 of the row's values.
 */
export async function up(schema: QueryInterface): Promise<void> {
  for (const { name, columns } of registerTables) {
    await schema.createTable(name, {
      row_id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      row_hash: { type: DataTypes.STRING(64), allowNull: false },
      since_snapshot: { type: DataTypes.INTEGER, allowNull: false },
      until_snapshot: { type: DataTypes.INTEGER },
      ...Object.fromEntries(Object.entries(columns).map(([column, kind]) => [column, { type: columnType(kind) }])),
    });
    await schema.addIndex(name, ["row_hash"], { name: "by_hash" });
    await schema.addIndex(name, ["until_snapshot"], { name: "by_until" });
    if ("id" in columns) await schema.addIndex(name, ["id"], { name: "by_id" });
  }
  await schema.createTable("snapshots", {
    id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    hash: { type: DataTypes.STRING(64), allowNull: false },
    facility_name: { type: DataTypes.TEXT, allowNull: false },
    time_zone: { type: DataTypes.STRING(64), allowNull: false },
    as_of: { type: DataTypes.STRING(64), allowNull: false },
    taken_at: { type: DataTypes.STRING(32), allowNull: false },
    taken_by: { type: DataTypes.STRING(128), allowNull: false },
    source: { type: DataTypes.STRING(255), allowNull: false },
    file_hash: { type: DataTypes.STRING(64), allowNull: false },
    counts: { type: DataTypes.TEXT, allowNull: false },
    changes: { type: DataTypes.TEXT, allowNull: false },
    notes: { type: DataTypes.TEXT("medium"), allowNull: false },
  });
  // The frozen normal form, compressed, in pieces of at most 1 MiB.
  await schema.createTable("snapshot_pieces", {
    snapshot: { type: DataTypes.INTEGER, primaryKey: true },
    position: { type: DataTypes.INTEGER, primaryKey: true },
    bytes: { type: DataTypes.BLOB("medium"), allowNull: false },
  });
  // One row, locked by whoever stores a snapshot, so that two intakes never mix.
  await schema.createTable("register_head", {
    id: { type: DataTypes.INTEGER, primaryKey: true },
    snapshot: { type: DataTypes.INTEGER },
  });
  await schema.bulkInsert("register_head", [{ id: 1, snapshot: null }]);
}
