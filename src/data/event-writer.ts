import type { Sequelize, Transaction } from "sequelize";
import { identityOf } from "@/core/events/event-book";
import type { ToldEvent } from "@/core/events/event-book";
import { monthOfSecond } from "@/core/events/use-counts";
import type { EventStore, PlaceOf } from "@/operations/ports/events";
import { Counting, countMonths, dropLoadedCounts } from "./event-counts";
import { eventColumns, loadedColumns, loadedRow } from "./event-rows";
import { loadRows } from "./load-rows";
import { appendRecord, sha256, writeHead } from "./record-store";
import { execute, insert, insertRows, rowsAtOnce, select, selectFirst } from "./statements";

/** So many events are loaded and looked over at once. */
const loadedAtOnce = 20_000;

const secondsADay = 86_400;

/** The day since 1970 in which an event lies; a division of what may lie before is not rounded down, and so is made of what cannot. */
const dayOf = (event: string): string => `(${event}.second + 719162 * ${secondsADay}) DIV ${secondsADay} - 719162`;

const nowhere = "nowhere";

/** By which site, clock and hours a door is counted; a short text, another one where any of it changes. */
const countedBy = (placeOf: PlaceOf) => {
  const known = new Map<string, string>();
  return (door: string): string => {
    const place = placeOf(door);
    if (!place) return nowhere;
    const text = JSON.stringify([place.site, place.hoursText]);
    const by = known.get(text) ?? sha256(text);
    known.set(text, by);
    return by;
  };
};

const waitMs = 300;
const longestWaitMs = 20 * 60_000;
/** Whoever takes events in looks for findings at the end, and counts then by where doors are: nobody else waits for that. */
const longestWaitToCountMs = 2000;

/** What the server says of a lock that somebody else has. */
const lockIsTaken = 1205;

const noTurn = (): never => {
  throw new Error("Other events have been taken in for too long: this waited for its turn, and was given up. Nothing of it was stored.");
};

