import type { Sequelize, Transaction } from "sequelize";
import type { EpochMinute } from "@/core/time/instant";
import type { CivilDay } from "@/core/time/civil-day";
import { localTime, zoneOf } from "@/core/time/zone";
import type { UseRecord } from "@/core/findings/use";
import type { DoorPlace, EventRow, EventStore } from "@/operations/ports/events";
import { appendRecord, writeHead } from "./record-store";
import { execute, insert, insertRows, insertValues, rowsAtOnce, select, selectFirst } from "./statements";

/** Uses and dates with events added up while events come in, written once at the end. */
class Tally {
  private readonly uses = new Map<string, { credential: string; door: string; uses: number; last: number }>();
  private readonly doors = new Set<string>();
  private readonly dates = new Map<string, Set<CivilDay>>();
  rows = 0;
  from = Infinity;
  to = -Infinity;

  /** `places` gives the site and zone of doors of which dates are counted already. */
  constructor(private readonly places: ReadonlyMap<string, DoorPlace>) {}

  add({ at, door, credential, result }: EventRow): void {
    this.rows++;
    this.from = Math.min(this.from, at);
    this.to = Math.max(this.to, at);
    this.doors.add(door);
    const place = this.places.get(door);
    if (place) addDate(this.dates, place, at);
    if (result !== "granted") return;
    const key = JSON.stringify([credential, door]);
    const use = this.uses.get(key);
    if (use) {
      use.uses++;
      use.last = Math.max(use.last, at);
    } else this.uses.set(key, { credential, door, uses: 1, last: at });
  }

  useRows = () => [...this.uses.values()].map(({ credential, door, uses, last }) => [credential, door, uses, last]);
  doorRows = () => [...this.doors].map((door) => [door]);
  dateRows = () => dateRows(this.dates);
}

/** Counts the local date of an event for its site. */
function addDate(dates: Map<string, Set<CivilDay>>, { site, zone }: DoorPlace, at: number): void {
  const { date } = localTime(zoneOf(zone), at as EpochMinute);
  const known = dates.get(site);
  if (known) known.add(date);
  else dates.set(site, new Set([date]));
}

const dateRows = (dates: ReadonlyMap<string, ReadonlySet<CivilDay>>) => [...dates].flatMap(([site, of]) => [...of].map((date) => [site, date]));

interface UseRow {
  readonly credential: string;
  readonly door: string;
  readonly uses: number;
  readonly last_minute: number;
}

/** A use record over rows of aggregates. */
function recordOfUse(uses: readonly UseRow[], dates: ReadonlyMap<string, CivilDay[]>): UseRecord {
  const last = new Map<string, EpochMinute>();
  const ofDoor = new Map<string, { count: number; last: EpochMinute }>();
  for (const { credential, door, uses: count, last_minute } of uses) {
    const minute = Number(last_minute) as EpochMinute;
    ofDoor.set(JSON.stringify([credential, door]), { count: Number(count), last: minute });
    if (minute > (last.get(credential) ?? -Infinity)) last.set(credential, minute);
  }
  return {
    lastUse: (credential) => last.get(credential),
    useOfDoor: (credential, door) => ofDoor.get(JSON.stringify([credential, door])),
    eventDates: (site) => dates.get(site) ?? [],
  };
}

/** More credentials than this are not named one by one in a statement. */
const namedCredentials = 2000;

