import type { EventDates } from "../events/coverage";
import { coveredDatesBefore } from "../events/coverage";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { required } from "../kernel/invariant";
import type { EpochMinute } from "../time/instant";
import { localTime } from "../time/zone";

/** What the events say; instants in minutes, ids as in the document. */
export interface UseRecord {
  /** Last granted use of a credential anywhere; undefined for none in the events. */
  readonly lastUse: (credential: string) => EpochMinute | undefined;
  /** Granted uses of a door with a credential: how many, and when last. */
  readonly useOfDoor: (credential: string, door: string) => { readonly count: number; readonly last: EpochMinute } | undefined;
  /** Dates on which a site had events. */
  readonly eventDates: (site: string) => EventDates;
}

/** What rules about use ask: nothing of single doors. */
export type LastUses = Pick<UseRecord, "lastUse" | "eventDates">;

export const noEvents: UseRecord = { lastUse: () => undefined, useOfDoor: () => undefined, eventDates: () => [] };

/** Dates of a site that events cover, of the last so many before a minute. */
export function coveredAtDoor(compiled: CompiledFacility, use: LastUses, door: Position, at: EpochMinute, days: number): number {
  const {
    door: { site },
    zone,
  } = required(compiled.doors[door], "positions are valid");
  return coveredDatesBefore(use.eventDates(site), localTime(zone, at).date, days);
}

/** What is said of use speaks of so many days. */
export const daysOfUse = 90;

/** How doors were used by some credentials. */
export interface DoorUse {
  readonly count: number;
  readonly last: EpochMinute | undefined;
  /** Of the `daysOfUse` dates before, how many events cover at the doors, where it is least. */
  readonly coveredDays: number;
}

/** How some doors were used by some credentials, and how much of the last days the events cover there. */
export function useOfDoors(compiled: CompiledFacility, use: UseRecord, credentials: readonly string[], doors: readonly Position[], at: EpochMinute): DoorUse {
  let [count, last] = [0, -Infinity];
  for (const door of doors) {
    const { id } = required(compiled.facility.doors[door], "positions are valid");
    for (const credential of credentials) {
      const used = use.useOfDoor(credential, id);
      count += used?.count ?? 0;
      last = Math.max(last, used?.last ?? -Infinity);
    }
  }
  const sites = new Map(doors.map((door) => [required(compiled.doors[door], "positions are valid").door.site, door]));
  const coveredDays = sites.size === 0 ? 0 : Math.min(...[...sites.values()].map((door) => coveredAtDoor(compiled, use, door, at, daysOfUse)));
  return { count, last: Number.isFinite(last) ? (last as EpochMinute) : undefined, coveredDays };
}
