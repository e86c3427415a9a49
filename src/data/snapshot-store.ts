import { gunzipSync, gzipSync } from "node:zlib";
import type { Sequelize, Transaction } from "sequelize";
import type { FacilityCounts } from "@/core/facility/facility";
import type { Actor } from "@/operations/ports/record";
import type { IntakeFile, NewSnapshot, PrintedIssue, RegisterChanges, Snapshot, SnapshotStore, SnapshotSummary } from "@/operations/ports/snapshots";
import { AlteredSnapshot } from "@/operations/ports/snapshots";
import type { Report } from "@/operations/ports/progress";
import { noteDelivery } from "./delivery-store";
import { appendRecord, sha256, writeHead } from "./record-store";
import type { RegisterTable, Row } from "./register-tables";
import { registerTables } from "./register-tables";
import type { StatementValues } from "./statements";
import { execute, insert, insertRows, select, selectFirst } from "./statements";

interface SnapshotRow {
  readonly id: number;
  readonly hash: string;
  readonly facility_name: string;
  readonly time_zone: string;
  readonly as_of: string;
  readonly taken_at: string;
  readonly taken_by: string;
  readonly source: string;
  readonly counts: string;
  readonly changes: string;
  readonly notes: string;
  readonly left_out: number;
  readonly files: string;
}

const asSummary = (row: Omit<SnapshotRow, "notes"> & { readonly note_count: number }): SnapshotSummary => ({
  id: row.id,
  hash: row.hash,
  facilityName: row.facility_name,
  timeZone: row.time_zone,
  asOf: row.as_of,
  takenAt: row.taken_at,
  takenBy: row.taken_by,
  source: row.source,
  counts: JSON.parse(row.counts) as FacilityCounts,
  changes: JSON.parse(row.changes) as RegisterChanges,
  leftOut: row.left_out,
  files: JSON.parse(row.files) as IntakeFile[],
  noteCount: Number(row.note_count),
});

function asSnapshot(row: SnapshotRow): Snapshot {
  const notes = JSON.parse(row.notes) as PrintedIssue[];
  const { noteCount: _counted, ...summary } = asSummary({ ...row, note_count: notes.length });
  return { ...summary, notes };
}

const pieceBytes = 1024 * 1024;
/** A third of the time of the usual level, for a tenth more of room. */
const quickCompression = 3;
const rowsAtOnce = 2000;
/** More notes than this are counted, not kept; `nomade check` prints them all. */
const notesKept = 500;

function* chunks<T>(items: readonly T[], size: number): Generator<readonly T[]> {
  for (let i = 0; i < items.length; i += size) yield items.slice(i, i + size);
}

/** Rows by their hash; equal rows of one table (a membership stated twice) are told apart by a running number. */
function hashedRows(table: RegisterTable, facility: NewSnapshot["normal"]): Map<string, Row> {
  const rows = new Map<string, Row>();
  for (const row of table.rows(facility)) {
    const text = JSON.stringify(row);
    let hash = sha256(text);
    for (let copy = 1; rows.has(hash); copy++) hash = sha256(`${text}#${copy}`);
    rows.set(hash, row);
  }
  return rows;
}

