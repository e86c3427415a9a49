import type { Connection } from "mariadb";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { targetKey } from "@/core/compile/target-key";
import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import { livingWindow } from "@/core/paths/timeframe";
import { objectWindow } from "@/core/facility/time-rules";
import type { EpochMinute } from "@/core/time/instant";
import { zoneOf } from "@/core/time/zone";
import { benchConnection } from "./connection";
import { clockOf, groupChains, peerDoors, receiverKey } from "./peer-data";

const far = 4_000_000_000;
const bound = (minute: number): number => Math.max(-far, Math.min(far, minute));

/** Everything flattened beforehand that can be: groups closed upwards, doors of targets listed, schedules laid out as intervals of the range. */
const tables = [
  "CREATE TABLE bench_credential (id VARCHAR(64) PRIMARY KEY, holder VARCHAR(64) NULL, live_from BIGINT, live_until BIGINT, KEY (holder))",
  "CREATE TABLE bench_member (holder VARCHAR(64), receiver VARCHAR(72), from_m BIGINT, until_m BIGINT, KEY (holder), KEY (receiver))",
  "CREATE TABLE bench_grant (id VARCHAR(64) PRIMARY KEY, receiver VARCHAR(72), target VARCHAR(72), schedule VARCHAR(64) NULL, from_m BIGINT, until_m BIGINT, blocks TINYINT, KEY (receiver), KEY (target))",
  "CREATE TABLE bench_cover (target VARCHAR(72), door VARCHAR(64), schedule VARCHAR(64) NULL, KEY (door), KEY (target, door))",
  "CREATE TABLE bench_door (id VARCHAR(64) PRIMARY KEY, clock VARCHAR(80))",
  "CREATE TABLE bench_open (schedule VARCHAR(64), clock VARCHAR(80), start_m BIGINT, end_m BIGINT, KEY (schedule, clock, start_m))",
];

const isOpen = (schedule: string): string =>
  `(${schedule} IS NULL OR EXISTS (SELECT 1 FROM bench_open o WHERE o.schedule = ${schedule} AND o.clock = d.clock AND o.start_m <= :at AND o.end_m > :at))`;

/** Paths to a door at a minute; grants of groups come through `bench_member`, others straight. */
const paths = (blocks: 0 | 1, receiver: string): string =>
  `SELECT 1 FROM bench_cover v JOIN bench_grant g ON g.target = v.target JOIN bench_door d ON d.id = v.door
   WHERE v.door = :door AND g.receiver = ${receiver} AND g.blocks = ${blocks} AND g.from_m <= :at AND g.until_m > :at AND ${isOpen("g.schedule")}${blocks ? "" : ` AND ${isOpen("v.schedule")}`}`;

const reaches = (blocks: 0 | 1): string =>
  `(EXISTS (${paths(blocks, "CONCAT('c ', c.id)")}) OR EXISTS (${paths(blocks, "CONCAT('h ', c.holder)")})
    OR EXISTS (SELECT 1 FROM bench_member m WHERE m.holder = c.holder AND m.from_m <= :at AND m.until_m > :at AND EXISTS (${paths(blocks, "m.receiver")})))`;

const verdict = `SELECT c.id FROM bench_credential c WHERE c.id = :credential AND c.live_from <= :at AND c.live_until > :at AND ${reaches(0)} AND NOT ${reaches(1)}`;

/** From the door outwards, so that only those who have a path are looked at. */
const who = `SELECT DISTINCT c.id FROM bench_cover v JOIN bench_door d ON d.id = v.door JOIN bench_grant g ON g.target = v.target AND g.blocks = 0 AND g.from_m <= :at AND g.until_m > :at
  JOIN bench_member m ON m.receiver = g.receiver AND m.from_m <= :at AND m.until_m > :at JOIN bench_credential c ON c.holder = m.holder
  WHERE v.door = :door AND c.live_from <= :at AND c.live_until > :at AND ${isOpen("g.schedule")} AND ${isOpen("v.schedule")} AND NOT ${reaches(1)}
  UNION SELECT c.id FROM bench_cover v JOIN bench_door d ON d.id = v.door JOIN bench_grant g ON g.target = v.target AND g.blocks = 0 AND g.from_m <= :at AND g.until_m > :at
  JOIN bench_credential c ON g.receiver = CONCAT('c ', c.id) OR g.receiver = CONCAT('h ', c.holder)
  WHERE v.door = :door AND c.live_from <= :at AND c.live_until > :at AND ${isOpen("g.schedule")} AND ${isOpen("v.schedule")} AND NOT ${reaches(1)}`;

