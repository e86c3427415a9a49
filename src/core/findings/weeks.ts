import { addDays, weekdayNumber } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { firstMinuteFrom } from "../time/zone";
import type { Zone } from "../time/zone";
import { localDate, writtenDate } from "./written";

interface Week {
  readonly from: EpochMinute;
  readonly to: EpochMinute;
}

/** A week by the local date of its first minute, and how many minutes of a set lie in it. */
export interface CountedWeek {
  readonly week: string;
  readonly minutes: number;
}

/** The weeks of a zone, Monday to Monday on its clock, that lie wholly within a span; the span itself where there is none. Source: `findings.md`, 1.7. */
export class Weeks {
  private readonly weeks: readonly Week[];

  constructor(
    private readonly zone: Zone,
    from: EpochMinute,
    to: EpochMinute,
  ) {
    const weeks: Week[] = [];
    const today = localDate(zone, from);
    for (let monday = addDays(today, -weekdayNumber(today)); ; monday = addDays(monday, 7)) {
      const [begins, ends] = [firstMinuteFrom(zone, monday), firstMinuteFrom(zone, addDays(monday, 7))];
      if (ends > to) break;
      if (begins >= from && begins < ends) weeks.push({ from: begins, to: ends });
    }
    this.weeks = weeks.length > 0 ? weeks : [{ from, to }];
  }

  private nameOf({ from }: Week): string {
    return writtenDate(localDate(this.zone, from));
  }

  /** The week with most minutes of a set, the first on a tie. */
  fullest(set: IntervalSet): CountedWeek {
    let best: Week | undefined;
    let most = -1;
    let i = 0;
    for (const week of this.weeks) {
      while (i < set.length && (set[i + 1] as number) <= week.from) i += 2;
      let minutes = 0;
      for (let k = i; k < set.length && (set[k] as number) < week.to; k += 2)
        minutes += Math.min(set[k + 1] as number, week.to) - Math.max(set[k] as number, week.from);
      if (minutes > most) [best, most] = [week, minutes];
    }
    return { week: best ? this.nameOf(best) : "", minutes: Math.max(0, most) };
  }

  /** The first week of which a set holds every minute. */
  firstWhole(set: IntervalSet): string | undefined {
    let i = 0;
    for (const week of this.weeks) {
      while (i < set.length && (set[i + 1] as number) < week.to) i += 2;
      if (i >= set.length) return undefined;
      if ((set[i] as number) <= week.from) return this.nameOf(week);
    }
    return undefined;
  }
}
