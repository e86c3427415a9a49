import type { CivilDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { localTime, zoneOf } from "@/core/time/zone";
import type { DoorPlace, EventRow, EventStore } from "@/operations/ports/events";

/** Events kept in memory, for tests that need no database; the contract of the store holds for it as well. */
export function memoryEvents(known: (credential: string) => boolean = () => true): EventStore {
  const files = new Map<string, readonly EventRow[]>();
  let placeOf: (door: string) => DoorPlace | undefined = () => undefined;
  const rows = (): EventRow[] => [...files.values()].flat();
  const granted = (upTo = Infinity): EventRow[] => rows().filter(({ result, at }) => result === "granted" && at <= upTo);
  const datesAt = (site: string): readonly CivilDay[] => {
    const dates = rows().flatMap(({ door, at }) => {
      const place = placeOf(door);
      return place?.site === site ? [localTime(zoneOf(place.zone), at as EpochMinute).date] : [];
    });
    return [...new Set(dates)].sort((a, b) => a - b);
  };
  const lastOf = (used: readonly EventRow[]): EpochMinute | undefined =>
    used.length === 0 ? undefined : (Math.max(...used.map(({ at }) => at)) as EpochMinute);
  return {
    store: async ({ hash }, read) => {
      const before = files.get(hash);
      if (before) return { outcome: "unchanged", rows: before.length };
      const taken: EventRow[] = [];
      for await (const row of read) taken.push(row);
      files.set(hash, taken);
      return { outcome: "stored", rows: taken.length };
    },
    unknownCredentials: (limit) => {
      const unknown = [...new Set(rows().map(({ credential }) => credential))].filter((credential) => !known(credential));
      const told = unknown.map((credential) => {
        const own = rows().filter((row) => row.credential === credential);
        return { credential, times: own.length, lastAt: Math.max(...own.map(({ at }) => at)) };
      });
      return Promise.resolve(told.sort((a, b) => b.times - a.times || (a.credential < b.credential ? -1 : 1)).slice(0, limit));
    },
    countDates: (places) => {
      placeOf = places;
      return Promise.resolve();
    },
    use: ({ door, credentials, upTo }) => {
      const asked = granted(upTo).filter((row) => (door === undefined || row.door === door) && (credentials?.includes(row.credential) ?? true));
      return Promise.resolve({
        lastUse: (credential) => lastOf(asked.filter((row) => row.credential === credential)),
        useOfDoor: (credential, at) => {
          const own = asked.filter((row) => row.credential === credential && row.door === at);
          const last = lastOf(own);
          return last === undefined ? undefined : { count: own.length, last };
        },
        eventDates: datesAt,
      });
    },
    lastUses: (upTo) => Promise.resolve({ lastUse: (credential) => lastOf(granted(upTo).filter((row) => row.credential === credential)), eventDates: datesAt }),
  };
}
