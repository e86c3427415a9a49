import type { LastUses, UseRecord } from "@/core/findings/use";
import type { EpochMinute } from "@/core/time/instant";
import type { Report } from "./progress";
import type { Actor } from "./record";

export interface EventRow {
  readonly at: number;
  readonly door: string;
  readonly credential: string;
  readonly result: "granted" | "refused";
  readonly reason: string | undefined;
}

/** The site of a door, and the zone of its clock. */
export interface DoorPlace {
  readonly site: string;
  readonly zone: string;
}

export interface EventStore {
  /** Stores the events of one file in one transaction; `unchanged` where just this file was taken in before. */
  readonly store: (
    file: { readonly name: string; readonly hash: string },
    rows: AsyncIterable<EventRow>,
    who: Actor,
    at: string,
    report: Report,
  ) => Promise<{ readonly outcome: "stored" | "unchanged"; readonly rows: number }>;
  /**
   * Numbers that doors saw and the register does not have, with how often and when last (a minute), those seen most often first. Cost: a walk of the index of
   * events.
   */
  readonly unknownCredentials: (limit: number) => Promise<{ readonly credential: string; readonly times: number; readonly lastAt: number }[]>;
  /** Counts the dates with events of each site by where its doors are now; what is counted so already costs nothing. */
  readonly countDates: (placeOf: (door: string) => DoorPlace | undefined) => Promise<void>;
  /** When each credential was last used anywhere, of events up to a minute: added up in the database, a number a credential. */
  readonly lastUses: (upTo: EpochMinute) => Promise<LastUses>;
  /** What the events say door by door, limited to one door or to some credentials where only these are asked for, and to events up to a minute. */
  readonly use: (of: { readonly door?: string; readonly credentials?: readonly string[]; readonly upTo?: EpochMinute }) => Promise<UseRecord>;
}
