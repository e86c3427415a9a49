import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

/** Rows of the register that stood in the snapshot of a round. */
const stood = (row: string): string => `${row}.since_snapshot <= r.snapshot AND (${row}.until_snapshot IS NULL OR ${row}.until_snapshot > r.snapshot)`;

/** What a snapshot says of certifiers and holders is kept with the round; that of rounds opened before is taken from the register's rows. */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run("ALTER TABLE dockets ADD COLUMN IF NOT EXISTS certifier_name TEXT NULL");
  await run("ALTER TABLE docket_lines ADD COLUMN IF NOT EXISTS holder TEXT NULL");
  await run("ALTER TABLE orders ADD COLUMN IF NOT EXISTS names LONGTEXT NULL");
  await run(
    `UPDATE dockets d JOIN rounds r ON r.id = d.round JOIN register_cardholders c ON c.id = d.certifier AND ${stood("c")} SET d.certifier_name = c.name`,
  );
  await run(
    `UPDATE docket_lines l JOIN dockets d ON d.id = l.docket JOIN rounds r ON r.id = d.round JOIN register_cardholders c ON c.id = l.cardholder AND ${stood("c")}
     LEFT JOIN register_groups g ON g.id = c.department AND ${stood("g")}
     SET l.holder = JSON_OBJECT('status', c.status, 'type', c.type, 'department', g.name, 'staffNumber', c.staff_number)`,
  );
}
