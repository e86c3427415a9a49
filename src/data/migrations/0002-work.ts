import { DataTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true };
const name = (length = 128) => ({ type: DataTypes.STRING(length), allowNull: false });
const maybe = (length = 128) => ({ type: DataTypes.STRING(length) });
const text = { type: DataTypes.TEXT, allowNull: false };
const number = { type: DataTypes.INTEGER, allowNull: false };
const minute = { type: DataTypes.BIGINT, allowNull: false };

/** People who sign in, the record, events and their aggregates, findings, rounds. Times of the clock are ISO texts of UTC. */
export async function up(schema: QueryInterface): Promise<void> {
  await schema.createTable("accounts", {
    id,
    sign_in: { ...name(), unique: true },
    name: name(255),
    role: name(32),
    cardholder: maybe(),
    password_hash: name(255),
    failures: { ...number, defaultValue: 0 },
    barred_until: maybe(32),
  });
  await schema.createTable("sessions", {
    token_hash: { ...name(64), primaryKey: true },
    account: number,
    created_at: name(32),
    last_seen_at: name(32),
  });

  await schema.createTable("record_entries", {
    number: { type: DataTypes.INTEGER, primaryKey: true },
    at: name(32),
    who: name(),
    what: name(64),
    on_what: name(255),
    values_hash: name(64),
    previous_hash: name(64),
    hash: name(64),
  });
  await schema.createTable("record_values", {
    number: { type: DataTypes.INTEGER, primaryKey: true },
    content: { type: DataTypes.TEXT("medium"), allowNull: false },
  });
  await schema.createTable("record_turn", { id: { type: DataTypes.INTEGER, primaryKey: true } });
  await schema.bulkInsert("record_turn", [{ id: 1 }]);

  await schema.createTable("event_files", {
    id,
    name: name(255),
    hash: name(64),
    rows_read: number,
    from_minute: minute,
    to_minute: minute,
    taken_at: name(32),
  });
  await schema.createTable("events", {
    id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
    file: number,
    at_minute: minute,
    door: name(),
    credential: name(),
    result: name(16),
    reason: maybe(64),
  });
  await schema.addIndex("events", ["credential", "at_minute"], { name: "by_credential" });
  await schema.addIndex("events", ["door", "at_minute"], { name: "by_door" });
  await schema.createTable("door_use", {
    credential: { ...name(), primaryKey: true },
    door: { ...name(), primaryKey: true },
    uses: number,
    last_minute: minute,
  });
  await schema.addIndex("door_use", ["door"], { name: "by_door" });
  await schema.createTable("door_coverage", { door: { ...name(), primaryKey: true }, from_minute: minute, to_minute: minute });

  await schema.createTable("finding_runs", {
    snapshot: { type: DataTypes.INTEGER, primaryKey: true },
    made_at: name(32),
    cannot_tell: text,
  });
  await schema.createTable("findings", {
    id,
    snapshot: number,
    position: number,
    rule: name(64),
    fingerprint: name(512),
    subject_kind: name(32),
    subject: name(),
    cardholder: maybe(),
    risk: number,
    sentence: text,
    remedy: text,
    proof: text,
    parts: text,
    since_minute: { type: DataTypes.BIGINT },
  });
  await schema.addIndex("findings", ["snapshot", "position"], { name: "by_snapshot" });
  await schema.addIndex("findings", ["cardholder"], { name: "by_cardholder" });

  await schema.createTable("rounds", { id, name: name(255), due: name(10), snapshot: number, opened_by: number, opened_at: name(32) });
  await schema.createTable("dockets", {
    id,
    round: number,
    certifier: maybe(),
    account: { type: DataTypes.INTEGER },
    signed_at: maybe(32),
    signed_by: { type: DataTypes.INTEGER },
    statement: { type: DataTypes.TEXT },
    hash: maybe(64),
  });
  await schema.addIndex("dockets", ["round"], { name: "by_round" });
  await schema.createTable("docket_lines", {
    id,
    docket: number,
    position: number,
    cardholder: maybe(),
    holder_name: name(255),
    flagged: { type: DataTypes.BOOLEAN, allowNull: false },
    content: { type: DataTypes.TEXT("medium"), allowNull: false },
    decision: maybe(16),
    reason: { type: DataTypes.TEXT },
    decided_at: maybe(32),
    decided_by: { type: DataTypes.INTEGER },
  });
  await schema.addIndex("docket_lines", ["docket", "position"], { name: "by_docket" });
  await schema.createTable("orders", { id, round: number, line: number, position: number, made_at: name(32), change: text, also_lost: text });
  await schema.addIndex("orders", ["round"], { name: "by_round" });
}
