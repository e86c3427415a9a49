import { compileFacility } from "../../compile/compile-facility";
import type { DocumentDay } from "../../facility/document";
import type { Facility } from "../../facility/facility";
import { calendarEntryOf } from "../../facility/time-rules";
import { required } from "../../kernel/invariant";
import { remembered } from "../../kernel/remembered";
import { calendarAt, ordinary } from "../../paths/paths";
import type { RowNumber } from "../../table/access-rows";
import type { AccessTable } from "../../table/access-table";
import type { Horizon } from "../../table/horizon";
import { addDays, formatCivilDay, minutesADay, parseCivilDay } from "../../time/civil-day";
import type { CivilDay } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import type { Holder, Judged } from "../judged";
import { calendarRunsOut } from "../rules/calendar-runs-out";
import { localDate } from "../written";
import { compareDates } from "./compare-dates";
import type { DateChange, SiteDate } from "./compare-dates";
import { reachByDay } from "./reach-by-day";
import type { DayOfForecast } from "./reach-by-day";
import { whatComes } from "./what-comes";
import type { Coming } from "./what-comes";

/** A date of a day type at a site, and what that does to what opens on it. */
export interface SpecialDate extends DateChange {
  readonly name: string;
  readonly dayType: string;
}

/** A date that somebody typed in for the years before and for this one not: what opens on it as on any other. */
export interface MissingDate extends DateChange {
  readonly calendar: string;
  readonly name: string;
  readonly dayType: string;
}

/** What comes by itself, though nobody touches anything. */
export interface Forecast {
  readonly from: EpochMinute;
  readonly to: EpochMinute;
  readonly comes: readonly Coming[];
  readonly days: readonly DayOfForecast[];
  readonly dates: readonly SpecialDate[];
  readonly missing: readonly MissingDate[];
  /** Calendars in use whose last date that was typed in singly comes within the time: after it, only what recurs counts. */
  readonly typedUntil: readonly { readonly calendar: string; readonly last: CivilDay }[];
}

/** A forecast goes so far at most: beyond, too little lies behind it to say that something is opened for the last time. */
export const longestForecastDays = 330;

const rowsIn = (table: AccessTable): ((holder: Holder) => RowNumber) =>
  remembered((holder: Holder) =>
    holder.cardholder === undefined ? table.liveRow(required(holder.credentials[0], "a card by itself is its own")) : table.rowOfCardholder(holder.cardholder),
  );

/** The dates of a day type at each site, from the export on. */
function specialDates({ facility, compiled, asOf, zoneOfSite }: Judged, to: EpochMinute): (SiteDate & { readonly name: string; readonly dayType: string })[] {
  const found: (SiteDate & { readonly name: string; readonly dayType: string })[] = [];
  for (const { id: site, calendar } of facility.sites) {
    const days = calendarAt(compiled, calendar === undefined ? undefined : compiled.indexes.of("calendars").get(calendar));
    if (!days) continue;
    const zone = zoneOfSite(site);
    const last = localDate(zone, (to - 1) as EpochMinute);
    for (let date = localDate(zone, asOf); date <= last; date = addDays(date, 1)) {
      const winner = days.read(date)?.winner;
      if (winner) found.push({ site, date, name: winner.name, dayType: winner.dayType });
    }
  }
  return found;
}

const withCalendars = (facility: Facility, daysOf: (calendar: string, days: readonly DocumentDay[]) => readonly DocumentDay[]): Facility => ({
  ...facility,
  calendars: facility.calendars.map((calendar) => ({ ...calendar, days: [...daysOf(calendar.id, calendar.days ?? [])] })),
});

interface Expected {
  readonly calendar: string;
  readonly name: string;
  readonly dayType: string;
  readonly days: DocumentDay;
  readonly dates: readonly CivilDay[];
}

