import type { CivilDay, Weekday } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";

/** A time on the wall clock of a site: each door's own, whichever zone that is in. */
export interface LocalTime {
  readonly date: CivilDay;
  /** 0..1439 */
  readonly minuteOfDay: number;
}

/** Which dates of a time are meant. A day type or a holiday is that of the site's calendar, the winning entry's. */
export type DayFilter =
  | { readonly kind: "every-day" }
  | { readonly kind: "weekdays"; readonly weekdays: readonly Weekday[] }
  /** The site's own weekend. */
  | { readonly kind: "weekend" }
  | { readonly kind: "day-type"; readonly dayType: string }
  | { readonly kind: "holiday"; readonly name: string };

/** Which part of a date is meant. What runs over midnight belongs to the date on which it begins. */
export type HoursOfDay =
  | { readonly kind: "all-day" }
  | { readonly kind: "clock"; readonly minuteOfDay: number }
  /** Minutes of the day; an end at or before the start is on the next date. */
  | { readonly kind: "between"; readonly start: number; readonly end: number }
  /** Inside or outside the business hours of the site. */
  | { readonly kind: "business" }
  | { readonly kind: "out-of-hours" };

/** For how long something recurs: whole dates at each site, both included, or from one instant to another. */
export type Within =
  | { readonly kind: "dates"; readonly from: CivilDay; readonly to: CivilDay }
  | { readonly kind: "instants"; readonly from: EpochMinute; readonly to: EpochMinute };

/** When: left open, or some minutes on the wall clock of each door's site. A door opens then if it opens at any of them. */
export type When =
  | { readonly kind: "any" }
  /** The minute of the clock at which it is asked. */
  | { readonly kind: "now" }
  | { readonly kind: "moment"; readonly at: LocalTime }
  /** Whole dates, both included. */
  | { readonly kind: "dates"; readonly from: CivilDay; readonly to: CivilDay }
  | { readonly kind: "span"; readonly from: LocalTime; readonly to: LocalTime }
  | { readonly kind: "recurring"; readonly days: DayFilter; readonly hours: HoursOfDay; readonly within: Within }
  /** Words such as "today" that mean another date at some sites, where it is another day already, or still. */
  | { readonly kind: "by-site"; readonly sites: readonly { readonly site: string; readonly when: SiteWhen }[] };

/** When at one site. */
export type SiteWhen = Exclude<When, { readonly kind: "by-site" }>;

/** What is meant at a site; undefined where the words mean nothing there. */
export const whenAtSite = (when: When, site: string): SiteWhen | undefined =>
  when.kind === "by-site" ? when.sites.find((one) => one.site === site)?.when : when;
