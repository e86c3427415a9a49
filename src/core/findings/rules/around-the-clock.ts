import type { RowNumber } from "../../table/access-rows";
import { required } from "../../kernel/invariant";
import { credentialsOf } from "../../compile/holdings";
import type { Position } from "../../compile/position-index";
import type { CompiledFacility } from "../../compile/compiled-facility";
import type { Area, Cardholder } from "../../facility/document";
import type { AccessTable } from "../../table/access-table";
import { never } from "../../table/timelines";
import type { TimelineNumber } from "../../table/timelines";
import { addDays, formatCivilDay, minutesADay, weekdayNumber } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import type { IntervalSet } from "../../time/intervals";
import { firstMinuteFrom, localTime } from "../../time/zone";
import type { Zone } from "../../time/zone";
import type { FindingRule, Observation } from "../finding";
import { oncePerRow } from "../reach";
import { WeekProbes } from "../week-probes";

const parameters = { sensitivity: 2 };

/** Monday of the first calendar week (Monday to Sunday, on the wall clock) of which every minute is open; undefined for none. */
export function firstWholeWeek(open: IntervalSet, zone: Zone): string | undefined {
  for (let i = 0; i < open.length; i += 2) {
    const [from, to] = [open[i] as EpochMinute, open[i + 1] as EpochMinute];
    if (to - from < 6 * minutesADay) continue;
    const { date } = localTime(zone, from);
    const monday = addDays(date, (7 - weekdayNumber(date)) % 7);
    for (const start of [monday, addDays(monday, 7)])
      if (firstMinuteFrom(zone, start) >= from && firstMinuteFrom(zone, addDays(start, 7)) <= to) return formatCivilDay(start);
  }
  return undefined;
}

interface OpenArea {
  readonly area: Area;
  readonly week: string;
  readonly doors: readonly Position[];
}

/**
 * Sensitive areas into which rows open doors, any door into them or below them, at every minute of some week. Cost: the doors of a row into sensitive
 * areas; times are put together only where they could come to a whole week.
 */
class AreasAtAllHours {
  /** Index d: the sensitive areas that door d leads into; empty for most. */
  private readonly areasOfDoor: readonly (readonly Position[])[];
  private readonly probes = new Map<Zone, WeekProbes>();
  private readonly weeks = new Map<Zone, Map<TimelineNumber, string | undefined>>();

  constructor(
    private readonly compiled: CompiledFacility,
    private readonly table: AccessTable,
  ) {
    const { facility } = compiled;
    this.areasOfDoor = compiled.doors.map(({ areas }) => areas.filter((area) => (facility.areas[area]?.sensitivity ?? 0) >= parameters.sensitivity));
  }

  of(row: RowNumber): OpenArea[] {
    const { rows } = this.table;
    const entries = new Map<Position, number[]>();
    for (let i = rows.start(row); i < rows.end(row); i++)
      for (const area of this.areasOfDoor[rows.doors[i] as Position] ?? []) {
        const known = entries.get(area);
        if (known) known.push(i);
        else entries.set(area, [i]);
      }
    return [...entries].flatMap(([area, into]) => this.openArea(area, into));
  }

  /** What a row opens of an area: `into` are its entries of doors into it. */
  private openArea(area: Position, into: readonly number[]): OpenArea[] {
    const { rows, timelines } = this.table;
    const doors = into.map((entry) => rows.doors[entry] as Position);
    const times = into.map((entry) => rows.times[entry] as TimelineNumber);
    const { zone } = required(this.compiled.doors[required(doors[0], "a row has entries")], "positions are valid");
    if (!this.probesOf(zone).mayHoldWholeWeek(times)) return [];
    const week = this.firstWeek(
      times.reduce((open, timeline) => timelines.union(open, timeline), never),
      zone,
    );
    return week === undefined ? [] : [{ area: required(this.compiled.facility.areas[area], "positions are valid"), week, doors }];
  }

  private probesOf(zone: Zone): WeekProbes {
    let probes = this.probes.get(zone);
    if (!probes) this.probes.set(zone, (probes = new WeekProbes(this.table, zone)));
    return probes;
  }

  private firstWeek(timeline: TimelineNumber, zone: Zone): string | undefined {
    let known = this.weeks.get(zone);
    if (!known) this.weeks.set(zone, (known = new Map<TimelineNumber, string | undefined>()));
    if (!known.has(timeline)) known.set(timeline, firstWholeWeek(this.table.timelines.set(timeline), zone));
    return known.get(timeline);
  }
}

export const aroundTheClock: FindingRule<"around-the-clock"> = {
  key: "around-the-clock",
  source: "NIST SP 800-53 r5 AC-6 (cited from memory)",
  base: 30,
  parameters,
  observe: ({ compiled, ahead }) => {
    const { credentials, objects, facility, holdings } = compiled;
    const areas = new AreasAtAllHours(compiled, ahead);
    const areasOf = oncePerRow((row) => areas.of(row));
    const observations: Observation<"around-the-clock">[] = [];
    const observe = (row: RowNumber, subject: Observation["subject"], cardholder: Cardholder | undefined, own: ArrayLike<Position>): void => {
      for (const { area, week, doors } of areasOf(row))
        observations.push({
          subject,
          ...(cardholder && { cardholder: cardholder.id }),
          distinct: [area.id],
          proof: {
            sensitivity: area.sensitivity ?? 0,
            week,
            doors: doors.map((door) => required(facility.doors[door], "positions are valid").id),
            override: !!cardholder?.override,
          },
          credentials: own,
        });
    };
    facility.cardholders.forEach((cardholder, i) =>
      observe(ahead.rowOfCardholder(i), { kind: "cardholder", id: cardholder.id }, cardholder, credentialsOf(holdings, i)),
    );
    for (let i = 0; i < credentials.length; i++)
      if (objects.cards.holderOf[i] === -1)
        observe(ahead.liveRow(i), { kind: "credential", id: required(facility.credentials[i], "positions are valid").id }, undefined, [i]);
    return { observations };
  },
};
