import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledFacility, Life } from "../compile/compiled-facility";
import { addDays, minutesADay, weekdayNumber } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { append, clip, nothing, range } from "../time/intervals";
import { openOnDate } from "../time/schedule";
import type { Window } from "../time/window";
import { windowHolds } from "../time/window";
import { localTime } from "../time/zone";
import type { Zone } from "../time/zone";
import type { AskingMode } from "./paths";

/**
 * What time means while access is worked out: the same rules give exact timetables or an ordinary week, depending on how
 * schedules and windows are laid out on the minutes of `whole`.
 */
export interface Timeframe {
  readonly span: IntervalSet;
  readonly mode: AskingMode;
  readonly schedule: (schedule: Position, calendar: Position | undefined, zone: Zone) => IntervalSet;
  readonly window: (window: Window) => IntervalSet;
  /** Whether a window holds throughout: whether `window` would give `whole`, without making it. */
  readonly holdsThroughout: (window: Window) => boolean;
  /** Timetables worked out already, by everything that they depend on: most people share theirs with many others. */
  readonly known: Map<string, IntervalSet>;
}

/** The minutes of UTC in `[from, to)`, exactly as they will be. */
export const exactTimeframe = (compiled: CompiledFacility, from: EpochMinute, to: EpochMinute, mode: AskingMode): Timeframe => ({
  span: range(from, to),
  mode,
  schedule: (schedule, calendar, zone) => compiled.timeline(schedule, calendar, zone, from, to),
  window: (window) => clip(range(window.from, window.until), from, to),
  holdsThroughout: (window) => window.from <= from && window.until >= to,
  known: new Map(),
});

export const minutesAWeek = 7 * minutesADay;

/**
 * An ordinary week at a date: minutes 0..10080 of the wall clock from Monday 00:00, of the week in which `at` lies, without
 * day types and clock changes; windows count as they stand at `at`.
 */
export function ordinaryWeekTimeframe(compiled: CompiledFacility, at: EpochMinute, mode: AskingMode): Timeframe {
  const span = range(0, minutesAWeek);
  const known = new Map<string, IntervalSet>();
  const layOut = (schedule: Position, zone: Zone): IntervalSet => {
    const { date } = localTime(zone, at);
    const monday = addDays(date, -weekdayNumber(date));
    const rule = required(compiled.schedules[schedule], "positions are valid");
    const open: number[] = [];
    for (let day = 0; day < 7; day++) {
      const set = openOnDate(rule, undefined, addDays(monday, day));
      for (let i = 0; i < set.length; i += 2)
        append(open, day * minutesADay + (set[i] as number), day * minutesADay + (set[i + 1] as number));
    }
    return open;
  };
  return {
    span,
    mode,
    schedule: (schedule, _calendar, zone) => {
      const key = `${schedule} ${zone.name}`;
      const set = known.get(key) ?? layOut(schedule, zone);
      known.set(key, set);
      return set;
    },
    window: (window) => (windowHolds(window, at) ? span : nothing),
    holdsThroughout: (window) => windowHolds(window, at),
    known: new Map(),
  };
}

/** The window in which something is in use, its status taken in. */
export const livingWindow = (life: Life): Window => ({
  from: life.window.from,
  until: Math.min(life.window.until, life.inactiveFrom) as EpochMinute,
});
