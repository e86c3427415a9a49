import type { Sequelize, Transaction } from "sequelize";
import type { EventDates } from "@/core/events/coverage";
import { identityOf } from "@/core/events/event-book";
import type { ToldEvent } from "@/core/events/event-book";
import type { KeptUse } from "@/core/events/kept-evidence";
import { cardKey, cardOfKey } from "@/core/events/told-card";
import { UseCounts, firstSecondOfMonth, monthOfSecond } from "@/core/events/use-counts";
import type { CivilDay } from "@/core/time/civil-day";
import type { EventFilter, EventStore, PlaceOf, StoredEvent, UsesAsked } from "@/operations/ports/events";
import { loadRows } from "./load-rows";
import type { LoadedValue } from "./load-rows";
import { appendRecord, sha256, writeHead } from "./record-store";
import { execute, insert, insertRows, rowsAtOnce, select, selectFirst } from "./statements";

interface EventRow {
  readonly second: number;
  readonly file: number;
  readonly line: number;
  readonly door: string;
  readonly credential: string | null;
  readonly number: string | null;
  readonly facility_code: string | null;
  readonly granted: number;
  readonly reason: string | null;
  readonly own_id: string | null;
}

const saidColumns = "second, file, line, door, credential, number, facility_code, granted, reason, own_id";

const asEvent = (row: EventRow): StoredEvent => ({
  second: Number(row.second),
  file: row.file,
  line: row.line,
  door: row.door,
  ...(row.credential !== null && { credential: row.credential }),
  ...(row.number !== null && { number: row.number }),
  ...(row.facility_code !== null && { facilityCode: row.facility_code }),
  granted: !!row.granted,
  ...(row.reason !== null && { reason: row.reason }),
  ...(row.own_id !== null && { id: row.own_id }),
});

/** An event as it is loaded, with its identity in digits of 16, in the order of `loadedColumns`. */
const loadedRow = (event: ToldEvent, file: number, line: number, identity: string): readonly LoadedValue[] => [
  line,
  event.second,
  file,
  identity,
  event.door,
  event.credential ?? null,
  event.number ?? null,
  event.facilityCode ?? null,
  event.granted ? 1 : 0,
  event.reason ?? null,
  event.id ?? null,
];

const loadedColumns = `(line, second, file, @identity, door, credential, number, facility_code, granted, reason, own_id) SET identity = UNHEX(@identity)`;
const eventColumns = "second, file, line, identity, door, credential, number, facility_code, granted, reason, own_id";

/** So many events are loaded and looked over at once. */
const loadedAtOnce = 20_000;

/** What was loaded of a file and is not to be seen yet, or any more, is left out. */
const visible = "file NOT IN (SELECT id FROM event_files WHERE is_visible = 0)";

/** More counts than this are not held in memory while a file is read. */
const countsHeld = 400_000;

const secondsADay = 86_400;

