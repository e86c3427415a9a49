import { minutesADay } from "../time/civil-day";
import { monthsAhead } from "../time/horizon";
import type { EpochMinute } from "../time/instant";
import { minuteDown } from "../time/instant";
import { zoneOf } from "../time/zone";
import type { FacilityDocument } from "./document";
import { instantOf } from "./time-rules";

/** The minutes that are looked at: from the minute of the export up to, not including, `to`. */
export interface Ahead {
  readonly from: EpochMinute;
  readonly to: EpochMinute;
}

/** The 13 months from the export on, by the facility's own clock; or so many days of 1440 minutes. */
export function aheadOf({ asOf, timeZone }: Pick<FacilityDocument, "asOf" | "timeZone">, horizonDays?: number): Ahead {
  const from = minuteDown(instantOf(asOf));
  return { from, to: horizonDays === undefined ? monthsAhead(from, zoneOf(timeZone)) : ((from + horizonDays * minutesADay) as EpochMinute) };
}
