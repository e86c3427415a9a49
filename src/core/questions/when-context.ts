import type { HolidayCalendar } from "../time/calendar";
import type { EpochMinute } from "../time/instant";
import type { Zone } from "../time/zone";

/** A site as far as the reading of times needs it. */
export interface WhenSite {
  readonly id: string;
  readonly zone: Zone;
  readonly calendar: HolidayCalendar | undefined;
}

/** Parts of a day, in minutes: `[start, end]`; an end at or before the start is on the next date. */
export interface PartsOfDay {
  readonly morning: readonly [number, number];
  readonly afternoon: readonly [number, number];
  readonly evening: readonly [number, number];
  readonly night: readonly [number, number];
}

export const usualParts: PartsOfDay = { morning: [360, 720], afternoon: [720, 1080], evening: [1080, 1320], night: [1320, 360] };

/** What typed times are read against. */
export interface WhenContext {
  readonly now: EpochMinute;
  /** The organisation's own zone: what recurs holds for 13 months of its dates. */
  readonly zone: Zone;
  readonly sites: readonly WhenSite[];
  readonly parts: PartsOfDay;
}
