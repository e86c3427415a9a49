import { QueryTypes } from "sequelize";
import type { Sequelize } from "sequelize";
import type { EpochMinute } from "@/core/time/instant";
import type { SiteCoverage, UseRecord } from "@/core/findings/use";
import type { EventRow, EventStore } from "@/operations/ports/events";
import { appendRecord, writeHead } from "./record-store";

const rowsAtOnce = 5000;

/** Uses and coverage added up while events come in, written once at the end. */
class Tally {
  private readonly uses = new Map<string, { credential: string; door: string; uses: number; last: number }>();
  private readonly coverage = new Map<string, { from: number; to: number }>();
  rows = 0;
  from = Infinity;
  to = -Infinity;

  add({ at, door, credential, result }: EventRow): void {
    this.rows++;
    this.from = Math.min(this.from, at);
    this.to = Math.max(this.to, at);
    const seen = this.coverage.get(door);
    if (seen) {
      seen.from = Math.min(seen.from, at);
      seen.to = Math.max(seen.to, at);
    } else this.coverage.set(door, { from: at, to: at });
    if (result !== "granted") return;
    const key = JSON.stringify([credential, door]);
    const use = this.uses.get(key);
    if (use) {
      use.uses++;
      use.last = Math.max(use.last, at);
    } else this.uses.set(key, { credential, door, uses: 1, last: at });
  }

  useRows = () => [...this.uses.values()].map(({ credential, door, uses, last }) => [credential, door, uses, last]);
  coverageRows = () => [...this.coverage].map(([door, { from, to }]) => [door, from, to]);
}

interface UseRow {
  readonly credential: string;
  readonly door: string;
  readonly uses: number;
  readonly last_minute: number;
}

/** A use record over rows of aggregates. */
function recordOfUse(uses: readonly UseRow[], coverage: ReadonlyMap<string, SiteCoverage>): UseRecord {
  const last = new Map<string, EpochMinute>();
  const ofDoor = new Map<string, { count: number; last: EpochMinute }>();
  for (const { credential, door, uses: count, last_minute } of uses) {
    const minute = Number(last_minute) as EpochMinute;
    ofDoor.set(JSON.stringify([credential, door]), { count, last: minute });
    if (minute > (last.get(credential) ?? -Infinity)) last.set(credential, minute);
  }
  return {
    lastUse: (credential) => last.get(credential),
    useOfDoor: (credential, door) => ofDoor.get(JSON.stringify([credential, door])),
    coverage: (site) => coverage.get(site),
  };
}

export const eventStore = (sequelize: Sequelize, folder: string): EventStore => ({
  store: async (file, rows, who, at, report) => {
    const stored = await sequelize.transaction(async (transaction) => {
      // Two takings of one file at once: the second waits here and then finds it there.
      await sequelize.query("SELECT id FROM register_head WHERE id = 1 FOR UPDATE", { type: QueryTypes.SELECT, transaction });
      const [known] = await sequelize.query<{ rows_read: number }>("SELECT rows_read FROM event_files WHERE hash = :hash", {
        type: QueryTypes.SELECT,
        replacements: { hash: file.hash },
        transaction,
      });
      if (known) return { outcome: "unchanged" as const, rows: known.rows_read };
      const [id] = await sequelize.query(
        "INSERT INTO event_files (name, hash, rows_read, from_minute, to_minute, taken_at) VALUES (:name, :hash, 0, 0, 0, :at)",
        { type: QueryTypes.INSERT, replacements: { ...file, at }, transaction },
      );
      const tally = new Tally();
      let batch: object[] = [];
      const flush = async () => {
        if (batch.length > 0) await sequelize.getQueryInterface().bulkInsert("events", batch, { transaction });
        batch = [];
      };
      for await (const row of rows) {
        tally.add(row);
        batch.push({ file: id, at_minute: row.at, door: row.door, credential: row.credential, result: row.result, reason: row.reason ?? null });
        if (batch.length >= rowsAtOnce) {
          await flush();
          // How many rows there will be is not known before the end.
          report({ step: "storing", done: tally.rows, of: 0 });
        }
      }
      await flush();
      const upsert = async (statement: string, values: readonly (readonly unknown[])[]) => {
        for (let i = 0; i < values.length; i += rowsAtOnce) {
          const rowsOfBatch = values.slice(i, i + rowsAtOnce);
          await sequelize.query(statement, { type: QueryTypes.INSERT, replacements: { rows: rowsOfBatch }, transaction });
        }
      };
      await upsert(
        "INSERT INTO door_use (credential, door, uses, last_minute) VALUES :rows ON DUPLICATE KEY UPDATE uses = uses + VALUES(uses), last_minute = GREATEST(last_minute, VALUES(last_minute))",
        tally.useRows(),
      );
      await upsert(
        "INSERT INTO door_coverage (door, from_minute, to_minute) VALUES :rows ON DUPLICATE KEY UPDATE from_minute = LEAST(from_minute, VALUES(from_minute)), to_minute = GREATEST(to_minute, VALUES(to_minute))",
        tally.coverageRows(),
      );
      await sequelize.query("UPDATE event_files SET rows_read = :rows, from_minute = :from, to_minute = :to WHERE id = :id", {
        type: QueryTypes.UPDATE,
        replacements: { id, rows: tally.rows, from: tally.rows > 0 ? tally.from : 0, to: tally.rows > 0 ? tally.to : 0 },
        transaction,
      });
      await appendRecord(sequelize, transaction, who, at, { what: "events.stored", on: `event file ${id}`, after: { ...file, rows: tally.rows } });
      return { outcome: "stored" as const, rows: tally.rows };
    });
    await writeHead(sequelize, folder);
    return stored;
  },
  unknownCredentials: async (limit) =>
    (
      await sequelize.query<{ credential: string; times: number; last_at: number }>(
        `SELECT e.credential, COUNT(*) AS times, MAX(e.at_minute) AS last_at FROM events e
         WHERE NOT EXISTS (SELECT 1 FROM register_credentials c WHERE c.id = e.credential AND c.until_snapshot IS NULL)
         GROUP BY e.credential ORDER BY times DESC, e.credential LIMIT :limit`,
        { type: QueryTypes.SELECT, replacements: { limit } },
      )
    ).map(({ credential, times, last_at }) => ({ credential, times: Number(times), lastAt: Number(last_at) })),
  use: async ({ door, credentials }, siteOfDoor) => {
    if (credentials?.length === 0) return recordOfUse([], new Map());
    const conditions = [door === undefined ? "" : "door = :door", credentials === undefined ? "" : "credential IN (:credentials)"].filter(Boolean);
    const uses = await sequelize.query<UseRow>(
      `SELECT credential, door, uses, last_minute FROM door_use ${conditions.length > 0 ? `WHERE ${conditions.join(" AND ")}` : ""}`,
      { type: QueryTypes.SELECT, replacements: { door, credentials: credentials && [...credentials] } },
    );
    const doors = await sequelize.query<{ door: string; from_minute: number; to_minute: number }>("SELECT door, from_minute, to_minute FROM door_coverage", {
      type: QueryTypes.SELECT,
    });
    const coverage = new Map<string, SiteCoverage>();
    for (const row of doors) {
      const site = siteOfDoor(row.door);
      if (site === undefined) continue;
      const known = coverage.get(site);
      coverage.set(site, {
        from: Math.min(known?.from ?? Infinity, Number(row.from_minute)) as EpochMinute,
        to: Math.max(known?.to ?? -Infinity, Number(row.to_minute)) as EpochMinute,
      });
    }
    return recordOfUse(uses, coverage);
  },
});