/** Uses of credentials, door by door or of all doors together, limited to one door or to some credentials, and to events up to a minute. */
async function uses(
  sequelize: Sequelize,
  {
    door,
    credentials,
    upTo,
    byDoor,
  }: {
    readonly door?: string | undefined;
    readonly credentials?: readonly string[] | undefined;
    readonly upTo: EpochMinute | undefined;
    readonly byDoor: boolean;
  },
): Promise<UseRow[]> {
  const ofDoor = door === undefined ? "" : "door = :door";
  const where = (...conditions: string[]): string => (conditions.some(Boolean) ? `WHERE ${conditions.filter(Boolean).join(" AND ")}` : "");
  const [place, group] = byDoor ? ["door", "GROUP BY credential, door"] : ["'' AS door", "GROUP BY credential"];
  const known = await select<UseRow>(
    sequelize,
    `SELECT credential, ${place}, SUM(uses) AS uses, MAX(last_minute) AS last_minute FROM door_use
     ${where(ofDoor, credentials === undefined ? "" : "credential IN (:credentials)")} ${group}`,
    { door, credentials: credentials && [...credentials] },
  );
  if (upTo === undefined) return known;
  const late = new Set(known.filter(({ last_minute }) => Number(last_minute) > upTo).map(({ credential }) => credential));
  if (late.size === 0) return known;
  // Events that are later than what is spoken of: of whoever has some, the earlier ones are looked at one by one.
  const earlier = await select<UseRow>(
    sequelize,
    `SELECT credential, ${place}, COUNT(*) AS uses, MAX(at_minute) AS last_minute FROM events
     ${where("result = 'granted'", "at_minute <= :upTo", ofDoor, late.size <= namedCredentials ? "credential IN (:late)" : "")} ${group}`,
    { upTo, door, late: [...late] },
  );
  return [...known.filter(({ credential }) => !late.has(credential)), ...earlier.filter(({ credential }) => late.has(credential))];
}

/** Dates with events, by site. */
async function eventDates(sequelize: Sequelize): Promise<Map<string, CivilDay[]>> {
  const dates = new Map<string, CivilDay[]>();
  for (const { site, date } of await select<{ site: string; date: number }>(sequelize, "SELECT site, date FROM site_event_dates ORDER BY site, date")) {
    const known = dates.get(site);
    if (known) known.push(date as CivilDay);
    else dates.set(site, [date as CivilDay]);
  }
  return dates;
}

