import { groupBy } from "../../kernel/compare";
import { present } from "../../kernel/invariant";
import type { CompiledFacility, CompiledCredential, Position } from "../../compile/compiled-facility";
import { localTime } from "../../time/zone";
import { addDays, formatCivilDay, minutesADay, weekdayNumber } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import type { IntervalSet } from "../../time/intervals";
import { union } from "../../time/intervals";
import type { Zone } from "../../time/zone";
import { firstMinuteFrom } from "../../time/zone";
import type { FindingRule, Observation } from "../finding";
import { doorSensitivity } from "../reach";

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

/** Sensitive areas with the times at which any door into them, or below them, opens. */
function sensitiveAreas(compiled: CompiledFacility, reach: ReadonlyMap<Position, IntervalSet>): Map<Position, { open: IntervalSet; doors: Position[]; zone: Zone }> {
  const areas = new Map<Position, { open: IntervalSet; doors: Position[]; zone: Zone }>();
  for (const [door, open] of reach) {
    const { areas: around, zone } = present(compiled.doors[door], "positions are valid");
    for (const area of around) {
      if ((compiled.facility.areas[area]?.sensitivity ?? 0) < parameters.sensitivity) continue;
      const known = areas.get(area);
      areas.set(area, { open: union(known?.open ?? [], open), doors: [...(known?.doors ?? []), door], zone: known?.zone ?? zone });
    }
  }
  return areas;
}

export const aroundTheClock: FindingRule = {
  key: "around-the-clock",
  title: "Opens a sensitive area at all hours",
  source: "NIST SP 800-53 r5 AC-6 (cited from memory)",
  base: 30,
  parameters,
  observe: ({ compiled, reach }) => {
    const holderKey = (credential: CompiledCredential): string =>
      credential.holder ? `cardholder ${credential.holder.cardholder.id}` : `credential ${credential.credential.id}`;
    const observations: Observation[] = [];
    const isSensitive = (door: Position): boolean => doorSensitivity(compiled, door) >= parameters.sensitivity;
    for (const credentials of groupBy(compiled.credentials, holderKey).values()) {
      const holder = credentials[0]?.holder;
      for (const [position, { open, doors, zone }] of sensitiveAreas(compiled, reach(credentials, isSensitive))) {
        const week = firstWholeWeek(open, zone);
        if (week === undefined) continue;
        const area = present(compiled.facility.areas[position], "positions are valid");
        observations.push({
          subject: holder
            ? { kind: "cardholder", id: holder.cardholder.id }
            : { kind: "credential", id: present(credentials[0], "groups are not empty").credential.id },
          ...(holder && { cardholder: holder.cardholder.id }),
          distinct: area.id,
          proof: { area: area.id, sensitivity: area.sensitivity ?? 0, week, doors: doors.map((door) => compiled.facility.doors[door]?.id ?? "") },
          sentence: `Opens ${area.name} at all hours of the week.`,
          remedy: holder?.override ? "End the standing override." : `Narrow the access to ${area.name} to the hours that are needed.`,
          credentials,
        });
      }
    }
    return { observations };
  },
};
