import type { EpochMinute } from "../time/instant";

/** What the events say; instants in minutes, ids as in the document. */
export interface UseRecord {
  /** Last granted use of a credential anywhere; undefined for none in the events. */
  readonly lastUse: (credential: string) => EpochMinute | undefined;
  /** Granted uses of a door with a credential: how many, and when last. */
  readonly useOfDoor: (credential: string, door: string) => { readonly count: number; readonly last: EpochMinute } | undefined;
  /** What the events of a site cover; undefined where there are none. */
  readonly coverage: (site: string) => SiteCoverage | undefined;
}

export interface SiteCoverage {
  readonly from: EpochMinute;
  readonly to: EpochMinute;
}

export const noEvents: UseRecord = { lastUse: () => undefined, useOfDoor: () => undefined, coverage: () => undefined };
