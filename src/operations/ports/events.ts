import type { EventDates } from "@/core/events/coverage";
import type { ToldEvent } from "@/core/events/event-book";
import type { KeptUse } from "@/core/events/kept-evidence";
import type { PlaceOfDoor } from "@/core/findings/counted-places";
import type { Zone } from "@/core/time/zone";
import type { Report } from "./progress";
import type { Actor } from "./record";

/** An event as it is kept: with the file and line that it came from. */
export type StoredEvent = ToldEvent & { readonly file: number; readonly line: number };

/** A file of events that was taken in. `repeated` of its events other files, or it itself, had brought before. */
export interface EventFile {
  readonly id: number;
  readonly name: string;
  readonly source: string;
  readonly rows: number;
  readonly repeated: number;
  /** First and last second of its events; undefined where it has none. */
  readonly from: number | undefined;
  readonly to: number | undefined;
  readonly takenAt: string;
}

/** Which events are looked at: all that hold. Lists of texts stand for any of them; seconds since 1970-01-01T00:00Z. */
export interface EventFilter {
  readonly doors?: readonly string[];
  /** What events tell of cards; see `cardKey`. */
  readonly cards?: readonly string[];
  /** Either is enough: one of these doors, or one of these cards. */
  readonly either?: { readonly doors: readonly string[]; readonly cards: readonly string[]; readonly reasons: readonly string[] };
  readonly granted?: boolean;
  /** An empty text asks for those without a reason. */
  readonly reason?: string;
  readonly from?: number;
  /** Not including it. */
  readonly before?: number;
}

/** Where a page of events ends: the next one begins behind it. */
export interface EventPlace {
  readonly second: number;
  readonly file: number;
  readonly line: number;
}

/** By what events are put together. */
export type EventGrouping = "door" | "card";

/** By which clocks doors tell the hour: those of some by these, all others by another one. */
export interface DoorClocks {
  readonly zones: readonly { readonly zone: Zone; readonly doors: readonly string[] }[];
  readonly others: Zone;
}

export interface EventGroup {
  /** A door's id, what is told of a card, or the hour of the day. */
  readonly key: string;
  readonly events: number;
  readonly granted: number;
  readonly last: number;
}

/** Of which cards and doors uses are asked for, if not of all; `upTo` is the last second that counts. */
export interface UsesAsked {
  readonly cards?: readonly string[] | undefined;
  readonly doors?: readonly string[] | undefined;
  readonly upTo?: number | undefined;
}

export type PlaceOf = (door: string) => PlaceOfDoor | undefined;

export interface EventStore {
  /**
   * Stores the events of one file: they are seen all at once, or not at all. `unchanged` where just this file was taken in before. An event that another
   * file brought counts once. What is counted is counted by where the doors are.
   */
  readonly store: (
    file: { readonly name: string; readonly hash: string; readonly source: string },
    rows: AsyncIterable<ToldEvent>,
    placeOf: PlaceOf,
    who: Actor,
    at: string,
    report: Report,
  ) => Promise<{ readonly outcome: "stored" | "unchanged"; readonly rows: number; readonly repeated: number }>;
  /** Takes a file of events back, with all that was counted from it; what another file brought too stays. False where there is none. */
  readonly withdraw: (file: number, placeOf: PlaceOf, who: Actor, at: string) => Promise<boolean>;
  /** The files that were taken in, the latest first. */
  readonly files: () => Promise<EventFile[]>;
  /**
   * Counts the events of doors by where they are now; what is counted so already costs nothing. While somebody takes events in it is left to them, who count
   * when they are done.
   */
  readonly countBy: (placeOf: PlaceOf) => Promise<void>;
  /** Granted uses by card and door, of events up to a second; of some cards or doors where only these are asked for. */
  readonly uses: (of: UsesAsked, placeOf: PlaceOf) => Promise<KeptUse[]>;
  /** The second of the last granted use of each card anywhere, by what events tell of it; one object as long as nothing else is counted. */
  readonly lastUses: () => Promise<ReadonlyMap<string, number>>;
  /** Local dates of each site on which one of its doors had events. */
  readonly dates: () => Promise<ReadonlyMap<string, EventDates>>;
  /** The last date on which each door had an event, by door. */
  readonly lastDates: () => Promise<ReadonlyMap<string, number>>;
  /** All events of a time, `to` not included, as they were told, in order of time. */
  readonly between: (from: number, to: number, filter?: EventFilter) => AsyncIterable<StoredEvent>;
  /** The newest first, behind a place where one is given. */
  readonly page: (filter: EventFilter, behind: EventPlace | undefined, limit: number) => Promise<StoredEvent[]>;
  /** Events put together, those with most first. Cost: a walk of all that the filter asks for. */
  readonly groups: (filter: EventFilter, by: EventGrouping, limit: number) => Promise<EventGroup[]>;
  /** The same by the hour of the day on the clock of each door. */
  readonly hours: (filter: EventFilter, clocks: DoorClocks) => Promise<EventGroup[]>;
  /** What events tell of cards, each with how often and when last, those seen most often first. */
  readonly cards: () => Promise<{ readonly card: string; readonly events: number; readonly last: number }[]>;
  /** Every reason that an event that counts gives. */
  readonly reasons: () => Promise<string[]>;
  /** The first and the last second of all events; undefined where there are none. */
  readonly span: () => Promise<{ readonly from: number; readonly to: number } | undefined>;
}