/** Conditions of a filter and what stands in them; undefined where nothing can hold. */
function conditionsOf(filter: EventFilter): { readonly where: string; readonly values: Readonly<Record<string, unknown>> } | undefined {
  const conditions = [visible];
  const values: Record<string, unknown> = {};
  const cardCondition = (cards: readonly string[], name: string): string[] => {
    const told = cards.map(cardOfKey);
    const ids = told.flatMap(({ credential }) => credential ?? []);
    const numbers = told.filter(({ credential }) => credential === undefined);
    const parts: string[] = [];
    if (ids.length > 0) {
      parts.push(`credential IN (:${name}Ids)`);
      values[`${name}Ids`] = ids;
    }
    numbers.forEach(({ number, facilityCode }, i) => {
      parts.push(`(credential IS NULL AND number = :${name}Number${i} AND facility_code <=> :${name}Code${i})`);
      values[`${name}Number${i}`] = number;
      values[`${name}Code${i}`] = facilityCode ?? null;
    });
    return parts;
  };
  if (filter.doors) {
    if (filter.doors.length === 0) return undefined;
    conditions.push("door IN (:doors)");
    values.doors = filter.doors;
  }
  if (filter.cards) {
    const parts = cardCondition(filter.cards, "card");
    if (parts.length === 0) return undefined;
    conditions.push(`(${parts.join(" OR ")})`);
  }
  if (filter.either) {
    const parts = cardCondition(filter.either.cards, "either");
    if (filter.either.doors.length > 0) {
      parts.push("door IN (:eitherDoors)");
      values.eitherDoors = filter.either.doors;
    }
    if (filter.either.reasons.length > 0) {
      parts.push("reason IN (:eitherReasons)");
      values.eitherReasons = filter.either.reasons;
    }
    if (parts.length === 0) return undefined;
    conditions.push(`(${parts.join(" OR ")})`);
  }
  if (filter.granted !== undefined) conditions.push(`granted = ${filter.granted ? 1 : 0}`);
  if (filter.reason !== undefined) {
    conditions.push(filter.reason === "" ? "reason IS NULL" : "reason = :reason");
    values.reason = filter.reason;
  }
  if (filter.from !== undefined) {
    conditions.push("second >= :from");
    values.from = filter.from;
  }
  if (filter.before !== undefined) {
    conditions.push("second < :before");
    values.before = filter.before;
  }
  return { where: conditions.join(" AND "), values };
}

interface EventsAsked {
  readonly filter?: EventFilter | undefined;
  readonly transaction?: Transaction | undefined;
}

/** Events of a time in order of it, a day at a time: of no more is there a list. */
async function* eventsBetween(sequelize: Sequelize, from: number, to: number, { filter = {}, transaction }: EventsAsked = {}): AsyncGenerator<StoredEvent> {
  const asked = conditionsOf(filter);
  if (!asked) return;
  const firstFrom = async (start: number): Promise<number | undefined> => {
    const next = await selectFirst<{ second: number }>(
      sequelize,
      "SELECT second FROM events WHERE second >= :start AND second < :to ORDER BY second LIMIT 1",
      { start, to },
      transaction,
    );
    return next && Number(next.second);
  };
  for (let start = await firstFrom(from); start !== undefined;) {
    const end = Math.min(to, start + secondsADay);
    const rows = await select<EventRow>(
      sequelize,
      `SELECT ${saidColumns} FROM events WHERE second >= :start AND second < :end AND ${asked.where} ORDER BY second, file, line`,
      { ...asked.values, start, end },
      transaction,
    );
    for (const row of rows) yield asEvent(row);
    // A wrong clock may have left centuries between two events.
    start = await firstFrom(end);
  }
}

/** Loads what was counted to where it waits to be added. Only whoever has the turn loads there. */
async function loadCounts(sequelize: Sequelize, counts: UseCounts): Promise<void> {
  const load = (table: string, columns: string, rows: readonly (readonly LoadedValue[])[]) =>
    rows.length === 0 ? Promise.resolve() : loadRows(sequelize, table, columns, rows);
  await load(
    "door_use_loading",
    "(card, door, month, uses, last_second, out_of_hours, last_out_of_hours)",
    Array.from(counts.uses, (use) => [use.card, use.door, use.month, use.uses, use.last, use.usesOutOfHours, use.lastOutOfHours ?? null]),
  );
  await load(
    "card_events_loading",
    "(card, month, events, last_second)",
    Array.from(counts.cards, ({ card, month, events, last }) => [card, month, events, last]),
  );
  await load(
    "door_dates_loading",
    "(door, date, month, site, events)",
    Array.from(counts.dates, ({ door, date, month, site, events }) => [door, date, month, site, events]),
  );
}

const countTables = ["door_use", "card_events", "door_dates"] as const;

/** What was loaded of counts and never added, as its intake was cut off. */
async function dropLoadedCounts(sequelize: Sequelize): Promise<void> {
  for (const table of countTables) await execute(sequelize, `DELETE FROM ${table}_loading`, {});
}

