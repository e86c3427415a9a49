import type { CompiledFacility } from "../compile/compiled-facility";
import { localDays } from "../describe/local-days";
import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import { addDays, minutesADay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { openDuring, openOnDate } from "../time/schedule";
import { firstMinuteFrom, zoneOf } from "../time/zone";

/** What a schedule really comes to on one date at a site. */
export interface ComingDay {
  readonly date: CivilDay;
  /** Minutes of the day on the site's wall clock at which it is open. */
  readonly open: IntervalSet;
  /** What the site's calendar makes of the date; undefined for an ordinary one. */
  readonly entry: { readonly name: string; readonly dayType: string } | undefined;
  /** Minutes that the day has more (positive) or fewer than 24 hours: the clock is changed. */
  readonly clockChange: number;
  /** It opens otherwise than the schedule does on that weekday. */
  readonly unlike: boolean;
}

/** The coming dates of a schedule at a site, from a date on, its calendar and clock changes included. */
export function comingDays(compiled: CompiledFacility, schedule: Position, site: Position, from: CivilDay, count: number): ComingDay[] {
  const rule = required(compiled.schedules[schedule], "positions are valid");
  const at = required(compiled.facility.sites[site], "positions are valid");
  const zone = zoneOf(at.timeZone);
  const calendar = compiled.calendars[compiled.facility.calendars.findIndex(({ id }) => id === at.calendar)];
  const midnights = Array.from({ length: count + 1 }, (_, day) => firstMinuteFrom(zone, addDays(from, day)));
  const [start, end] = [midnights[0] as EpochMinute, midnights[count] as EpochMinute];
  return localDays(openDuring(rule, calendar, zone, start, end), zone, start, end)
    .slice(0, count)
    .map(({ date, open }, day) => {
      const reading = calendar?.read(date);
      return {
        date,
        open,
        entry: reading && { name: reading.winner.name, dayType: reading.winner.dayType },
        clockChange: (midnights[day + 1] as number) - (midnights[day] as number) - minutesADay,
        unlike: open.join() !== openOnDate(rule, undefined, date).join(),
      };
    });
}
