import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import type { CompiledFacility, CompiledCredential } from "../../compile/compiled-facility";
import { localTime } from "../../time/zone";
import { addDays, formatCivilDay, minutesADay, weekdayNumber } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import type { IntervalSet } from "../../time/intervals";
import { union } from "../../time/intervals";
import type { Zone } from "../../time/zone";
import { firstMinuteFrom } from "../../time/zone";
import type { Area } from "../../facility/document";
import type { AccessTable } from "../../table/access-table";
import { credentialsOf } from "../../compile/holdings";
import type { FindingRule, Observation } from "../finding";
import { oncePerRow } from "../reach";

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

/** Sensitive areas into which a row opens a door, any door into them or below them, at every minute of some week. */
function areasOpenAtAllHours(compiled: CompiledFacility, { rows, timelines }: AccessTable, row: number): OpenArea[] {
  const areas = new Map<Position, { open: IntervalSet; readonly doors: Position[]; readonly zone: Zone }>();
  for (let i = rows.start(row); i < rows.end(row); i++) {
    const door = rows.doors[i] as Position;
    const { areas: around, zone } = required(compiled.doors[door], "positions are valid");
    for (const area of around) {
      if ((compiled.facility.areas[area]?.sensitivity ?? 0) < parameters.sensitivity) continue;
      const open = timelines.set(rows.times[i] as number);
      const known = areas.get(area);
      if (known) {
        known.open = union(known.open, open);
        known.doors.push(door);
      } else areas.set(area, { open, doors: [door], zone });
    }
  }
  return [...areas].flatMap(([position, { open, doors, zone }]) => {
    const week = firstWholeWeek(open, zone);
    return week === undefined ? [] : [{ area: required(compiled.facility.areas[position], "positions are valid"), week, doors }];
  });
}

export const aroundTheClock: FindingRule = {
  key: "around-the-clock",
  title: "Opens a sensitive area at all hours",
  source: "NIST SP 800-53 r5 AC-6 (cited from memory)",
  base: 30,
  parameters,
  observe: ({ compiled, ahead }) => {
    const { cardholders, credentials, objects, facility } = compiled;
    const areasOf = oncePerRow((row) => areasOpenAtAllHours(compiled, ahead, row));
    const observations: Observation[] = [];
    const observe = (row: number, subject: Observation["subject"], credentialsByHolder: () => readonly CompiledCredential[]): void => {
      for (const { area, week, doors } of areasOf(row)) {
        const held = credentialsByHolder();
        const holder = held[0]?.holder;
        observations.push({
          subject,
          ...(holder && { cardholder: holder.cardholder.id }),
          distinct: area.id,
          proof: { area: area.id, sensitivity: area.sensitivity ?? 0, week, doors: doors.map((door) => facility.doors[door]?.id ?? "") },
          sentence: `Opens ${area.name} at all hours of the week.`,
          remedy: holder?.override ? "End the standing override." : `Narrow the access to ${area.name} to the hours that are needed.`,
          credentials: held,
        });
      }
    };
    const credentialAt = (position: Position): CompiledCredential => required(credentials.at(position), "positions are valid");
    for (let i = 0; i < cardholders.length; i++)
      observe(ahead.rowOfCardholder(i), { kind: "cardholder", id: required(facility.cardholders[i], "positions are valid").id }, () => [...credentialsOf(compiled.holdings, i)].map(credentialAt));
    for (let i = 0; i < credentials.length; i++)
      if (objects.cards.holderOf[i] === -1) observe(ahead.liveRow(i), { kind: "credential", id: required(facility.credentials[i], "positions are valid").id }, () => [credentialAt(i)]);
    return { observations };
  },
};