/** Adds the counts that were loaded to what is kept; what was remembered of that is out of date from the commit on. */
async function addLoadedCounts(sequelize: Sequelize, transaction: Transaction): Promise<void> {
  const run = (sql: string) => execute(sequelize, sql, {}, transaction);
  await run("UPDATE event_version SET version = version + 1");
  await run(
    `INSERT INTO door_use (card, door, month, uses, last_second, out_of_hours, last_out_of_hours)
     SELECT card, door, month, SUM(uses), MAX(last_second), SUM(out_of_hours), MAX(last_out_of_hours) FROM door_use_loading GROUP BY card, door, month
     ON DUPLICATE KEY UPDATE uses = door_use.uses + VALUES(uses), last_second = GREATEST(door_use.last_second, VALUES(last_second)),
       out_of_hours = door_use.out_of_hours + VALUES(out_of_hours),
       last_out_of_hours = GREATEST(COALESCE(door_use.last_out_of_hours, VALUES(last_out_of_hours)), COALESCE(VALUES(last_out_of_hours), door_use.last_out_of_hours))`,
  );
  await run(
    `INSERT INTO card_events (card, month, events, last_second) SELECT card, month, SUM(events), MAX(last_second) FROM card_events_loading GROUP BY card, month
     ON DUPLICATE KEY UPDATE events = card_events.events + VALUES(events), last_second = GREATEST(card_events.last_second, VALUES(last_second))`,
  );
  await run(
    `INSERT INTO door_dates (door, date, month, site, events) SELECT door, date, month, site, SUM(events) FROM door_dates_loading GROUP BY door, date, month, site
     ON DUPLICATE KEY UPDATE events = door_dates.events + VALUES(events)`,
  );
  for (const table of countTables) await run(`DELETE FROM ${table}_loading`);
}

/** Adds what was counted to what is kept. */
async function addCounts(sequelize: Sequelize, counts: UseCounts, transaction: Transaction): Promise<void> {
  await loadCounts(sequelize, counts);
  await addLoadedCounts(sequelize, transaction);
}

/** Counts months anew from the events themselves. */
async function countMonths(sequelize: Sequelize, months: Iterable<number>, placeOf: PlaceOf, transaction: Transaction): Promise<void> {
  for (const month of months) {
    for (const table of countTables) await execute(sequelize, `DELETE FROM ${table} WHERE month = :month`, { month }, transaction);
    const counts = new UseCounts(placeOf);
    for await (const event of eventsBetween(sequelize, firstSecondOfMonth(month), firstSecondOfMonth(month + 1), { transaction })) counts.add(event);
    await addCounts(sequelize, counts, transaction);
  }
}

/** What is read of what is counted, until that changes. */
function rememberedUntilCounted<T>(sequelize: Sequelize, read: () => Promise<T>): () => Promise<T> {
  let known: { readonly version: number; readonly value: Promise<T> } | undefined;
  return async () => {
    const version = (await selectFirst<{ version: number }>(sequelize, "SELECT version FROM event_version WHERE id = 1"))?.version ?? 0;
    if (known?.version !== version) known = { version, value: read() };
    const { value } = known;
    value.catch(() => (known = undefined));
    return value;
  };
}

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

