import type { Position } from "../../compile/position-index";
import { calendarAt } from "../../paths/paths";
import { addDays, minutesADay } from "../../time/civil-day";
import type { CivilDay } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import type { IntervalSet } from "../../time/intervals";
import { clip, firstRangeEndingAfter, fromRanges } from "../../time/intervals";
import type { Zone } from "../../time/zone";
import { remembered } from "../../kernel/remembered";
import type { Judged } from "../judged";
import { rule, standards } from "../rule";
import { localDate, writtenDate } from "../written";

/** The minutes whose local date is one; a clock that is put back over midnight tears them apart. */
function minutesOfDate(zone: Zone, date: CivilDay): IntervalSet {
  const around = [(date - 2) * minutesADay, (date + 3) * minutesADay] as const;
  return fromRanges(
    zone
      .segments(around[0] as EpochMinute, around[1] as EpochMinute)
      .map(({ from, to, offset }) => [Math.max(from, date * minutesADay - offset), Math.min(to, (date + 1) * minutesADay - offset)] as const)
      .filter(([from, to]) => from < to),
  );
}

/** Whether a set has any minute of a few ranges. Cost: a search for each of them. */
function holdsAny(set: IntervalSet, ranges: IntervalSet): boolean {
  for (let i = 0; i < ranges.length; i += 2) {
    const at = firstRangeEndingAfter(set, ranges[i] as number);
    if (at < set.length && (set[at] as number) < (ranges[i + 1] as number)) return true;
  }
  return false;
}

/** How many holders open each door on each timeline. */
function timesOfDoors(judged: Judged): ReadonlyMap<Position, ReadonlyMap<number, number>> {
  const { rows } = judged.ahead;
  const times = new Map<Position, Map<number, number>>();
  for (const [row, count] of judged.holdersByRow("all"))
    for (let i = rows.start(row); i < rows.end(row); i++) {
      const door = rows.doors[i] as Position;
      const known = times.get(door) ?? new Map<number, number>();
      times.set(door, known);
      known.set(rows.times[i] as number, (known.get(rows.times[i] as number) ?? 0) + count);
    }
  return times;
}

/** A sensitive door that stands open, or that many open, on public holidays. */
export const holidayOpen = rule({
  key: "holiday-open",
  base: 22,
  source: standards.practice,
  parameters: { holders: 5, sensitivity: 2 },
  find: (judged, { holders: most, sensitivity }) => {
    const { asOf, end } = judged;
    const times = timesOfDoors(judged);
    const publicDates = remembered((site: string): readonly { readonly date: CivilDay; readonly minutes: IntervalSet }[] => {
      const zone = judged.zoneOfSite(site);
      const calendar = calendarAt(judged.compiled, judged.compiled.indexes.of("calendars").get(judged.site(site)?.calendar ?? ""));
      const dates = [];
      const last = localDate(zone, (end - 1) as EpochMinute);
      for (let date = localDate(zone, asOf); calendar && date <= last; date = addDays(date, 1))
        if (calendar.read(date)?.winner.dayType === "public") dates.push({ date, minutes: clip(minutesOfDate(zone, date), asOf, end) });
      return dates;
    });
    const datesBySite = remembered((site: string) =>
      remembered((timeline: number): ReadonlySet<CivilDay> => {
        const set = judged.ahead.timelines.set(timeline);
        return new Set(publicDates(site).flatMap(({ date, minutes }) => (holdsAny(set, minutes) ? [date] : [])));
      }),
    );
    const openDates = (site: string, timeline: number): ReadonlySet<CivilDay> => datesBySite(site)(timeline);
    return {
      flags: judged.compiled.doors.flatMap(({ position, door }) => {
        if (!judged.isSensitive(position, sensitivity)) return [];
        const free = judged.freeAhead(position);
        const found = publicDates(door.site).flatMap(({ date, minutes }) => {
          let holders = 0;
          for (const [timeline, count] of times.get(position) ?? []) if (openDates(door.site, timeline).has(date)) holders += count;
          const isFree = holdsAny(free, minutes);
          return isFree || holders > most ? [{ date, isFree, holders }] : [];
        });
        const [first] = found;
        if (!first) return [];
        const proof = {
          first: writtenDate(first.date),
          dates: found.length,
          free: found.filter(({ isFree }) => isFree).length,
          holders: Math.max(...found.map(({ holders }) => holders)),
        };
        return [{ subject: { kind: "door" as const, id: door.id }, proof }];
      }),
    };
  },
});
