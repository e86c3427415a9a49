import type { Sequelize } from "sequelize";
import type { EventDates } from "@/core/events/coverage";
import { cardKey } from "@/core/events/told-card";
import type { CivilDay } from "@/core/time/civil-day";
import type { EventStore } from "@/operations/ports/events";
import { rememberedUntilCounted, uses } from "./event-counts";
import { asCounted, counted, eventsByHour } from "./event-hours";
import type { CountedRow } from "./event-hours";
import { asEvent, conditionsOf, eventsBetween, saidColumns, visible } from "./event-rows";
import type { EventRow } from "./event-rows";
import { eventWriter } from "./event-writer";
import { select, selectFirst } from "./statements";

export const eventStore = (sequelize: Sequelize, folder: string): EventStore => ({
  ...eventWriter(sequelize, folder),
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
    const columns = { door: "door", card: "credential, number, facility_code" }[by];
    const rows = await select<Partial<EventRow> & CountedRow>(
      sequelize,
      `SELECT ${columns}, ${counted} FROM events WHERE ${asked.where} GROUP BY ${columns} ORDER BY events DESC, ${columns} LIMIT :limit`,
      { ...asked.values, limit },
    );
    const keyOf = ({ door = "", credential, number, facility_code: code }: (typeof rows)[number]): string =>
      by === "door" ? door : cardKey({ credential: credential ?? undefined, number: number ?? undefined, facilityCode: code ?? undefined });
    return rows.map((row) => ({ key: keyOf(row), ...asCounted(row) }));
  },
  hours: (filter, clocks) => eventsByHour(sequelize, filter, clocks),
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
});
