import { DataTypes, QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true } as const;
const number = { type: DataTypes.INTEGER, allowNull: false } as const;

/** What a round covers and how it ends, lines that stay in part or were passed on, orders on their way, and what later registers say of them. */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run(
    `ALTER TABLE rounds
       ADD COLUMN IF NOT EXISTS terms TEXT NULL,
       ADD COLUMN IF NOT EXISTS closing_asked_by INT NULL,
       ADD COLUMN IF NOT EXISTS closing_asked_at VARCHAR(32) NULL,
       ADD COLUMN IF NOT EXISTS closing_reason TEXT NULL,
       ADD COLUMN IF NOT EXISTS closed_by INT NULL,
       ADD COLUMN IF NOT EXISTS closed_at VARCHAR(32) NULL`,
  );
  await run(
    `ALTER TABLE dockets
       ADD COLUMN IF NOT EXISTS held BOOLEAN NOT NULL DEFAULT FALSE,
       ADD COLUMN IF NOT EXISTS corrects INT NULL,
       ADD COLUMN IF NOT EXISTS closed_at VARCHAR(32) NULL`,
  );
  await run(
    `ALTER TABLE docket_lines
       ADD COLUMN IF NOT EXISTS terms TEXT NULL,
       ADD COLUMN IF NOT EXISTS passed_from INT NULL,
       ADD COLUMN IF NOT EXISTS effect LONGTEXT NULL`,
  );
  await run("ALTER TABLE docket_lines ADD UNIQUE INDEX IF NOT EXISTS once_passed_on (passed_from)");
  await run(
    `ALTER TABLE orders
       ADD COLUMN IF NOT EXISTS \`lines\` TEXT NULL,
       ADD COLUMN IF NOT EXISTS source VARCHAR(255) NULL,
       ADD COLUMN IF NOT EXISTS due VARCHAR(10) NULL,
       ADD COLUMN IF NOT EXISTS ticket VARCHAR(128) NULL,
       ADD COLUMN IF NOT EXISTS sent_at VARCHAR(32) NULL,
       ADD COLUMN IF NOT EXISTS sent_by INT NULL,
       ADD COLUMN IF NOT EXISTS answered_at VARCHAR(32) NULL,
       ADD COLUMN IF NOT EXISTS answer VARCHAR(16) NULL,
       ADD COLUMN IF NOT EXISTS answer_note TEXT NULL,
       ADD COLUMN IF NOT EXISTS cancelled_at VARCHAR(32) NULL`,
  );
  await schema.createTable("substitutes", {
    id,
    round: number,
    certifier: { type: DataTypes.STRING(128), allowNull: false },
    account: number,
    from_date: { type: DataTypes.STRING(10), allowNull: false },
    until_date: { type: DataTypes.STRING(10), allowNull: false },
  });
  await schema.addIndex("substitutes", ["round"], { name: "by_round" });
  await schema.createTable("closing_checks", {
    id,
    line: number,
    snapshot: number,
    at: { type: DataTypes.STRING(32), allowNull: false },
    outcome: { type: DataTypes.TEXT, allowNull: false },
    names: { type: DataTypes.TEXT("long"), allowNull: false },
  });
  await schema.addIndex("closing_checks", ["line", "snapshot"], { name: "by_line", unique: true });
  await schema.createTable("occasions", {
    kind: { type: DataTypes.STRING(16), primaryKey: true },
    days: number,
    set_by: number,
    set_at: { type: DataTypes.STRING(32), allowNull: false },
  });
  await schema.createTable("line_comments", {
    id,
    line: number,
    account: number,
    at: { type: DataTypes.STRING(32), allowNull: false },
    words: { type: DataTypes.TEXT, allowNull: false },
  });
  await schema.addIndex("line_comments", ["line"], { name: "by_line" });
}