/** Intervals of one pair joined where they touch; only of grants without a narrowing schedule, and without blocks. */
const timetable = `WITH reach AS (SELECT CONCAT('c ', c.id) AS receiver, c.live_from AS f, c.live_until AS u FROM bench_credential c WHERE c.id = :credential
    UNION SELECT CONCAT('h ', c.holder), c.live_from, c.live_until FROM bench_credential c WHERE c.id = :credential AND c.holder IS NOT NULL
    UNION SELECT m.receiver, GREATEST(m.from_m, c.live_from), LEAST(m.until_m, c.live_until) FROM bench_member m JOIN bench_credential c ON c.holder = m.holder WHERE c.id = :credential),
  raw AS (SELECT DISTINCT GREATEST(o.start_m, g.from_m, r.f) AS s, LEAST(o.end_m, g.until_m, r.u) AS e FROM reach r JOIN bench_grant g ON g.receiver = r.receiver AND g.blocks = 0
    JOIN bench_cover v ON v.target = g.target AND v.door = :door JOIN bench_door d ON d.id = v.door JOIN bench_open o ON o.schedule = COALESCE(v.schedule, g.schedule) AND o.clock = d.clock),
  marked AS (SELECT s, e, MAX(e) OVER (ORDER BY s, e ROWS BETWEEN UNBOUNDED PRECEDING AND 1 PRECEDING) AS before_e FROM raw WHERE s < e),
  islands AS (SELECT s, e, SUM(before_e IS NULL OR s > before_e) OVER (ORDER BY s, e ROWS UNBOUNDED PRECEDING) AS island FROM marked)
  SELECT MIN(s) AS s, MAX(e) AS e FROM islands GROUP BY island ORDER BY 1`;

export class SqlPeer {
  private constructor(private readonly connection: Connection) {}

  static async load(compiled: CompiledFacility, from: EpochMinute, to: EpochMinute): Promise<SqlPeer> {
    const connection = await benchConnection({ namedPlaceholders: true });
    for (const table of tables) {
      await connection.query(`DROP TABLE IF EXISTS ${/TABLE (\w+)/.exec(table)?.[1]}`);
      await connection.query(table);
    }
    const insert = async (table: string, rows: (string | number | null)[][]): Promise<void> => {
      for (let i = 0; i < rows.length; i += 5000) {
        const piece = rows.slice(i, i + 5000);
        if (piece.length > 0)
          await connection.batch({ sql: `INSERT INTO ${table} VALUES (${(piece[0] ?? []).map(() => "?").join(", ")})`, namedPlaceholders: false }, piece);
      }
    };
    const { facility } = compiled;
    const chains = groupChains(compiled);
    const zone = zoneOf(facility.timeZone);
    await insert(
      "bench_credential",
      compiled.credentials.all().map(({ credential, life, holder }) => {
        const [own, its] = [livingWindow(life), holder && livingWindow(holder.life)];
        return [credential.id, credential.cardholder ?? null, bound(Math.max(own.from, its?.from ?? -far)), bound(Math.min(own.until, its?.until ?? far))];
      }),
    );
    const members = facility.cardholders.flatMap(({ id, department }) =>
      department === undefined ? [] : chains(department).map((group) => [id, `g ${group}`, -far, far]),
    );
    for (const membership of facility.memberships) {
      const window = objectWindow(membership, zone, "outward");
      for (const group of chains(membership.group)) members.push([membership.cardholder, `g ${group}`, bound(window.from), bound(window.until)]);
    }
    await insert("bench_member", members);
    await insert(
      "bench_grant",
      compiled.grants
        .all()
        .map(({ grant, window, blocks }) => [
          grant.id,
          receiverKey(grant.to),
          targetKey(grant.open),
          grant.schedule ?? null,
          bound(window.from),
          bound(window.until),
          blocks ? 1 : 0,
        ]),
    );
    const doors = peerDoors(compiled);
    const covers: (string | null)[][] = [];
    const seen = new Set<string>();
    const peers = new Set(doors);
    for (const { position, grant } of compiled.grants) {
      const target = targetKey(grant.open);
      if (seen.has(target)) continue;
      seen.add(target);
      for (const [door, ways] of compiled.waysOf(position))
        if (peers.has(door))
          for (const { schedule } of ways)
            covers.push([targetKey(grant.open), facility.doors[door]?.id ?? "", schedule === undefined ? null : (facility.schedules[schedule]?.id ?? null)]);
    }
    await insert("bench_cover", covers);
    await insert(
      "bench_door",
      doors.map((door) => [facility.doors[door]?.id ?? "", clockOf(compiled, door)]),
    );
    const open: (string | number)[][] = [];
    const clocks = new Map(doors.map((door) => [clockOf(compiled, door), door]));
    for (const [clock, door] of clocks)
      facility.schedules.forEach(({ id }, schedule) => {
        const { zone: doorZone, calendar } = required(compiled.doors[door], "positions are valid");
        const set = compiled.timeline(schedule, calendar, doorZone, from, to);
        for (let i = 0; i < set.length; i += 2) open.push([id, clock, set[i] as number, set[i + 1] as number]);
      });
    await insert("bench_open", open);
    for (const name of ["credential", "member", "grant", "cover", "door", "open"]) await connection.query(`ANALYZE TABLE bench_${name}`);
    return new SqlPeer(connection);
  }

  async opens(credential: string, door: string, at: Position): Promise<boolean> {
    return (await this.connection.query<unknown[]>(verdict, { credential, door, at })).length > 0;
  }

  async whoOpens(door: string, at: EpochMinute): Promise<string[]> {
    return (await this.connection.query<{ id: string }[]>(who, { door, at })).map(({ id }) => id);
  }

  async timetable(credential: string, door: string): Promise<number[]> {
    return (await this.connection.query<{ s: number; e: number }[]>(timetable, { credential, door })).flatMap(({ s, e }) => [Number(s), Number(e)]);
  }

  close(): Promise<void> {
    return this.connection.end();
  }
}
