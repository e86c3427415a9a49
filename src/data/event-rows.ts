import type { Sequelize, Transaction } from "sequelize";
import type { ToldEvent } from "@/core/events/event-book";
import { cardOfKey } from "@/core/events/told-card";
import type { EventFilter, StoredEvent } from "@/operations/ports/events";
import type { LoadedValue } from "./load-rows";
import { select, selectFirst } from "./statements";

export interface EventRow {
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

export const saidColumns = "second, file, line, door, credential, number, facility_code, granted, reason, own_id";

export const asEvent = (row: EventRow): StoredEvent => ({
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
export const loadedRow = (event: ToldEvent, file: number, line: number, identity: string): readonly LoadedValue[] => [
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

export const loadedColumns = `(line, second, file, @identity, door, credential, number, facility_code, granted, reason, own_id) SET identity = UNHEX(@identity)`;
export const eventColumns = "second, file, line, identity, door, credential, number, facility_code, granted, reason, own_id";

/** What was loaded of a file and is not to be seen yet, or any more, is left out. */
export const visible = "file NOT IN (SELECT id FROM event_files WHERE is_visible = 0)";

const secondsADay = 86_400;

/** Conditions of a filter and what stands in them; undefined where nothing can hold. */
export function conditionsOf(filter: EventFilter): { readonly where: string; readonly values: Readonly<Record<string, unknown>> } | undefined {
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
export async function* eventsBetween(
  sequelize: Sequelize,
  from: number,
  to: number,
  { filter = {}, transaction }: EventsAsked = {},
): AsyncGenerator<StoredEvent> {
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
