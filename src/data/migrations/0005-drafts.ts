import { DataTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true };
const name = (length = 128) => ({ type: DataTypes.STRING(length), allowNull: false });
const maybe = (length = 128) => ({ type: DataTypes.STRING(length) });
const number = { type: DataTypes.INTEGER, allowNull: false };
const long = { type: DataTypes.TEXT("medium") };

/** Drafts with their changes, with whom they are shared, and the orders that come of them; what each source brings. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.createTable("drafts", {
    id,
    name: name(255),
    owner: number,
    opened_at: name(32),
    state: name(16),
    revision: { ...number, defaultValue: 0 },
    ended_at: maybe(32),
    ended_by: { type: DataTypes.INTEGER },
    made_snapshot: { type: DataTypes.INTEGER },
  });
  await schema.createTable("draft_shares", { draft: { ...number, primaryKey: true }, account: { ...number, primaryKey: true } });
  await schema.createTable("draft_changes", {
    id,
    draft: number,
    list: name(32),
    // The key of a membership can be longer than an index takes; its hash is not.
    object_key: { type: DataTypes.TEXT, allowNull: false },
    key_hash: name(64),
    base: long,
    value: long,
    version: number,
    changed_at: name(32),
    changed_by: number,
  });
  await schema.addIndex("draft_changes", ["draft", "list", "key_hash"], { name: "one_of_each", unique: true });
  await schema.addIndex("draft_changes", ["list", "key_hash"], { name: "by_object" });
  await schema.createTable("draft_orders", {
    id,
    draft: number,
    position: number,
    source: name(255),
    action: name(16),
    list: name(32),
    object_key: { type: DataTypes.TEXT, allowNull: false },
    fields: { ...long, allowNull: false },
    made_at: name(32),
  });
  await schema.addIndex("draft_orders", ["draft", "position"], { name: "by_draft" });
  await schema.createTable("source_lists", { source: { ...name(255), primaryKey: true }, brings: { ...long, allowNull: false }, snapshot: number });
}
