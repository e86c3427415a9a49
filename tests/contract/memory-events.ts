import type { CivilDay } from "@/core/time/civil-day";
import { identityOf } from "@/core/events/event-book";
import type { ToldEvent } from "@/core/events/event-book";
import type { KeptUse } from "@/core/events/kept-evidence";
import { cardKey } from "@/core/events/told-card";
import type { EpochMinute } from "@/core/time/instant";
import { localTime } from "@/core/time/zone";
import type { EventFile, EventFilter, EventStore, PlaceOf, StoredEvent } from "@/operations/ports/events";

interface KeptFile extends EventFile {
  readonly hash: string;
  readonly events: readonly ToldEvent[];
}

const byTime = (a: StoredEvent, b: StoredEvent): number => a.second - b.second || a.file - b.file || a.line - b.line;

/** Events kept in memory, worked out anew whenever something is asked; the contract of the store holds for it as well. */
export function memoryEvents(): EventStore {
  let files: KeptFile[] = [];
  let placeOf: PlaceOf = () => undefined;
  let ids = 0;
  /** Each once: the first in the order of files and rows counts. */
  const all = (): StoredEvent[] => {
    const seen = new Set<string>();
    return files.flatMap(({ id, source, events }) =>
      events.flatMap((event, i) => {
        const identity = identityOf(event, source);
        if (seen.has(identity)) return [];
        seen.add(identity);
        return [{ ...event, file: id, line: i + 1 }];
      }),
    );
  };
  const fits =
    ({ doors, cards, either, granted, reason, from, before }: EventFilter) =>
    (event: StoredEvent): boolean =>
      (doors?.includes(event.door) ?? true) &&
      (cards?.includes(cardKey(event)) ?? true) &&
      (either === undefined ||
        either.doors.includes(event.door) ||
        either.cards.includes(cardKey(event)) ||
        (event.reason !== undefined && either.reasons.includes(event.reason))) &&
      (granted === undefined || event.granted === granted) &&
      (reason === undefined || (event.reason ?? "") === reason) &&
      (from === undefined || event.second >= from) &&
      (before === undefined || event.second < before);
  const dateOf = ({ door, second }: StoredEvent): { readonly site: string; readonly date: CivilDay } | undefined => {
    const place = placeOf(door);
    return place && { site: place.site, date: localTime(place.zone, Math.floor(second / 60) as EpochMinute).date };
  };
  const groupsBy = (events: readonly StoredEvent[], keyOf: (event: StoredEvent) => string): Map<string, StoredEvent[]> => {
    const groups = new Map<string, StoredEvent[]>();
    for (const event of events) groups.set(keyOf(event), [...(groups.get(keyOf(event)) ?? []), event]);
    return groups;
  };
  const counted = (events: readonly StoredEvent[], keyOf: (event: StoredEvent) => string) =>
    [...groupsBy(events, keyOf)]
      .map(([key, own]) => ({
        key,
        events: own.length,
        granted: own.filter(({ granted }) => granted).length,
        last: Math.max(...own.map(({ second }) => second)),
      }))
      .sort((a, b) => b.events - a.events);
  return {
    store: async ({ name, hash, source }, rows, places, _who, takenAt) => {
      placeOf = places;
      const known = files.find((file) => file.hash === hash);
      if (known) return { outcome: "unchanged", rows: known.rows, repeated: known.repeated };
      const events: ToldEvent[] = [];
      for await (const row of rows) events.push(row);
      const seconds = events.map(({ second }) => second);
      const before = all().length;
      const span = events.length === 0 ? { from: undefined, to: undefined } : { from: Math.min(...seconds), to: Math.max(...seconds) };
      files = [...files, { id: ++ids, name, hash, source, events, rows: events.length, repeated: 0, takenAt, ...span }];
      const repeated = events.length - (all().length - before);
      files = files.map((file) => (file.id === ids ? { ...file, repeated } : file));
      return { outcome: "stored", rows: events.length, repeated };
    },
    withdraw: (file, places) => {
      placeOf = places;
      const isThere = files.some(({ id }) => id === file);
      files = files.filter(({ id }) => id !== file);
      return Promise.resolve(isThere);
    },
    files: () => Promise.resolve([...files].reverse().map(({ hash: _, events: __, ...file }) => file)),
    countBy: (places) => {
      placeOf = places;
      return Promise.resolve();
    },
    uses: ({ cards, doors, upTo }) => {
      const asked = all().filter(
        (event) => event.granted && (cards?.includes(cardKey(event)) ?? true) && (doors?.includes(event.door) ?? true) && event.second <= (upTo ?? Infinity),
      );
      const isOut = ({ door, second }: StoredEvent): boolean => placeOf(door)?.isBusiness(Math.floor(second / 60) as EpochMinute) === false;
      return Promise.resolve(
        [...groupsBy(asked, (event) => JSON.stringify([cardKey(event), event.door])).values()].map((events): KeptUse => {
          const [{ door } = { door: "" }] = events;
          const out = events.filter(isOut).map(({ second }) => second);
          return {
            card: cardKey(events[0] ?? {}),
            door,
            uses: events.length,
            last: Math.max(...events.map(({ second }) => second)),
            lastOutOfHours: out.length === 0 ? undefined : Math.max(...out),
          };
        }),
      );
    },
    lastUses: () => {
      const granted = groupsBy(
        all().filter((event) => event.granted),
        cardKey,
      );
      return Promise.resolve(new Map([...granted].map(([card, events]) => [card, Math.max(...events.map(({ second }) => second))])));
    },
    dates: () => {
      const dates = new Map<string, Set<CivilDay>>();
      for (const event of all()) {
        const at = dateOf(event);
        if (at) dates.set(at.site, new Set([...(dates.get(at.site) ?? []), at.date]));
      }
      return Promise.resolve(new Map([...dates].map(([site, days]) => [site, [...days].sort((a, b) => a - b)])));
    },
    lastDates: () => {
      const last = new Map<string, number>();
      for (const event of all()) {
        const at = dateOf(event);
        if (at) last.set(event.door, Math.max(at.date, last.get(event.door) ?? -Infinity));
      }
      return Promise.resolve(last);
    },
    between: async function* (from, to, filter = {}) {
      await Promise.resolve();
      yield* all()
        .filter((event) => event.second >= from && event.second < to)
        .filter(fits(filter))
        .sort(byTime);
    },
    page: (filter, behind, limit) =>
      Promise.resolve(
        all()
          .filter(fits(filter))
          .filter((event) => behind === undefined || byTime(event, { ...event, ...behind }) < 0)
          .sort((a, b) => byTime(b, a))
          .slice(0, limit),
      ),
    groups: (filter, by, limit) =>
      Promise.resolve(counted(all().filter(fits(filter)), (event) => (by === "door" ? event.door : cardKey(event))).slice(0, limit)),
    hours: (filter, { zones, others }) =>
      Promise.resolve(
        counted(all().filter(fits(filter)), ({ door, second }) => {
          const zone = zones.find(({ doors }) => doors.includes(door))?.zone ?? others;
          return String(Math.floor(localTime(zone, Math.floor(second / 60) as EpochMinute).minuteOfDay / 60));
        }),
      ),
    cards: () =>
      Promise.resolve(
        [...groupsBy(all(), cardKey)].map(([card, events]) => ({ card, events: events.length, last: Math.max(...events.map(({ second }) => second)) })),
      ),
    reasons: () => Promise.resolve([...new Set(all().flatMap(({ reason }) => reason ?? []))].sort()),
    span: () => {
      const seconds = all().map(({ second }) => second);
      return Promise.resolve(seconds.length === 0 ? undefined : { from: Math.min(...seconds), to: Math.max(...seconds) });
    },
  };
}
