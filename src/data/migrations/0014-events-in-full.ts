import { QueryTypes } from "sequelize";
import type { QueryInterface } from "sequelize";
import { eventPartitions } from "../event-months";

const counted = "month INT NOT NULL";
const door = "door VARCHAR(128) NOT NULL";
/** One text for all that an event tells of a card; see `cardKey`. */
const card = "card VARCHAR(300) NOT NULL";

/** All that an event says. */
const said = `${door}, credential VARCHAR(128) NULL, number VARCHAR(128) NULL, facility_code VARCHAR(128) NULL, granted TINYINT(1) NOT NULL,
  reason VARCHAR(128) NULL, own_id VARCHAR(128) NULL`;

/**
 * Events with all that they say, to the second, each once however many files bring it, by month; and what is counted of them by month. What was taken in
 * before is kept as far as it was: by the minute, and by credential. It is counted anew when findings are looked for, which is asked for here.
 */
export async function up(schema: QueryInterface): Promise<void> {
  const run = (sql: string) => schema.sequelize.query(sql, { type: QueryTypes.RAW });
  await run("RENAME TABLE events TO events_before");
  await run(`CREATE TABLE events (second BIGINT NOT NULL, file INT NOT NULL, line INT NOT NULL, identity BINARY(16) NOT NULL, ${said},
    PRIMARY KEY (second, file, line), KEY by_identity (identity), KEY by_door (door, second), KEY by_credential (credential, second),
    KEY by_number (number, second)) PARTITION BY RANGE (second) (${eventPartitions(Date.now() / 1000)})`);
  // What a file brings is loaded here first, some rows at a time.
  await run(`CREATE TABLE event_loading (line INT PRIMARY KEY, second BIGINT NOT NULL, file INT NOT NULL, identity BINARY(16) NOT NULL, ${said})`);
  await run("CREATE TABLE event_ids (identity BINARY(16) PRIMARY KEY, file INT NOT NULL, KEY by_file (file))");
  await run(`CREATE TABLE event_repeats (identity BINARY(16) NOT NULL, file INT NOT NULL, line INT NOT NULL, second BIGINT NOT NULL, ${said},
    PRIMARY KEY (identity, file, line), KEY by_file (file))`);
  await run("CREATE TABLE event_reasons (reason VARCHAR(128) PRIMARY KEY)");
  await run("CREATE TABLE event_turn (id INT PRIMARY KEY)");
  await run("INSERT INTO event_turn VALUES (1)");
  await run("CREATE TABLE event_version (id INT PRIMARY KEY, version INT NOT NULL)");
  await run("INSERT INTO event_version VALUES (1, 1)");
  await run(`INSERT INTO events (second, file, line, identity, door, credential, granted, reason)
    SELECT at_minute * 60, file, id, UNHEX(LEFT(SHA2(CONCAT('before ', id), 256), 32)), door, credential, result = 'granted', reason FROM events_before`);
  await run("INSERT INTO event_reasons SELECT DISTINCT reason FROM events WHERE reason IS NOT NULL");
  await run(`ALTER TABLE event_files ADD source VARCHAR(128) NOT NULL DEFAULT '', ADD is_visible TINYINT(1) NOT NULL DEFAULT 1,
    ADD repeated INT NOT NULL DEFAULT 0, ADD from_second BIGINT NOT NULL DEFAULT 0, ADD to_second BIGINT NOT NULL DEFAULT 0`);
  await run("UPDATE event_files SET from_second = from_minute * 60, to_second = to_minute * 60");
  await run("ALTER TABLE event_files DROP from_minute, DROP to_minute");
  for (const table of ["door_use", "site_event_dates", "counted_doors", "doors_with_events", "events_before"]) await run(`DROP TABLE ${table}`);
  await run(`CREATE TABLE door_use (${card}, ${door}, ${counted}, uses INT NOT NULL, last_second BIGINT NOT NULL, out_of_hours INT NOT NULL,
    last_out_of_hours BIGINT NULL, PRIMARY KEY (card, door, month), KEY by_door (door))`);
  await run(`CREATE TABLE card_events (${card}, ${counted}, events INT NOT NULL, last_second BIGINT NOT NULL, PRIMARY KEY (card, month))`);
  // Which months have events is told from here on; all else of these rows is counted with the doors.
  await run(
    "INSERT INTO card_events SELECT '[\"\"]', YEAR(d) * 12 + MONTH(d) - 1, 1, 0 FROM (SELECT DISTINCT DATE(TIMESTAMPADD(SECOND, second, '1970-01-01')) AS d FROM events) AS dates GROUP BY 2",
  );
  await run(`CREATE TABLE door_dates (${door}, date INT NOT NULL, ${counted}, site VARCHAR(128) NOT NULL, events INT NOT NULL,
    PRIMARY KEY (door, date, month), KEY by_site (site, date))`);
  // What was counted and waits to be added.
  for (const table of ["door_use", "card_events", "door_dates"]) await run(`CREATE TABLE ${table}_loading AS SELECT * FROM ${table} WHERE FALSE`);
  await run(`CREATE TABLE counted_doors (door VARCHAR(128) PRIMARY KEY, counted_by VARCHAR(64) NOT NULL)`);
  await run("INSERT INTO counted_doors SELECT DISTINCT door, 'not yet' FROM events");
  await run("DELETE FROM finding_runs WHERE snapshot = (SELECT MAX(id) FROM snapshots)");
}
