import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";

const hash = "fingerprint_hash BINARY(16) NOT NULL";

/**
 * Findings of every rule with their lives, and what people do about them: waivers, notes, whose task one is. Fingerprints are of any length, and looked for by
 * their hash. Of the rules that were looked for before there were four; those that were made with other fingerprints tell of none.
 */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run("ALTER TABLE findings MODIFY fingerprint LONGTEXT NOT NULL, MODIFY proof LONGTEXT NOT NULL, MODIFY parts LONGTEXT NOT NULL");
  await run(`ALTER TABLE findings ADD ${hash} DEFAULT '', ADD life VARCHAR(8) NULL, ADD area VARCHAR(128) NULL, ADD department VARCHAR(128) NULL,
    ADD manager VARCHAR(128) NULL`);
  await run("UPDATE findings SET fingerprint_hash = UNHEX(LEFT(SHA2(fingerprint, 256), 32))");
  await run("CREATE INDEX by_fingerprint ON findings (fingerprint_hash, snapshot)");
  await run("CREATE INDEX by_rule ON findings (snapshot, rule, position)");
  await run(
    "ALTER TABLE finding_runs MODIFY cannot_tell LONGTEXT NOT NULL, ADD rules LONGTEXT NULL, ADD totals LONGTEXT NULL, ADD earlier LONGTEXT NULL, ADD untold LONGBLOB NULL",
  );
  await run(`UPDATE finding_runs r SET rules = IF(EXISTS (SELECT 1 FROM findings f WHERE f.snapshot = r.snapshot AND f.fingerprint NOT LIKE '[%'), '[]',
    '["leaver-live","expired-active","unused","around-the-clock"]')`);
  await run("UPDATE finding_runs SET totals = '{}', earlier = '[]'");
  // What is found in a snapshot is loaded here first, by one at a time.
  await run("CREATE TABLE findings_loading AS SELECT * FROM findings WHERE FALSE");
  await run("ALTER TABLE findings_loading DROP id");
  await run("CREATE TABLE finding_turn (id INT PRIMARY KEY)");
  await run("INSERT INTO finding_turn VALUES (1)");
  await run(`CREATE TABLE finding_waivers (id INT PRIMARY KEY AUTO_INCREMENT, ${hash}, fingerprint LONGTEXT NOT NULL, reason TEXT NOT NULL,
    until_date CHAR(10) NOT NULL, risk INT NOT NULL, made_by VARCHAR(128) NOT NULL, made_at VARCHAR(32) NOT NULL, confirmed_by VARCHAR(128) NULL,
    confirmed_at VARCHAR(32) NULL, ended_by VARCHAR(128) NULL, ended_at VARCHAR(32) NULL, KEY by_fingerprint (fingerprint_hash))`);
  await run(`CREATE TABLE finding_notes (id INT PRIMARY KEY AUTO_INCREMENT, ${hash}, note TEXT NOT NULL, made_by VARCHAR(128) NOT NULL,
    made_at VARCHAR(32) NOT NULL, KEY by_fingerprint (fingerprint_hash))`);
  await run(`CREATE TABLE finding_assignments (fingerprint_hash BINARY(16) PRIMARY KEY, assignee VARCHAR(128) NOT NULL, made_by VARCHAR(128) NOT NULL,
    made_at VARCHAR(32) NOT NULL)`);
  await run(
    "CREATE TABLE rule_settings (id INT PRIMARY KEY AUTO_INCREMENT, settings LONGTEXT NOT NULL, second_person_from INT NOT NULL, made_by VARCHAR(128) NOT NULL, made_at VARCHAR(32) NOT NULL)",
  );
}
