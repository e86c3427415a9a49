import { minutesADay } from "./civil-day";
import type { IntervalSet } from "./intervals";

/**
 * Counts the minutes that many sets have in common with one: where its ranges begin is known for each day, so that another set's are
 * held against those of their own days alone.
 */
export class MinuteCounter {
  private readonly from: number;
  /** Index d: where in the set the first range stands that ends after the beginning of day d, days counted from `from`. */
  private readonly firstOfDay: Int32Array;

  constructor(private readonly set: IntervalSet) {
    this.from = set[0] ?? 0;
    const days = Math.ceil(((set[set.length - 1] ?? 0) - this.from) / minutesADay);
    this.firstOfDay = new Int32Array(days);
    let i = 0;
    for (let day = 0; day < days; day++) {
      while ((set[i + 1] as number) <= this.from + day * minutesADay) i += 2;
      this.firstOfDay[day] = i;
    }
  }

  /** Minutes that another set has in common with this one. Cost: its ranges, and the days that they last. */
  common(other: IntervalSet): number {
    let total = 0;
    for (let k = 0; k < other.length; k += 2) total += this.commonRange(other[k] as number, other[k + 1] as number);
    return total;
  }

  /** The same of the one range `[start, end)`; none where it is empty. */
  commonRange(start: number, end: number): number {
    const { set, from, firstOfDay } = this;
    const day = start <= from ? 0 : Math.floor((start - from) / minutesADay);
    if (day >= firstOfDay.length) return 0;
    let total = 0;
    for (let i = firstOfDay[day] as number; i < set.length && (set[i] as number) < end; i += 2) {
      const both = Math.min(end, set[i + 1] as number) - Math.max(start, set[i] as number);
      if (both > 0) total += both;
    }
    return total;
  }
}
