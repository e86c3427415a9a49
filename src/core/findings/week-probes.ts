import type { AccessTable } from "../table/access-table";
import type { TimelineNumber } from "../table/timelines";
import { addDays, weekdayNumber } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { firstMinuteFrom, localTime } from "../time/zone";
import type { Zone } from "../time/zone";

/** So many minutes of each week are looked at. */
const probesAWeek = 8;
const weeksAWord = 32;

/**
 * Tells quickly which timelines, taken together, cannot be open in every minute of a calendar week: of each week a few minutes are looked at, and a
 * whole week has all of them. What passes may still be none; what does not is none.
 */
export class WeekProbes {
  /** The minutes that are looked at, in order; index w × `probesAWeek` + p is probe p of week w. */
  private readonly minutes: readonly EpochMinute[];
  private readonly words: number;
  /** By timeline: for each probe, the weeks in which it is open, a bit each. */
  private readonly known = new Map<TimelineNumber, Int32Array>();

  /** Looks at the weeks of a zone that lie wholly within the span of a table. */
  constructor(
    private readonly table: AccessTable,
    zone: Zone,
  ) {
    const [from = 0, to = 0] = table.timeframe.span;
    const minutes: EpochMinute[] = [];
    const { date } = localTime(zone, from as EpochMinute);
    for (let monday = addDays(date, -weekdayNumber(date)); ; monday = addDays(monday, 7)) {
      const [begins, ends] = [firstMinuteFrom(zone, monday), firstMinuteFrom(zone, addDays(monday, 7))];
      if (ends > to) break;
      if (begins < from) continue;
      for (let p = 0; p < probesAWeek; p++) minutes.push((begins + Math.floor(((ends - begins) * p) / probesAWeek)) as EpochMinute);
    }
    // Where no week lies wholly within the span, the span itself is the only one, and nothing is ruled out.
    this.minutes = minutes;
    this.words = Math.ceil(minutes.length / probesAWeek / weeksAWord);
  }

  mayHoldWholeWeek(timelines: readonly TimelineNumber[]): boolean {
    const { words } = this;
    if (words === 0) return true;
    for (let word = 0; word < words; word++) {
      let weeks = -1;
      for (let probe = 0; probe < probesAWeek && weeks !== 0; probe++) {
        let open = 0;
        for (const timeline of timelines) open |= this.weeksOpen(timeline)[probe * words + word] as number;
        weeks &= open;
      }
      if (weeks !== 0) return true;
    }
    return false;
  }

  /** Index probe × words + word: bit k says whether the timeline is open at that probe of week word × 32 + k. */
  private weeksOpen(timeline: TimelineNumber): Int32Array {
    let open = this.known.get(timeline);
    if (!open) {
      open = new Int32Array(probesAWeek * this.words);
      const set = this.table.timelines.set(timeline);
      let range = 0;
      for (let i = 0; i < this.minutes.length; i++) {
        const minute = this.minutes[i] as number;
        while (range < set.length && (set[range + 1] as number) <= minute) range += 2;
        if (range >= set.length) break;
        if ((set[range] as number) > minute) continue;
        const week = Math.floor(i / probesAWeek);
        const at = (i % probesAWeek) * this.words + Math.floor(week / weeksAWord);
        open[at] = (open[at] as number) | (1 << (week % weeksAWord));
      }
      this.known.set(timeline, open);
    }
    return open;
  }
}
