import { Readable } from "node:stream";
import type { Connection } from "mariadb";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { ToldEvent } from "@/core/events/event-book";
import { fingerprintOf } from "@/core/findings/judge";
import { Lives } from "@/core/findings/lives";
import type { RuleKey } from "@/core/findings/proofs";
import { doorSensitivity } from "@/core/compile/door-sensitivity";
import { invariant } from "@/core/kernel/invariant";
import { horizonOf } from "@/core/table/horizon";
import { benchConnection } from "./connection";

const far = 4_000_000_000;
const bound = (minute: number | undefined): number => Math.max(-far, Math.min(far, minute ?? -far));
const said = (value: string | number | undefined): string => (value === undefined ? "\\N" : String(value));

const columns =
  "second BIGINT NOT NULL, door VARCHAR(128) NOT NULL, credential VARCHAR(128) NULL, number VARCHAR(128) NULL, facility_code VARCHAR(128) NULL, granted TINYINT NOT NULL, reason VARCHAR(500) NULL";

/** What the rules need of each card and person, with windows as minutes and all of it indexed; and the events as they came. */
const tables = [
  `CREATE TABLE peer_cards (id VARCHAR(128) PRIMARY KEY, holder VARCHAR(128) NULL, is_active TINYINT, is_live TINYINT, until_minute BIGINT, given BIGINT,
     number VARCHAR(128) NULL, facility_code VARCHAR(128) NULL, KEY (holder), KEY (number, facility_code))`,
  "CREATE TABLE peer_doors (id VARCHAR(128) PRIMARY KEY, sensitivity INT)",
  "CREATE TABLE peer_people (id VARCHAR(128) PRIMARY KEY, has_left TINYINT)",
  `CREATE TABLE peer_events (${columns}, KEY by_credential (credential, second), KEY by_second (second), KEY by_door (door, second))`,
];

/** Each as one would write it over cards, people and events; fewer columns than the proofs have, and the same subjects. */
const statements: Readonly<Partial<Record<RuleKey, string>>> = {
  "leaver-live": "SELECT DISTINCT 'cardholder' AS kind, p.id FROM peer_people p JOIN peer_cards c ON c.holder = p.id WHERE p.has_left = 1 AND c.is_active = 1",
  "many-credentials": "SELECT 'cardholder' AS kind, holder AS id FROM peer_cards WHERE holder IS NOT NULL AND is_live = 1 GROUP BY holder HAVING COUNT(*) > 2",
  "unknown-tried": `SELECT DISTINCT 'door' AS kind, e.door AS id, 'number' AS said, e.facility_code AS code, e.number FROM peer_events e JOIN peer_doors d ON d.id = e.door
    WHERE d.sensitivity >= 2 AND e.second >= :lastDays * 60 AND e.credential IS NULL
      AND NOT EXISTS (SELECT 1 FROM peer_cards c WHERE c.number = e.number AND c.facility_code = e.facility_code)`,
  unused: `SELECT 'credential' AS kind, c.id FROM peer_cards c WHERE c.is_live = 1 AND c.given <= :unusedSince
    AND NOT EXISTS (SELECT 1 FROM peer_events e WHERE e.credential = c.id AND e.granted = 1 AND e.second >= :unusedSince * 60)`,
  // Within minutes only: local dates and weeks of each door's clock are beyond plain SQL.
  "tried-again": `SELECT DISTINCT 'credential' AS kind, credential AS id, 'minutes' AS said FROM (SELECT credential,
      COUNT(*) OVER (PARTITION BY credential ORDER BY second RANGE BETWEEN CURRENT ROW AND 600 FOLLOWING) AS refused
      FROM peer_events WHERE granted = 0 AND credential IS NOT NULL AND second >= :lastDays * 60) spans WHERE refused >= 5`,
};

/** Five rules as plain SQL on MariaDB, over tables that are filled beforehand. */
export class RulesInSql {
  private constructor(
    private readonly connection: Connection,
    private readonly asOf: number,
    private readonly known: ReadonlySet<string>,
  ) {}

  static async open(compiled: CompiledFacility): Promise<RulesInSql> {
    const connection = await benchConnection({ permitLocalInfile: true });
    for (const statement of tables) await connection.query(statement);
    const { asOf } = horizonOf(compiled);
    const lives = new Lives(compiled, asOf);
    const { facility } = compiled;
    const made = new RulesInSql(connection, asOf, new Set(facility.credentials.map(({ id }) => id)));
    await made.load(
      "peer_cards",
      facility.credentials.map(({ id, cardholder, number, facilityCode }, i) => {
        const { from, until } = lives.windowOfCredential(i);
        return [id, cardholder, lives.isMarkedActive(i) ? 1 : 0, lives.isLive(i) ? 1 : 0, bound(until), bound(from), number, facilityCode];
      }),
    );
    await made.load(
      "peer_people",
      facility.cardholders.map(({ id }, i) => [id, lives.hasLeft(i) ? 1 : 0]),
    );
    await made.load(
      "peer_doors",
      compiled.doors.map(({ position, door }) => [door.id, doorSensitivity(compiled, position)]),
    );
    return made;
  }

  private async load(table: string, rows: readonly (readonly (string | number | undefined)[])[]): Promise<void> {
    const text = rows.map((row) => row.map(said).join("\t")).join("\n");
    const { affectedRows } = await this.connection.query<{ readonly affectedRows: number }>({
      sql: `LOAD DATA LOCAL INFILE 'rows' INTO TABLE ${table} CHARACTER SET utf8mb4`,
      infileStreamFactory: () => Readable.from([Buffer.from(text, "utf8")]),
    });
    invariant(affectedRows === rows.length, `${table} takes every row`);
  }

  /** Loads events as they come, twenty thousand at once, and counts nothing. */
  async loadBare(events: Iterable<ToldEvent>): Promise<void> {
    let rows: (string | number | undefined)[][] = [];
    const flush = async (): Promise<void> => {
      await this.load("peer_events", rows);
      rows = [];
    };
    for (const { second, door, credential, number, facilityCode, granted, reason } of events) {
      rows.push([second, door, credential, number, facilityCode, granted ? 1 : 0, reason]);
      if (rows.length >= 20_000) await flush();
    }
    await flush();
  }

  /** The fingerprints of what a rule finds, as SQL finds it. */
  async fingerprints(key: RuleKey): Promise<string[]> {
    const { asOf } = this;
    const at = { asOf, unusedSince: asOf - 90 * 1440, lastDays: asOf - 30 * 1440 };
    const sql = (statements[key] ?? "").replace(/:(\w+)/g, (_, name: keyof typeof at) => String(at[name]));
    const rows =
      await this.connection.query<
        { readonly kind: "cardholder" | "credential" | "door"; readonly id: string; readonly said?: string; readonly code?: string; readonly number?: string }[]
      >(sql);
    return rows
      .filter(({ kind, id }) => kind !== "credential" || this.known.has(id))
      .map(({ kind, id, said: by, code, number }) =>
        fingerprintOf(
          key,
          { kind, id },
          [by, code, number].filter((one) => one !== undefined),
        ),
      )
      .sort();
  }

  /** The last use of every card, over all events. */
  async lastUses(): Promise<number> {
    return (await this.connection.query<unknown[]>("SELECT credential, MAX(second) AS last FROM peer_events WHERE granted = 1 GROUP BY credential")).length;
  }

  close(): Promise<void> {
    return this.connection.end();
  }
}
