import type { Sequelize, Transaction } from "sequelize";
import type { RetentionKind } from "@/core/evidence/retention";
import { droppedText, valuesGoneText } from "@/core/evidence/retention";
import { monthOfSecond } from "@/core/events/use-counts";
import type { Actor } from "@/operations/ports/record";
import type { RetentionStore } from "@/operations/ports/retention";
import { appendRecord, appendRecords, sha256, writeHead } from "./record-store";
import { registerTables } from "./register-tables";
import { execute, insertRows, select, selectFirst } from "./statements";

const what = "retention.dropped";
const rowsAtOnce = 5000;

/** Entries of these kinds bear what signatures rest on: their values go with their snapshot or their round, and not before. */
const evidence = [
  "intake.stored",
  "round.opened",
  "round.closed",
  "round.closing-asked",
  "line.decided",
  "line.commented",
  "docket.signed",
  "docket.closed",
  "docket.corrected",
  "docket.given",
  "orders.planned-anew",
  "orders.sent",
  "order.answered",
  "order.ticket",
  "account.put",
];

/** A round is kept while something that it withdrew is not known to be gone. */
const isOver = `r.closed_at < :before AND r.dropped_at IS NULL AND NOT EXISTS (
  SELECT 1 FROM orders o WHERE o.round = r.id AND o.cancelled_at IS NULL AND COALESCE(
    (SELECT JSON_VALUE(c.outcome, '$.outcome') FROM closing_checks c WHERE c.line = o.line ORDER BY c.snapshot DESC, c.id DESC LIMIT 1), '') NOT IN ('done', 'task-done'))`;

/** The month in which an instant lies, and the second at which it began: whatever is of before that is of before the instant. */
function monthBegun(instant: string): { readonly month: number; readonly second: number } {
  const month = monthOfSecond(Math.floor(Date.parse(instant) / 1000));
  return { month, second: Date.UTC(Math.floor(month / 12), month % 12) / 1000 };
}

