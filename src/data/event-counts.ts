import type { Sequelize, Transaction } from "sequelize";
import type { ToldEvent } from "@/core/events/event-book";
import type { KeptUse } from "@/core/events/kept-evidence";
import { UseCounts, firstSecondOfMonth, monthOfSecond } from "@/core/events/use-counts";
import type { PlaceOf, UsesAsked } from "@/operations/ports/events";
import { eventsBetween } from "./event-rows";
import { loadRows } from "./load-rows";
import type { LoadedValue } from "./load-rows";
import { execute, select, selectFirst } from "./statements";

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

export const countTables = ["door_use", "card_events", "door_dates"] as const;

/** What was loaded of counts and never added, as its intake was cut off. */
export async function dropLoadedCounts(sequelize: Sequelize): Promise<void> {
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

/** More counts than this are not held in memory. */
const countsHeld = 400_000;

/** Counts events while they pass by: what is more than memory should hold waits in the database until all of it is added. In turn only. */
export class Counting {
  private counts: UseCounts;

  constructor(
    private readonly sequelize: Sequelize,
    private readonly placeOf: PlaceOf,
  ) {
    this.counts = new UseCounts(placeOf);
  }

  add(event: ToldEvent): void {
    this.counts.add(event);
  }

  /** Makes room, where there is little left. */
  async spill(): Promise<void> {
    if (this.counts.size <= countsHeld) return;
    await loadCounts(this.sequelize, this.counts);
    this.counts = new UseCounts(this.placeOf);
  }

  /** Adds all that was counted to what is kept; of doors only where cards were counted before. */
  async keep(transaction: Transaction, of: "all" | "doors" = "all"): Promise<void> {
    await loadCounts(this.sequelize, this.counts);
    if (of === "doors") await execute(this.sequelize, "DELETE FROM card_events_loading", {});
    await addLoadedCounts(this.sequelize, transaction);
  }
}

/** Counts months anew from the events themselves; of some doors only where these are named, at most as many as a statement names. */
export async function countMonths(
  sequelize: Sequelize,
  months: Iterable<number>,
  placeOf: PlaceOf,
  transaction: Transaction,
  doors?: readonly string[],
): Promise<void> {
  const counting = new Counting(sequelize, placeOf);
  for (const month of months) {
    for (const table of countTables) {
      if (doors && table === "card_events") continue;
      await execute(sequelize, `DELETE FROM ${table} WHERE month = :month ${doors ? "AND door IN (:doors)" : ""}`, { month, doors }, transaction);
    }
    const filter = doors && { doors };
    for await (const event of eventsBetween(sequelize, firstSecondOfMonth(month), firstSecondOfMonth(month + 1), { filter, transaction })) counting.add(event);
    await counting.spill();
  }
  await counting.keep(transaction, doors ? "doors" : "all");
}

/** What is read of what is counted, until that changes. */
export function rememberedUntilCounted<T>(sequelize: Sequelize, read: () => Promise<T>): () => Promise<T> {
  let known: { readonly version: number; readonly value: Promise<T> } | undefined;
  return async () => {
    const version = (await selectFirst<{ version: number }>(sequelize, "SELECT version FROM event_version WHERE id = 1"))?.version ?? 0;
    if (known?.version !== version) known = { version, value: read() };
    const { value } = known;
    value.catch(() => (known = undefined));
    return value;
  };
}

/** Granted uses by card and door up to a second. What was counted by month is taken where all of a month counts; the month that is cut is counted here. */
export async function uses(sequelize: Sequelize, { cards, doors, upTo }: UsesAsked, placeOf: PlaceOf): Promise<KeptUse[]> {
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