export const eventStore = (sequelize: Sequelize, folder: string): EventStore => ({
  store: async (file, rows, who, at, report) => {
    const stored = await sequelize.transaction(async (transaction) => {
      // Two takings of one file at once: the second waits here and then finds it there.
      await select(sequelize, "SELECT id FROM register_head WHERE id = 1 FOR UPDATE", {}, transaction);
      const known = await selectFirst<{ rows_read: number }>(
        sequelize,
        "SELECT rows_read FROM event_files WHERE hash = :hash",
        { hash: file.hash },
        transaction,
      );
      if (known) return { outcome: "unchanged" as const, rows: known.rows_read };
      const id = await insert(
        sequelize,
        "INSERT INTO event_files (name, hash, rows_read, from_minute, to_minute, taken_at) VALUES (:name, :hash, 0, 0, 0, :at)",
        { ...file, at },
        transaction,
      );
      const tally = new Tally(await countedPlaces(sequelize, transaction));
      let batch: object[] = [];
      const flush = async () => {
        await insertRows(sequelize, "events", batch, transaction);
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
      const upsert = (statement: string, values: readonly (readonly unknown[])[]) => insertValues(sequelize, statement, values, transaction);
      await upsert(
        "INSERT INTO door_use (credential, door, uses, last_minute) VALUES :rows ON DUPLICATE KEY UPDATE uses = uses + VALUES(uses), last_minute = GREATEST(last_minute, VALUES(last_minute))",
        tally.useRows(),
      );
      await upsert("INSERT INTO doors_with_events (door) VALUES :rows ON DUPLICATE KEY UPDATE door = VALUES(door)", tally.doorRows());
      await upsert(insertDates, tally.dateRows());
      await execute(
        sequelize,
        "UPDATE event_files SET rows_read = :rows, from_minute = :from, to_minute = :to WHERE id = :id",
        { id, rows: tally.rows, from: tally.rows > 0 ? tally.from : 0, to: tally.rows > 0 ? tally.to : 0 },
        transaction,
      );
      await appendRecord(sequelize, transaction, who, at, { what: "events.stored", on: `event file ${id}`, after: { ...file, rows: tally.rows } });
      return { outcome: "stored" as const, rows: tally.rows };
    });
    await writeHead(sequelize, folder);
    return stored;
  },
  unknownCredentials: async (limit) =>
    (
      await select<{ credential: string; times: number; last_at: number }>(
        sequelize,
        `SELECT e.credential, COUNT(*) AS times, MAX(e.at_minute) AS last_at FROM events e
         WHERE NOT EXISTS (SELECT 1 FROM register_credentials c WHERE c.id = e.credential AND c.until_snapshot IS NULL)
         GROUP BY e.credential ORDER BY times DESC, e.credential LIMIT :limit`,
        { limit },
      )
    ).map(({ credential, times, last_at }) => ({ credential, times: Number(times), lastAt: Number(last_at) })),
  countDates: async (placeOf) => {
    await sequelize.transaction(async (transaction) => {
      await select(sequelize, "SELECT id FROM register_head WHERE id = 1 FOR UPDATE", {}, transaction);
      const counted = await countedPlaces(sequelize, transaction);
      const doors = (await select<{ door: string }>(sequelize, "SELECT door FROM doors_with_events", {}, transaction)).map(({ door }) => door);
      const isSame = (a: DoorPlace | undefined, b: DoorPlace | undefined): boolean => a?.site === b?.site && a?.zone === b?.zone;
      const moved = doors.filter((door) => !isSame(counted.get(door), placeOf(door)));
      // A site that a door has left, or whose clock is another one now, is counted anew.
      const left = new Set(moved.flatMap((door) => counted.get(door)?.site ?? []));
      const toCount = doors.filter((door) => placeOf(door) && (left.has(placeOf(door)?.site ?? "") || moved.includes(door)));
      if (left.size > 0) await execute(sequelize, "DELETE FROM site_event_dates WHERE site IN (:sites)", { sites: [...left] }, transaction);
      if (moved.length > 0) await execute(sequelize, "DELETE FROM counted_doors WHERE door IN (:moved)", { moved }, transaction);
      const dates = new Map<string, Set<CivilDay>>();
      for (const door of toCount) {
        const place = placeOf(door);
        if (!place) continue;
        const minutes = await select<{ at_minute: number }>(sequelize, "SELECT DISTINCT at_minute FROM events WHERE door = :door", { door }, transaction);
        for (const { at_minute } of minutes) addDate(dates, place, Number(at_minute));
      }
      await insertValues(sequelize, insertDates, dateRows(dates), transaction);
      const places = moved.flatMap((door) => (({ site, zone }: Partial<DoorPlace>) => (site === undefined ? [] : [[door, site, zone]]))(placeOf(door) ?? {}));
      await insertValues(sequelize, "INSERT INTO counted_doors (door, site, zone) VALUES :rows", places, transaction);
    });
  },
  use: async ({ door, credentials, upTo }) => {
    if (credentials?.length === 0) return recordOfUse([], new Map());
    return recordOfUse(await uses(sequelize, { door, credentials, upTo, byDoor: true }), await eventDates(sequelize));
  },
  lastUses: async (upTo) => {
    const { lastUse, eventDates: datesOf } = recordOfUse(await uses(sequelize, { upTo, byDoor: false }), await eventDates(sequelize));
    return { lastUse, eventDates: datesOf };
  },
});

const insertDates = "INSERT INTO site_event_dates (site, date) VALUES :rows ON DUPLICATE KEY UPDATE date = VALUES(date)";

/** Doors of which dates are counted, with the site and zone by which they are. */
async function countedPlaces(sequelize: Sequelize, transaction: Transaction): Promise<Map<string, DoorPlace>> {
  const rows = await select<DoorPlace & { readonly door: string }>(sequelize, "SELECT door, site, zone FROM counted_doors", {}, transaction);
  return new Map(rows.map(({ door, site, zone }) => [door, { site, zone }]));
}