/** What is kept for some time only, and how it is let go: the chain of the record holds all the same. */
export function retentionStore(sequelize: Sequelize, folder: string): RetentionStore {
  const numbers = async (sql: string, values: Record<string, unknown>, transaction?: Transaction): Promise<number[]> =>
    (await select<{ n: number }>(sequelize, sql, values, transaction)).map(({ n }) => Number(n));

  /** Deletes the values of entries and writes down which; the record's turn is held from its own entry on. */
  const dropValues = async (of: readonly number[], who: Actor, at: string, transaction: Transaction): Promise<void> => {
    if (of.length === 0) return;
    await appendRecord(sequelize, transaction, who, at, { what, on: valuesGoneText(of, sha256) });
    const [entry = 0] = await numbers("SELECT MAX(number) AS n FROM record_entries", {}, transaction);
    for (let i = 0; i < of.length; i += rowsAtOnce) {
      const some = of.slice(i, i + rowsAtOnce);
      await execute(sequelize, "DELETE FROM record_values WHERE number IN (:some)", { some }, transaction);
      await insertRows(
        sequelize,
        "record_values_gone",
        some.map((number) => ({ number, entry })),
        transaction,
      );
    }
  };

  const written = async <T>(work: (transaction: Transaction) => Promise<T>): Promise<T> => {
    const done = await sequelize.transaction(work);
    await writeHead(sequelize, folder);
    return done;
  };

  /** Entries of before an instant that still have values on which nothing rests. */
  const oldValues = (before: string) =>
    numbers(
      "SELECT e.number AS n FROM record_entries e JOIN record_values v ON v.number = e.number WHERE e.at < :before AND e.what NOT IN (:evidence) ORDER BY 1",
      {
        before,
        evidence,
      },
    );

  /** Cardholders who left before an instant, by the present register. */
  const leavers = async (before: string): Promise<string[]> =>
    (
      await select<{ id: string }>(
        sequelize,
        "SELECT id FROM register_cardholders WHERE until_snapshot IS NULL AND status = 'left' AND status_since IS NOT NULL AND LEFT(status_since, 10) < LEFT(:before, 10)",
        { before },
      )
    ).map(({ id }) => id);

  /** Entries on drafts whose values name one of these people, and look-ups of them or of their credentials. */
  const ofLeavers = async (before: string): Promise<{ readonly entries: number[]; readonly lookUps: number[] }> => {
    const ids = new Set(await leavers(before));
    if (ids.size === 0) return { entries: [], lookUps: [] };
    const some = [...ids];
    const entries = (
      await select<{ number: number; content: string }>(
        sequelize,
        "SELECT e.number, v.content FROM record_entries e JOIN record_values v ON v.number = e.number WHERE e.what = 'draft.changed' ORDER BY e.number",
      )
    ).filter(({ content }) =>
      [...content.matchAll(/"list":"cardholders","key":("(?:[^"\\]|\\.)*")/g)].some(([, key = '""']) => ids.has(JSON.parse(key) as string)),
    );
    const lookUps = await numbers(
      `SELECT id AS n FROM look_ups WHERE (kind = 'cardholder' AND object IN (:some))
         OR (kind = 'credential' AND object IN (SELECT c.id FROM register_credentials c WHERE c.until_snapshot IS NULL AND c.cardholder IN (:some)))`,
      { some },
    );
    return { entries: entries.map(({ number }) => number), lookUps };
  };

  /** The oldest snapshots in a row that are of before an instant and that nothing needs: not the register, not a round, not an open draft. */
  const oldSnapshots = async (before: string, transaction?: Transaction): Promise<{ readonly id: number; readonly hash: string }[]> => {
    const kept = await select<{ id: number; hash: string; taken_at: string; needed: number }>(
      sequelize,
      `SELECT s.id, s.hash, s.taken_at, (s.id = (SELECT snapshot FROM register_head WHERE id = 1) OR EXISTS (SELECT 1 FROM rounds r WHERE r.snapshot = s.id AND r.dropped_at IS NULL)) AS needed
       FROM snapshots s WHERE s.dropped_at IS NULL ORDER BY s.id`,
      {},
      transaction,
    );
    const end = kept.findIndex(({ taken_at, needed }) => !!needed || taken_at >= before);
    return kept.slice(0, end < 0 ? 0 : end);
  };

  const dropSnapshots = (before: string, who: Actor, at: string): Promise<number> =>
    written(async (transaction) => {
      // No intake meanwhile.
      await select(sequelize, "SELECT snapshot FROM register_head WHERE id = 1 FOR UPDATE", {}, transaction);
      const dropped = await oldSnapshots(before, transaction);
      const last = dropped.at(-1);
      if (!last) return 0;
      const ids = dropped.map(({ id }) => id);
      const run = (sql: string) => execute(sequelize, sql, { ids, at, last: last.id }, transaction);
      await run("DELETE FROM snapshot_pieces WHERE snapshot IN (:ids)");
      await run('UPDATE snapshots SET dropped_at = :at, notes = \'[]\', changes = \'{"added":0,"ended":0,"byTable":{}}\' WHERE id IN (:ids)');
      // Rows that stood in none of those that stay.
      for (const { name } of registerTables) await run(`DELETE FROM \`${name}\` WHERE until_snapshot <= :last + 1`);
      for (const table of ["findings", "finding_runs"]) await run(`DELETE FROM ${table} WHERE snapshot IN (:ids)`);
      await appendRecords(
        sequelize,
        transaction,
        who,
        at,
        dropped.map(({ id, hash }) => ({ what, on: droppedText("snapshot", id, hash) })),
      );
      await dropValues(
        await valuesOn(
          ids.map((id) => `snapshot ${id}`),
          [],
          transaction,
        ),
        who,
        at,
        transaction,
      );
      return ids.length;
    });

  /** Entries that still have values, on these, or on something whose name fits a pattern. */
  const valuesOn = (on: readonly string[], like: readonly string[], transaction: Transaction): Promise<number[]> =>
    numbers(
      `SELECT e.number AS n FROM record_entries e JOIN record_values v ON v.number = e.number
       WHERE e.on_what IN (:on) ${like.map((_, i) => `OR e.on_what LIKE :like${i}`).join(" ")} ORDER BY 1`,
      { on: ["", ...on], ...Object.fromEntries(like.map((one, i) => [`like${i}`, one])) },
      transaction,
    );

  const dropRound = (round: number, who: Actor, at: string): Promise<void> =>
    written(async (transaction) => {
      const dockets = await select<{ id: number; hash: string | null }>(
        sequelize,
        "SELECT id, hash FROM dockets WHERE round = :round ORDER BY id",
        { round },
        transaction,
      );
      const docketIds = dockets.map(({ id }) => id);
      const lines = await numbers("SELECT id AS n FROM docket_lines WHERE docket IN (:docketIds)", { docketIds: [0, ...docketIds] }, transaction);
      const gone = await valuesOn(
        [`round ${round}`, ...docketIds.map((id) => `docket ${id}`), ...lines.map((id) => `orders of line ${id}`)],
        [...docketIds.map((id) => `line % of docket ${id}`), `order % of round ${round}`],
        transaction,
      );
      const run = (sql: string) => execute(sequelize, sql, { round, at, lines: [0, ...lines], docketIds: [0, ...docketIds] }, transaction);
      for (const table of ["line_comments", "closing_checks"]) await run(`DELETE FROM ${table} WHERE line IN (:lines)`);
      for (const table of ["orders", "substitutes", "mails"]) await run(`DELETE FROM ${table} WHERE round = :round`);
      await run("DELETE FROM docket_lines WHERE docket IN (:docketIds)");
      await run(
        "UPDATE dockets SET dropped_at = :at, certifier = NULL, certifier_name = NULL, account = NULL, signed_by = NULL, statement = NULL WHERE id IN (:docketIds)",
      );
      await run("UPDATE rounds SET dropped_at = :at, name = '', closing_reason = NULL WHERE id = :round");
      await appendRecords(sequelize, transaction, who, at, [
        ...dockets.map(({ id, hash }) => ({ what, on: droppedText("docket", id, hash ?? undefined) })),
        { what, on: `round ${round}` },
      ]);
      await dropValues(gone, who, at, transaction);
    });

  const oldRounds = (before: string): Promise<number[]> => numbers(`SELECT r.id AS n FROM rounds r WHERE ${isOver} ORDER BY 1`, { before });

  /**
   * Whole months of events, with all that is counted of them: as if they had never come in. What is counted goes first, with the entry that says so; the events
   * themselves then go some at a time, so that nobody waits for all of them.
   */
  const dropEvents = async (before: string, who: Actor, at: string): Promise<number> => {
    const { month, second } = monthBegun(before);
    const count = (await numbers("SELECT COUNT(*) AS n FROM events WHERE second < :second", { second }))[0] ?? 0;
    if (count === 0) return 0;
    await written(async (transaction) => {
      await select(sequelize, "SELECT id FROM event_turn WHERE id = 1 FOR UPDATE", {}, transaction);
      for (const table of ["door_use", "card_events", "door_dates"])
        await execute(sequelize, `DELETE FROM ${table} WHERE month < :month`, { month }, transaction);
      await appendRecord(sequelize, transaction, who, at, { what, on: `${count} events of before ${new Date(second * 1000).toISOString().slice(0, 10)}` });
    });
    await execute(sequelize, "DELETE i FROM event_ids i JOIN events e ON e.identity = i.identity WHERE e.second < :second", { second });
    for (const table of ["event_repeats", "events"])
      while ((await execute(sequelize, `DELETE FROM ${table} WHERE second < :second LIMIT ${rowsAtOnce}`, { second })) > 0);
    return count;
  };

  const due: RetentionStore["due"] = async (kind, before) => {
    switch (kind) {
      case "events": {
        const { second } = monthBegun(before);
        return (await numbers("SELECT COUNT(*) AS n FROM events WHERE second < :second", { second }))[0] ?? 0;
      }
      case "leavers": {
        const { entries, lookUps } = await ofLeavers(before);
        return entries.length + lookUps.length;
      }
      case "values":
        return (await oldValues(before)).length;
      case "snapshots":
        return (await oldSnapshots(before)).length;
      case "rounds":
        return (await oldRounds(before)).length;
    }
  };

  const drop: RetentionStore["drop"] = async (kind, before, who, at) => {
    switch (kind) {
      case "events":
        return dropEvents(before, who, at);
      case "leavers": {
        const { entries, lookUps } = await ofLeavers(before);
        if (entries.length + lookUps.length === 0) return 0;
        await written(async (transaction) => {
          await execute(sequelize, "DELETE FROM look_ups WHERE id IN (:ids)", { ids: [0, ...lookUps] }, transaction);
          if (lookUps.length > 0)
            await appendRecord(sequelize, transaction, who, at, {
              what,
              on: `${lookUps.length} look-${lookUps.length === 1 ? "up" : "ups"} of people who left`,
            });
          await dropValues(entries, who, at, transaction);
        });
        return entries.length + lookUps.length;
      }
      case "values": {
        const old = await oldValues(before);
        if (old.length > 0) await written((transaction) => dropValues(old, who, at, transaction));
        return old.length;
      }
      case "snapshots":
        return dropSnapshots(before, who, at);
      case "rounds": {
        const old = await oldRounds(before);
        for (const round of old) await dropRound(round, who, at);
        return old.length;
      }
    }
  };

  return {
    settings: async () =>
      (
        await select<{ kind: RetentionKind; months: number; set_at: string; set_by: string }>(
          sequelize,
          "SELECT kind, months, set_at, set_by FROM retention ORDER BY kind",
        )
      ).map(({ kind, months, set_at: setAt, set_by: setBy }) => ({ kind, months, setAt, setBy })),
    set: (kind, months, who, at) =>
      written(async (transaction) => {
        const before = await selectFirst<{ months: number }>(sequelize, "SELECT months FROM retention WHERE kind = :kind FOR UPDATE", { kind }, transaction);
        if (before?.months === months) return;
        if (months === undefined) await execute(sequelize, "DELETE FROM retention WHERE kind = :kind", { kind }, transaction);
        else
          await execute(
            sequelize,
            "INSERT INTO retention (kind, months, set_at, set_by) VALUES (:kind, :months, :at, :by) ON DUPLICATE KEY UPDATE months = VALUES(months), set_at = VALUES(set_at), set_by = VALUES(set_by)",
            { kind, months, at, by: who.signIn },
            transaction,
          );
        await appendRecord(sequelize, transaction, who, at, {
          what: "retention.set",
          on: kind,
          before: { months: before?.months ?? null },
          after: { months: months ?? null },
        });
      }),
    due,
    drop,
  };
}
