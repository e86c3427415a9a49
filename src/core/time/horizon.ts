import { addMonths, minutesADay } from "./civil-day";
import type { CivilDay } from "./civil-day";
import type { EpochMinute } from "./instant";

/** How far ahead access is looked at: 13 months. */
export const horizonMonths = 13;

/** The instant 13 months after another, by dates of UTC. */
export function monthsAhead(minute: EpochMinute): EpochMinute {
  const date = Math.floor(minute / minutesADay) as CivilDay;
  return (addMonths(date, horizonMonths) * minutesADay + (minute - date * minutesADay)) as EpochMinute;
}