/** Brings one table to what the facility says: ends the rows that are gone and adds those that are new. */
async function bringToDate(sequelize: Sequelize, transaction: Transaction, table: RegisterTable, snapshot: number, facility: NewSnapshot["normal"]) {
  const wanted = hashedRows(table, facility);
  const standing = await select<{ row_id: number; row_hash: string }>(
    sequelize,
    `SELECT row_id, row_hash FROM \`${table.name}\` WHERE until_snapshot IS NULL`,
    {},
    transaction,
  );
  const gone = standing.filter(({ row_hash }) => !wanted.delete(row_hash)).map(({ row_id }) => row_id);
  for (const ids of chunks(gone, rowsAtOnce))
    await execute(sequelize, `UPDATE \`${table.name}\` SET until_snapshot = :snapshot WHERE row_id IN (:ids)`, { snapshot, ids: [...ids] }, transaction);
  const columns = Object.keys(table.columns);
  const statement = `INSERT INTO \`${table.name}\` (row_hash, since_snapshot, ${columns.map((column) => `\`${column}\``).join(", ")}) VALUES :rows`;
  // Rows as lists of values: the library's own way for objects takes twice as long.
  const added = [...wanted].map(([hash, row]) => [hash, snapshot, ...columns.map((column) => row[column])]);
  // While the server takes in one piece the next is written out; more than two would only fill the memory.
  let before: Promise<unknown> = Promise.resolve();
  for (const rows of chunks(added, rowsAtOnce)) {
    const next = insert(sequelize, statement, { rows }, transaction);
    next.catch(() => undefined);
    await before;
    before = next;
  }
  await before;
  return { added: added.length, ended: gone.length };
}

async function insertSnapshot(sequelize: Sequelize, transaction: Transaction, snapshot: NewSnapshot, who: string, at: string): Promise<number> {
  const id = await insert(
    sequelize,
    `INSERT INTO snapshots (hash, facility_name, time_zone, as_of, taken_at, taken_by, source, file_hash, counts, changes, notes, left_out, files)
     VALUES (:hash, :name, :zone, :asOf, :at, :who, :source, :fileHash, :counts, '{}', :notes, :leftOut, :files)`,
    {
      hash: snapshot.hash,
      name: snapshot.normal.name,
      zone: snapshot.normal.timeZone,
      asOf: snapshot.normal.asOf,
      at,
      who,
      source: snapshot.source,
      fileHash: snapshot.fileHash,
      counts: JSON.stringify(snapshot.counts),
      notes: JSON.stringify(snapshot.notes.slice(0, notesKept)),
      leftOut: snapshot.leftOut,
      files: JSON.stringify(snapshot.files),
    },
    transaction,
  );
  const frozen = gzipSync(Buffer.from(snapshot.normalText, "utf8"), { level: quickCompression });
  for (let position = 0; position * pieceBytes < frozen.length; position++)
    await insertRows(
      sequelize,
      "snapshot_pieces",
      [{ snapshot: id, position, bytes: frozen.subarray(position * pieceBytes, (position + 1) * pieceBytes) }],
      transaction,
    );
  return id;
}

/**
 * The number of the snapshot that the register stands at, 0 for none. Whoever else stores one holds its lock until they have ended; whoever waits here then
 * sees their outcome.
 */
export async function lockHead(sequelize: Sequelize, transaction: Transaction): Promise<number> {
  const head = await selectFirst<{ snapshot: number | null }>(sequelize, "SELECT snapshot FROM register_head WHERE id = 1 FOR UPDATE", {}, transaction);
  return head?.snapshot ?? 0;
}

/** What a source brings is its own from now on; lists that it does not bring this time stay as they were. */
async function noteBrought(sequelize: Sequelize, transaction: Transaction, { source, brings }: NewSnapshot, snapshot: number): Promise<void> {
  // What came without the name of a source belongs to none.
  if (source === "" || Object.keys(brings).length === 0) return;
  const known = await selectFirst<{ brings: string }>(sequelize, "SELECT brings FROM source_lists WHERE source = :source", { source }, transaction);
  const next = JSON.stringify({ ...(JSON.parse(known?.brings ?? "{}") as NewSnapshot["brings"]), ...brings });
  await insert(
    sequelize,
    "INSERT INTO source_lists (source, brings, snapshot) VALUES (:source, :next, :snapshot) ON DUPLICATE KEY UPDATE brings = VALUES(brings), snapshot = VALUES(snapshot)",
    { source, next, snapshot },
    transaction,
  );
}

const nothingChanged: RegisterChanges = { added: 0, ended: 0, byTable: {} };

/** Stores a snapshot on top of the one whose lock is held, and makes it the register. */
export async function storeWithin(
  sequelize: Sequelize,
  transaction: Transaction,
  head: number,
  snapshot: NewSnapshot,
  who: Actor,
  at: string,
  report: Report,
): ReturnType<SnapshotStore["store"]> {
  const present = await selectFirst<{ hash: string }>(sequelize, "SELECT hash FROM snapshots WHERE id = :head", { head }, transaction);
  const { delivery } = snapshot;
  if (present?.hash === snapshot.hash) {
    if (delivery) await noteDelivery(sequelize, transaction, delivery, at, head);
    return { outcome: "unchanged", id: head, changes: nothingChanged };
  }
  const id = await insertSnapshot(sequelize, transaction, snapshot, who.signIn, at);
  const byTable: Record<string, { added: number; ended: number }> = {};
  for (const [done, table] of registerTables.entries()) {
    report({ step: "storing", done, of: registerTables.length });
    byTable[table.name] = await bringToDate(sequelize, transaction, table, id, snapshot.normal);
  }
  const sum = (key: "added" | "ended") => Object.values(byTable).reduce((total, change) => total + change[key], 0);
  const changes: RegisterChanges = { added: sum("added"), ended: sum("ended"), byTable };
  await execute(sequelize, "UPDATE snapshots SET changes = :changes WHERE id = :id", { id, changes: JSON.stringify(changes) }, transaction);
  await execute(sequelize, "UPDATE register_head SET snapshot = :id WHERE id = 1", { id }, transaction);
  await noteBrought(sequelize, transaction, snapshot, id);
  if (delivery) await noteDelivery(sequelize, transaction, delivery, at, id);
  await appendRecord(sequelize, transaction, who, at, {
    what: "intake.stored",
    on: `snapshot ${id}`,
    before: { snapshot: head === 0 ? null : head, hash: present?.hash ?? null },
    after: {
      hash: snapshot.hash,
      source: snapshot.source,
      fileHash: snapshot.fileHash,
      counts: snapshot.counts,
      leftOut: snapshot.leftOut,
      files: snapshot.files,
    },
  });
  return { outcome: "stored", id, changes };
}

function unpacked(bytes: Buffer): string | undefined {
  try {
    return gunzipSync(bytes).toString("utf8");
  } catch {
    return undefined;
  }
}

export const snapshotStore = (sequelize: Sequelize, folder: string): SnapshotStore => {
  const snapshots = async (condition: string, values: StatementValues = {}) =>
    (await select<SnapshotRow>(sequelize, `SELECT * FROM snapshots ${condition}`, values)).map(asSnapshot);
  return {
    latest: async () => (await snapshots("WHERE id = (SELECT snapshot FROM register_head WHERE id = 1)"))[0],
    byId: async (id) => (await snapshots("WHERE id = :id AND dropped_at IS NULL", { id }))[0],
    list: async () =>
      (
        await select<Omit<SnapshotRow, "notes"> & { readonly note_count: number }>(
          sequelize,
          "SELECT id, hash, facility_name, time_zone, as_of, taken_at, taken_by, source, counts, changes, left_out, files, JSON_LENGTH(notes) AS note_count FROM snapshots WHERE dropped_at IS NULL ORDER BY id DESC",
        )
      ).map(asSummary),
    choices: async () =>
      (
        await select<{ id: number; taken_at: string; left_out: number }>(
          sequelize,
          "SELECT id, taken_at, left_out FROM snapshots WHERE dropped_at IS NULL ORDER BY id DESC",
        )
      ).map(({ id, taken_at, left_out }) => ({ id, takenAt: taken_at, leftOut: left_out })),
    frozen: async (id) => {
      const pieces = await select<{ bytes: Buffer }>(sequelize, "SELECT bytes FROM snapshot_pieces WHERE snapshot = :id ORDER BY position", { id });
      const stated = await selectFirst<{ hash: string }>(sequelize, "SELECT hash FROM snapshots WHERE id = :id", { id });
      const text = unpacked(Buffer.concat(pieces.map(({ bytes }) => bytes)));
      if (text === undefined || sha256(text) !== stated?.hash) throw new AlteredSnapshot(id);
      return text;
    },
    store: async (snapshot, who, at, report, on) => {
      const stored = await sequelize.transaction(async (transaction) => {
        const head = await lockHead(sequelize, transaction);
        if (on !== undefined && head !== (on ?? 0)) return { outcome: "changed-meanwhile" as const, id: head, changes: nothingChanged };
        return storeWithin(sequelize, transaction, head, snapshot, who, at, report);
      });
      await writeHead(sequelize, folder);
      return stored;
    },
    takeBack: async ({ id: wrong, reason }, before, who, at, report) => {
      const stored = await sequelize.transaction(async (transaction) => {
        const head = await lockHead(sequelize, transaction);
        if (head !== wrong) return { outcome: "changed-meanwhile" as const, id: head, changes: nothingChanged };
        // What the wrong one brought is its source's own no more; what that brought before is.
        const one = await selectFirst<{ source: string }>(sequelize, "SELECT source FROM snapshots WHERE id = :wrong", { wrong }, transaction);
        const earlier = await selectFirst<{ id: number | null }>(
          sequelize,
          "SELECT MAX(id) AS id FROM snapshots WHERE source = :source AND id < :wrong",
          { source: one?.source ?? "", wrong },
          transaction,
        );
        const values = { source: one?.source ?? "", wrong, earlier: earlier?.id ?? null };
        if (values.earlier === null) await execute(sequelize, "DELETE FROM source_lists WHERE source = :source AND snapshot = :wrong", values, transaction);
        else await execute(sequelize, "UPDATE source_lists SET snapshot = :earlier WHERE source = :source AND snapshot = :wrong", values, transaction);
        await execute(sequelize, "DELETE FROM source_people WHERE snapshot = :wrong", values, transaction);
        const back = await storeWithin(sequelize, transaction, head, before, who, at, report);
        await appendRecord(sequelize, transaction, who, at, { what: "intake.taken-back", on: `snapshot ${wrong}`, after: { reason, snapshot: back.id } });
        return back;
      });
      await writeHead(sequelize, folder);
      return stored;
    },
  };
};