/** What brings, takes back and counts events. */
export function eventWriter(sequelize: Sequelize, folder: string): Pick<EventStore, "store" | "withdraw" | "countBy"> {
  /** Only one at a time brings, takes back or counts events; nobody else waits for it. */
  const takeTurn = async (): Promise<Transaction | undefined> => {
    const turn = await sequelize.transaction();
    try {
      await select(sequelize, "SELECT id FROM event_turn WHERE id = 1 FOR UPDATE NOWAIT", {}, turn);
      return turn;
    } catch (error) {
      await turn.rollback();
      if ((error as { original?: { errno?: number } }).original?.errno === lockIsTaken) return undefined;
      throw error;
    }
  };

  /** Works when the turn comes; where it does not within some time, nothing is done, and undefined given. */
  const inTurn = async <T>(work: () => Promise<T>, longestMs = longestWaitMs): Promise<T | undefined> => {
    for (const started = Date.now(); ;) {
      const turn = await takeTurn();
      if (turn)
        try {
          return await work();
        } finally {
          await turn.rollback();
        }
      if (Date.now() - started > longestMs) return undefined;
      await new Promise((resolve) => setTimeout(resolve, waitMs));
    }
  };

  /** What an intake that was cut off left behind. */
  const sweep = async (): Promise<void> => {
    await dropLoadedCounts(sequelize);
    for (const { id } of await select<{ id: number }>(sequelize, "SELECT id FROM event_files WHERE is_visible = 0")) await removeFile(id);
  };

  const removeFile = async (file: number): Promise<void> => {
    for (const table of ["events", "event_ids", "event_repeats"])
      while ((await execute(sequelize, `DELETE FROM ${table} WHERE file = :file LIMIT 20000`, { file })) > 0);
    await execute(sequelize, "DELETE FROM event_files WHERE id = :file", { file });
  };

  /** Counts doors anew that are counted by where they are not any more. In turn only. */
  const countMoved = async (placeOf: PlaceOf): Promise<void> => {
    const by = countedBy(placeOf);
    const known = await select<{ door: string; counted_by: string }>(sequelize, "SELECT door, counted_by FROM counted_doors");
    const moved = known.filter((one) => one.counted_by !== by(one.door)).map(({ door }) => door);
    if (moved.length === 0) return;
    const doors = moved.length > known.length / 2 || moved.length > rowsAtOnce ? undefined : moved;
    await sequelize.transaction(async (transaction) => {
      const months = await select<{ month: number }>(sequelize, "SELECT DISTINCT month FROM card_events", {}, transaction);
      await countMonths(
        sequelize,
        months.map(({ month }) => month),
        placeOf,
        transaction,
        doors,
      );
      await insertRows(
        sequelize,
        "counted_doors",
        moved.map((door) => ({ door, counted_by: by(door) })),
        transaction,
        "ON DUPLICATE KEY UPDATE counted_by = VALUES(counted_by)",
      );
    });
  };

  /** Lines of what is loaded that are there already, by what other files, or this one before, brought. */
  const linesThere = async (seconds: { readonly from: number; readonly to: number }): Promise<Set<number>> => {
    // One without an id of its own says its second, and so is looked for within its months only.
    const rows = await select<{ line: number }>(
      sequelize,
      `SELECT l.line FROM event_loading l JOIN events e ON e.identity = l.identity AND e.second = l.second
       WHERE l.own_id IS NULL AND e.second BETWEEN :from AND :to
       UNION SELECT l.line FROM event_loading l JOIN event_ids i ON i.identity = l.identity WHERE l.own_id IS NOT NULL`,
      seconds,
    );
    return new Set(rows.map(({ line }) => line));
  };

  const store: EventStore["store"] = async (file, rows, placeOf, who, at, report) => {
    const stored = await inTurn(async () => {
      await sweep();
      const before = await selectFirst<{ rows_read: number; repeated: number }>(sequelize, "SELECT rows_read, repeated FROM event_files WHERE hash = :hash", {
        hash: file.hash,
      });
      if (before) return { outcome: "unchanged" as const, rows: before.rows_read, repeated: before.repeated };
      await countMoved(placeOf);
      const id = await insert(
        sequelize,
        "INSERT INTO event_files (name, hash, source, rows_read, taken_at, is_visible) VALUES (:name, :hash, :source, 0, :at, 0)",
        { ...file, at },
      );
      const counting = new Counting(sequelize, placeOf);
      const doors = new Set<string>();
      const reasons = new Set<string>();
      let [read, repeated, from, to, line] = [0, 0, Infinity, -Infinity, 0];
      let batch: { readonly event: ToldEvent; readonly identity: string; readonly line: number }[] = [];
      const flush = async (): Promise<void> => {
        if (batch.length === 0) return;
        await execute(sequelize, "DELETE FROM event_loading", {});
        await loadRows(
          sequelize,
          "event_loading",
          loadedColumns,
          batch.map((one) => loadedRow(one.event, id, one.line, one.identity)),
        );
        const seconds = batch.map(({ event }) => event.second);
        const there = await linesThere({ from: seconds.reduce((a, b) => Math.min(a, b)), to: seconds.reduce((a, b) => Math.max(a, b)) });
        const seen = new Set<string>();
        for (const { event, identity, line: at } of batch) {
          if (there.has(at)) continue;
          if (seen.has(identity)) there.add(at);
          else {
            seen.add(identity);
            counting.add(event);
            if (event.reason !== undefined) reasons.add(event.reason);
          }
        }
        await counting.spill();
        await sequelize.transaction(async (transaction) => {
          const again = [...there];
          for (let i = 0; i < again.length; i += rowsAtOnce) {
            const lines = again.slice(i, i + rowsAtOnce);
            await execute(
              sequelize,
              `INSERT INTO event_repeats (${eventColumns}) SELECT ${eventColumns} FROM event_loading WHERE line IN (:lines)`,
              { lines },
              transaction,
            );
            await execute(sequelize, "DELETE FROM event_loading WHERE line IN (:lines)", { lines }, transaction);
          }
          await execute(sequelize, `INSERT INTO events (${eventColumns}) SELECT ${eventColumns} FROM event_loading`, {}, transaction);
          await execute(sequelize, "INSERT INTO event_ids (identity, file) SELECT identity, file FROM event_loading WHERE own_id IS NOT NULL", {}, transaction);
        });
        repeated += there.size;
        batch = [];
        // How many rows there will be is not known before the end.
        report({ step: "storing", done: read, of: 0 });
      };
      for await (const event of rows) {
        read++;
        from = Math.min(from, event.second);
        to = Math.max(to, event.second);
        doors.add(event.door);
        batch.push({ event, identity: sha256(identityOf(event, file.source)).slice(0, 32), line: ++line });
        if (batch.length >= loadedAtOnce) await flush();
      }
      await flush();
      await sequelize.transaction(async (transaction) => {
        await counting.keep(transaction);
        const by = countedBy(placeOf);
        const ignore = "ON DUPLICATE KEY UPDATE";
        await insertRows(
          sequelize,
          "counted_doors",
          [...doors].map((door) => ({ door, counted_by: by(door) })),
          transaction,
          `${ignore} counted_by = VALUES(counted_by)`,
        );
        await insertRows(
          sequelize,
          "event_reasons",
          [...reasons].map((reason) => ({ reason })),
          transaction,
          `${ignore} reason = VALUES(reason)`,
        );
        await execute(
          sequelize,
          "UPDATE event_files SET rows_read = :read, repeated = :repeated, from_second = :from, to_second = :to, is_visible = 1 WHERE id = :id",
          { id, read, repeated, from: read > 0 ? from : 0, to: read > 0 ? to : 0 },
          transaction,
        );
        await appendRecord(sequelize, transaction, who, at, { what: "events.stored", on: `event file ${id}`, after: { ...file, rows: read, repeated } });
      });
      return { outcome: "stored" as const, rows: read, repeated };
    });
    if (!stored) return noTurn();
    await writeHead(sequelize, folder);
    return stored;
  };

  const withdraw: EventStore["withdraw"] = async (file, placeOf, who, at) => {
    const done = await inTurn(async () => {
      await sweep();
      const known = await selectFirst<{ name: string; hash: string; source: string; rows_read: number; from_second: number; to_second: number }>(
        sequelize,
        "SELECT name, hash, source, rows_read, from_second, to_second FROM event_files WHERE id = :file",
        { file },
      );
      if (!known) return false;
      const { from_second: from, to_second: to, ...said } = known;
      await countMoved(placeOf);
      await sequelize.transaction(async (transaction) => {
        const values = { file, from, to };
        const run = (sql: string) => execute(sequelize, sql, values, transaction);
        // Only the months of the file are looked through.
        const ofFile = "e.file = :file AND e.second BETWEEN :from AND :to";
        const isOfFile = `e.identity = r.identity AND ${ofFile}`;
        const days = await select<{ day: number }>(
          sequelize,
          `SELECT DISTINCT ${dayOf("e")} AS day FROM events e WHERE ${ofFile}
           UNION SELECT ${dayOf("r")} FROM event_repeats r JOIN events e ON ${isOfFile} WHERE r.file <> :file`,
          values,
          transaction,
        );
        // Of an event that other files brought too, the first of those that stay stands for it now.
        await run(
          `INSERT INTO events (${eventColumns}) SELECT ${eventColumns.replace(/\b(\w+)/g, "r.$1")} FROM event_repeats r JOIN events e ON ${isOfFile}
           WHERE r.file <> :file AND NOT EXISTS (SELECT 1 FROM event_repeats o WHERE o.identity = r.identity AND o.file <> :file
             AND (o.file < r.file OR (o.file = r.file AND o.line < r.line)))`,
        );
        await run(`INSERT IGNORE INTO event_reasons (reason)
          SELECT DISTINCT h.reason FROM events h JOIN events e ON e.identity = h.identity AND ${ofFile} WHERE h.file <> :file AND h.reason IS NOT NULL`);
        const gaveReasons = await selectFirst(sequelize, `SELECT 1 AS one FROM events e WHERE ${ofFile} AND e.reason IS NOT NULL LIMIT 1`, values, transaction);
        await run("DELETE FROM event_ids WHERE file = :file");
        await run(
          `INSERT INTO event_ids (identity, file) SELECT h.identity, h.file FROM events h JOIN events e ON e.identity = h.identity AND ${ofFile}
           WHERE h.file <> :file AND h.own_id IS NOT NULL`,
        );
        await run(
          `DELETE r FROM event_repeats r JOIN events e ON ${isOfFile} JOIN events h ON h.identity = r.identity AND h.file = r.file AND h.line = r.line`,
        );
        await run("DELETE FROM event_repeats WHERE file = :file");
        await run("DELETE FROM events WHERE file = :file AND second BETWEEN :from AND :to");
        if (gaveReasons) await run("DELETE FROM event_reasons WHERE reason NOT IN (SELECT reason FROM events WHERE reason IS NOT NULL)");
        await execute(sequelize, "DELETE FROM event_files WHERE id = :file", { file }, transaction);
        await countMonths(sequelize, new Set(days.map(({ day }) => monthOfSecond(Number(day) * secondsADay))), placeOf, transaction);
        await appendRecord(sequelize, transaction, who, at, { what: "events.withdrawn", on: `event file ${file}`, before: said });
      });
      return true;
    });
    if (done === undefined) return noTurn();
    if (done) await writeHead(sequelize, folder);
    return done;
  };

  return { store, withdraw, countBy: async (placeOf) => void (await inTurn(() => countMoved(placeOf), longestWaitToCountMs)) };
}
