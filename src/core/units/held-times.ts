import { required } from "../kernel/invariant";
import type { CivilDay } from "../time/civil-day";
import { addDays, minutesADay, parseCivilDay, weekdayNumber } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { append, clip, fromRanges, nothing, union } from "../time/intervals";
import type { Zone } from "../time/zone";
import { localTime } from "../time/zone";
import type { WeeklyTimes } from "./lay-out-times";
import type { HeldDate, HeldRow, HeldSet, HeldTimes, UnitMemory } from "./unit-memory";

/** The kinds of dates that a unit holds, by date. */
export const kindsByDate = (dates: readonly HeldDate[]): ReadonlyMap<CivilDay, number> =>
  new Map(dates.map(({ date, kind }) => [required(parseCivilDay(date), "held dates are dates"), kind]));

/** The row of a weekly set on a date. */
export function heldRow({ week, kinds }: Pick<HeldSet, "week" | "kinds">, kind: number | undefined, date: CivilDay): HeldRow {
  const own = kind === undefined || !Object.hasOwn(kinds, kind) ? undefined : kinds[kind];
  return own ?? week[weekdayNumber(date)] ?? [];
}

/** The minutes of `[from, to)` at which a weekly set is open on a wall clock. */
export function openBySet(
  set: Pick<HeldSet, "week" | "kinds">,
  kinds: ReadonlyMap<CivilDay, number>,
  zone: Zone,
  from: EpochMinute,
  to: EpochMinute,
): IntervalSet {
  if (from >= to) return nothing;
  const first = localTime(zone, from).date;
  const last = localTime(zone, (to - 1) as EpochMinute).date;
  // A clock that is set back over midnight shows a date again that is not the first.
  const wall: number[] = [];
  for (let date = addDays(first, -1); date <= last + 1; date = addDays(date, 1))
    for (const [begins, ends] of heldRow(set, kinds.get(date), date)) append(wall, date * minutesADay + begins, date * minutesADay + ends);
  const ranges: (readonly [number, number])[] = [];
  for (const segment of zone.segments(from, to)) {
    const inside = clip(wall, segment.from + segment.offset, segment.to + segment.offset);
    for (let i = 0; i < inside.length; i += 2) ranges.push([(inside[i] as number) - segment.offset, (inside[i + 1] as number) - segment.offset]);
  }
  return fromRanges(ranges);
}

/** Whether a unit that holds some patterns would be open just when it should be. */
export function isExact(patterns: readonly WeeklyTimes[], open: IntervalSet, zone: Zone, from: EpochMinute, to: EpochMinute): boolean {
  const held = patterns.map(({ week, unlike, from: begins = from, until = to }) => {
    const dates = [...unlike.keys()];
    const kinds = Object.fromEntries(dates.map((date, i) => [i, unlike.get(date) ?? []]));
    const kindOf = new Map(dates.map((date, i) => [date, i]));
    return clip(openBySet({ week, kinds }, kindOf, zone, from, to), begins, until);
  });
  const all = held.reduce<IntervalSet>(union, nothing);
  return all.length === open.length && all.every((bound, i) => bound === open[i]);
}

/** What a memory says, made ready for being asked for timelines. */
export class HeldTimelines {
  private readonly kinds: ReadonlyMap<CivilDay, number>;
  private readonly sets: ReadonlyMap<number, HeldSet>;
  private readonly open = new Map<string, IntervalSet>();

  constructor(
    memory: Pick<UnitMemory, "dates" | "sets">,
    readonly from: EpochMinute,
    readonly to: EpochMinute,
  ) {
    this.kinds = kindsByDate(memory.dates);
    this.sets = new Map(memory.sets.map((set) => [set.id, set]));
  }

  private ofSet(id: number, zone: Zone): IntervalSet {
    const key = `${id} ${zone.name}`;
    let open = this.open.get(key);
    if (!open) {
      const set = this.sets.get(id);
      // A unit that was cut off in between may have a right without the set that it names: that opens nothing.
      this.open.set(key, (open = set ? openBySet(set, this.kinds, zone, this.from, this.to) : nothing));
    }
    return open;
  }

  /** The minutes at which any of some times holds. */
  of(times: readonly HeldTimes[], zone: Zone): IntervalSet {
    return times.reduce<IntervalSet>(
      (all, { set, from = -Infinity, until = Infinity }) => union(all, clip(this.ofSet(set, zone), Math.max(from, this.from), Math.min(until, this.to))),
      nothing,
    );
  }
}