/** What was typed in for the years before, as it would have to be typed in for this one. */
function expectedEntries(judged: Judged, to: EpochMinute): Expected[] {
  const { facility, zone } = judged;
  const last = localDate(zone, (to - 1) as EpochMinute);
  return [...calendarRunsOut.find(judged, { entries: 2, days: 60 }).flags].flatMap(({ subject, distinct = [], proof }): Expected[] => {
    const [what, name = "", year = ""] = distinct;
    const expected = parseCivilDay(proof.expected ?? "");
    if (what !== "year" || expected === undefined || expected > last) return [];
    // The last of the year before, moved here with as many dates.
    const before = (facility.calendars.find(({ id }) => id === subject.id)?.days ?? []).filter((day) => {
      const { name: called, when } = calendarEntryOf(day);
      const from = when.rule === "on" ? when.date : when.rule === "span" ? when.from : undefined;
      return called === name && from !== undefined && formatCivilDay(from).startsWith(String(Number(year) - 1).padStart(4, "0"));
    });
    const lengths = before.map((day) => {
      const { when } = calendarEntryOf(day);
      return when.rule === "span" ? when.to - when.from : 0;
    });
    const day = before.at(-1);
    if (!day) return [];
    const end = addDays(expected, lengths.at(-1) ?? 0);
    const { name: _name, dayType, priority } = day;
    const days: DocumentDay = { name, dayType, ...(priority !== undefined && { priority }), from: formatCivilDay(expected), to: formatCivilDay(end) };
    const dates = Array.from({ length: end - expected + 1 }, (_, i) => addDays(expected, i)).filter((date) => date <= last);
    return [{ calendar: subject.id, name, dayType, days, dates }];
  });
}

/** The last date of each calendar in use that was typed in singly, of those that come within the time. */
function typedUntil({ facility, asOf, zone }: Judged, to: EpochMinute): Forecast["typedUntil"] {
  const inUse = new Set([...facility.sites, ...facility.cardholders].map(({ calendar }) => calendar));
  const [first, end] = [localDate(zone, asOf), localDate(zone, to)];
  return facility.calendars.flatMap(({ id, days = [] }) => {
    const lasts = days
      .map(calendarEntryOf)
      .flatMap(({ when }) => (when.rule === "on" ? [when.date] : when.rule === "span" && when.from <= when.to ? [when.to] : []));
    const last = Math.max(...lasts) as CivilDay;
    return inUse.has(id) && lasts.length > 0 && last >= first && last < end ? [{ calendar: id, last }] : [];
  });
}

/**
 * What comes by itself in so many days from the export on: what begins and ends, what of access is over or new date by date, what days of the calendars open
 * and shut, and what comes of days that nobody typed in. What dates do is read off: the register without its calendars, and with those days typed in, are laid
 * out beside it.
 */
export function forecastOf(judged: Judged, horizon: Horizon, days: number): Forecast {
  const { compiled, facility, asOf, holders } = judged;
  const to = Math.min(asOf + Math.min(days, longestForecastDays) * minutesADay, judged.end) as EpochMinute;
  const table = horizon.table(ordinary);
  const week = horizon.week(ordinary);
  const rowOf = rowsIn(table);
  const against = (changed: Facility, dates: readonly SiteDate[]): readonly DateChange[] => {
    const other = horizon.beside(compileFacility(changed, compiled)).table(ordinary);
    const otherRowOf = rowsIn(other);
    return compareDates(
      table,
      other,
      holders.map((holder) => [rowOf(holder), otherRowOf(holder)] as const),
      dates,
    );
  };
  const special = specialDates(judged, to);
  const plain =
    special.length === 0
      ? []
      : against(
          withCalendars(facility, () => []),
          special,
        );
  const expected = expectedEntries(judged, to);
  const missing = expected.flatMap(({ calendar, name, dayType, dates }) =>
    facility.sites.filter((site) => site.calendar === calendar).flatMap(({ id: site }) => dates.map((date) => ({ site, date, calendar, name, dayType }))),
  );
  const renewed =
    missing.length === 0
      ? []
      : against(
          withCalendars(facility, (id, before) => [...before, ...expected.filter(({ calendar }) => calendar === id).map((one) => one.days)]),
          missing,
        );
  return {
    from: asOf,
    to,
    comes: whatComes(compiled, asOf, to),
    days: reachByDay(holders, { table, rowOf }, { table: week, rowOf: rowsIn(week) }, to, judged.zone),
    dates: special.map((one, i) => ({ ...one, ...required(plain[i], "a change a date") })),
    typedUntil: typedUntil(judged, to),
    missing: missing.map((one, i) => ({ ...one, ...required(renewed[i], "a change a date") })),
  };
}