export const eventStore = (sequelize: Sequelize, folder: string): EventStore => {
  /** Only one at a time brings, takes back or counts events; nobody else waits for it. */
  const inTurn = async <T>(work: () => Promise<T>): Promise<T> => {
    for (const started = Date.now(); ;) {
      const transaction = await sequelize.transaction();
      try {
        await select(sequelize, "SELECT id FROM event_turn WHERE id = 1 FOR UPDATE NOWAIT", {}, transaction);
        return await work();
      } catch (error) {
        const isTaken = (error as { original?: { errno?: number } }).original?.errno === 1205;
        if (!isTaken || Date.now() - started > longestWaitMs) throw error;
      } finally {
        await transaction.rollback();
      }
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
    const isMoved = new Set(moved);
    const isAll = moved.length > known.length / 2;
    await sequelize.transaction(async (transaction) => {
      if (isAll) {
        const months = await select<{ month: number }>(sequelize, "SELECT DISTINCT month FROM card_events", {}, transaction);
        await countMonths(
          sequelize,
          months.map(({ month }) => month),
          placeOf,
          transaction,
        );
      } else {
        const counts = new UseCounts(placeOf);
        for (let i = 0; i < moved.length; i += rowsAtOnce) {
          const doors = moved.slice(i, i + rowsAtOnce);
          await execute(sequelize, "DELETE FROM door_use WHERE door IN (:doors)", { doors }, transaction);
          await execute(sequelize, "DELETE FROM door_dates WHERE door IN (:doors)", { doors }, transaction);
          const rows = await select<EventRow>(sequelize, `SELECT ${saidColumns} FROM events WHERE door IN (:doors) AND ${visible}`, { doors }, transaction);
          for (const row of rows) if (isMoved.has(row.door)) counts.add(asEvent(row));
        }
        await addCounts(sequelize, counts.withoutCards(), transaction);
      }
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
      let counts = new UseCounts(placeOf);
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
            counts.add(event);
          }
        }
        if (counts.size > countsHeld) {
          await loadCounts(sequelize, counts);
          counts = new UseCounts(placeOf);
        }
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
        if (event.reason !== undefined) reasons.add(event.reason);
        batch.push({ event, identity: sha256(identityOf(event, file.source)).slice(0, 32), line: ++line });
        if (batch.length >= loadedAtOnce) await flush();
      }
      await flush();
      await sequelize.transaction(async (transaction) => {
        await addCounts(sequelize, counts, transaction);
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
    await writeHead(sequelize, folder);
    return stored;
  };

  const withdraw: EventStore["withdraw"] = async (file, placeOf, who, at) => {
    const done = await inTurn(async () => {
      await sweep();
      const known = await selectFirst<{ name: string; hash: string; source: string; rows_read: number }>(
        sequelize,
        "SELECT name, hash, source, rows_read FROM event_files WHERE id = :file",
        { file },
      );
      if (!known) return false;
      await countMoved(placeOf);
      await sequelize.transaction(async (transaction) => {
        const months = new Set<number>();
        const note = (seconds: readonly { readonly second: number }[]) => {
          for (const { second } of seconds) months.add(monthOfSecond(Number(second)));
        };
        note(await select<{ second: number }>(sequelize, "SELECT DISTINCT second FROM events WHERE file = :file", { file }, transaction));
        // Of an event that other files brought too, the first of those that stay stands for it now.
        const heirs = await select<EventRow & { identity: Buffer }>(
          sequelize,
          `SELECT r.identity, ${saidColumns.replace(/\b(\w+)/g, "r.$1")} FROM event_repeats r JOIN events e ON e.identity = r.identity AND e.file = :file
           WHERE r.file <> :file AND NOT EXISTS (SELECT 1 FROM event_repeats o WHERE o.identity = r.identity AND o.file <> :file
             AND (o.file < r.file OR (o.file = r.file AND o.line < r.line)))`,
          { file },
          transaction,
        );
        for (const table of ["events", "event_ids", "event_repeats"])
          await execute(sequelize, `DELETE FROM ${table} WHERE file = :file`, { file }, transaction);
        await insertRows(
          sequelize,
          "events",
          heirs.map(({ identity, ...row }) => ({ ...row, identity })),
          transaction,
        );
        await insertRows(
          sequelize,
          "event_ids",
          heirs.filter(({ own_id }) => own_id !== null).map(({ identity, file: of }) => ({ identity, file: of })),
          transaction,
        );
        for (const { identity, file: of, line } of heirs)
          await execute(sequelize, "DELETE FROM event_repeats WHERE identity = :identity AND file = :of AND line = :line", { identity, of, line }, transaction);
        note(heirs);
        await execute(sequelize, "DELETE FROM event_files WHERE id = :file", { file }, transaction);
        await countMonths(sequelize, months, placeOf, transaction);
        await appendRecord(sequelize, transaction, who, at, { what: "events.withdrawn", on: `event file ${file}`, before: known });
      });
      return true;
    });
    if (done) await writeHead(sequelize, folder);
    return done;
  };

  return {
    store,
    withdraw,
    files: async () => {
      const rows = await select<{
        id: number;
        name: string;
        source: string;
        rows_read: number;
        repeated: number;
        from_second: number;
        to_second: number;
        taken_at: string;
      }>(sequelize, "SELECT id, name, source, rows_read, repeated, from_second, to_second, taken_at FROM event_files WHERE is_visible = 1 ORDER BY id DESC");
      return rows.map((row) => ({
        id: row.id,
        name: row.name,
        source: row.source,
        rows: row.rows_read,
        repeated: row.repeated,
        from: row.rows_read > 0 ? Number(row.from_second) : undefined,
        to: row.rows_read > 0 ? Number(row.to_second) : undefined,
        takenAt: row.taken_at,
      }));
    },
    countBy: (placeOf) => inTurn(() => countMoved(placeOf)),
    uses: (of, placeOf) => uses(sequelize, of, placeOf),
    lastUses: rememberedUntilCounted(sequelize, async () => {
      const rows = await select<{ card: string; last: number }>(sequelize, "SELECT card, MAX(last_second) AS last FROM door_use GROUP BY card");
      return new Map(rows.map(({ card, last }) => [card, Number(last)]));
    }),
    dates: rememberedUntilCounted(sequelize, async () => {
      const dates = new Map<string, CivilDay[]>();
      const rows = await select<{ site: string; date: number }>(sequelize, "SELECT DISTINCT site, date FROM door_dates ORDER BY site, date");
      for (const { site, date } of rows) {
        const known = dates.get(site);
        if (known) known.push(date as CivilDay);
        else dates.set(site, [date as CivilDay]);
      }
      return dates satisfies ReadonlyMap<string, EventDates>;
    }),
    lastDates: rememberedUntilCounted(sequelize, async () => {
      const rows = await select<{ door: string; date: number }>(sequelize, "SELECT door, MAX(date) AS date FROM door_dates GROUP BY door");
      return new Map(rows.map(({ door, date }) => [door, Number(date)]));
    }),
    between: (from, to, filter) => eventsBetween(sequelize, from, to, { filter }),
    page: async (filter, behind, limit) => {
      const asked = conditionsOf(filter);
      if (!asked) return [];
      const after = behind ? " AND second <= :second AND (second < :second OR file < :file OR (file = :file AND line < :line))" : "";
      const rows = await select<EventRow>(
        sequelize,
        `SELECT ${saidColumns} FROM events WHERE ${asked.where}${after} ORDER BY second DESC, file DESC, line DESC LIMIT :limit`,
        { ...asked.values, ...behind, limit },
      );
      return rows.map(asEvent);
    },
    groups: async (filter, by, limit) => {
      const asked = conditionsOf(filter);
      if (!asked) return [];
      const columns = { door: "door", card: "credential, number, facility_code", hour: "FLOOR(MOD(MOD(second, 86400) + 86400, 86400) / 3600)" }[by];
      const key = { door: "door AS door", card: "credential, number, facility_code", hour: `${columns} AS hour` }[by];
      const rows = await select<Partial<EventRow> & { hour?: number; events: number; granted_events: number; last: number }>(
        sequelize,
        `SELECT ${key}, COUNT(*) AS events, SUM(granted) AS granted_events, MAX(second) AS last FROM events WHERE ${asked.where}
         GROUP BY ${columns} ORDER BY events DESC, ${columns} LIMIT :limit`,
        { ...asked.values, limit },
      );
      const keyOf = (row: (typeof rows)[number]): string => {
        if (by === "door") return row.door ?? "";
        if (by === "hour") return String(Number(row.hour));
        return cardKey({ credential: row.credential ?? undefined, number: row.number ?? undefined, facilityCode: row.facility_code ?? undefined });
      };
      return rows.map((row) => ({ key: keyOf(row), events: Number(row.events), granted: Number(row.granted_events), last: Number(row.last) }));
    },
    cards: rememberedUntilCounted(sequelize, async () => {
      const rows = await select<{ card: string; events: number; last: number }>(
        sequelize,
        "SELECT card, SUM(events) AS events, MAX(last_second) AS last FROM card_events GROUP BY card ORDER BY events DESC, card",
      );
      return rows.map(({ card, events, last }) => ({ card, events: Number(events), last: Number(last) }));
    }),
    reasons: async () => (await select<{ reason: string }>(sequelize, "SELECT reason FROM event_reasons ORDER BY reason")).map(({ reason }) => reason),
    span: async () => {
      const row = await selectFirst<{ first: number | null; last: number | null }>(
        sequelize,
        `SELECT (SELECT second FROM events WHERE ${visible} ORDER BY second LIMIT 1) AS first, (SELECT second FROM events WHERE ${visible} ORDER BY second DESC LIMIT 1) AS last`,
      );
      return row?.first == null || row.last === null ? undefined : { from: Number(row.first), to: Number(row.last) };
    },
  };
};

/** Granted uses by card and door up to a second. What was counted by month is taken where all of a month counts; the month that is cut is counted here. */
async function uses(sequelize: Sequelize, { cards, doors, upTo }: UsesAsked, placeOf: PlaceOf): Promise<KeptUse[]> {
  if (cards?.length === 0 || doors?.length === 0) return [];
  const month = upTo === undefined ? undefined : monthOfSecond(upTo);
  const later = month === undefined ? "" : "SELECT 1 AS one FROM events WHERE second > :upTo AND second < :end LIMIT 1";
  const isCut = month !== undefined && (await selectFirst(sequelize, later, { upTo, end: firstSecondOfMonth(month + 1) })) !== undefined;
  const conditions = [
    month === undefined ? "" : isCut ? "month < :month" : "month <= :month",
    cards ? "card IN (:cards)" : "",
    doors ? "door IN (:doors)" : "",
  ].filter(Boolean);
  const rows = await select<{ card: string; door: string; uses: number; last: number; last_out: number | null }>(
    sequelize,
    `SELECT card, door, SUM(uses) AS uses, MAX(last_second) AS last, MAX(last_out_of_hours) AS last_out FROM door_use
     ${conditions.length > 0 ? `WHERE ${conditions.join(" AND ")}` : ""} GROUP BY card, door`,
    { month, cards, doors },
  );
  const kept = rows.map((row): KeptUse => ({
    card: row.card,
    door: row.door,
    uses: Number(row.uses),
    last: Number(row.last),
    lastOutOfHours: row.last_out === null ? undefined : Number(row.last_out),
  }));
  if (!isCut) return kept;
  const counts = new UseCounts(placeOf);
  const filter = { ...(cards && { cards }), ...(doors && { doors }), granted: true };
  for await (const event of eventsBetween(sequelize, firstSecondOfMonth(month), (upTo ?? 0) + 1, { filter })) counts.add(event);
  const byKey = new Map(kept.map((use) => [JSON.stringify([use.card, use.door]), use]));
  for (const { card, door, uses: n, last, lastOutOfHours } of counts.uses) {
    const key = JSON.stringify([card, door]);
    const before = byKey.get(key);
    byKey.set(key, { card, door, uses: n + (before?.uses ?? 0), last, lastOutOfHours: lastOutOfHours ?? before?.lastOutOfHours });
  }
  return [...byKey.values()];
}
