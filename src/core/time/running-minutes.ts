import type { IntervalSet } from "./intervals";
import type { MinuteCounter } from "./minute-counter";

/** What of a set lies in one range: its bounds from `start` to `end`, of which the first and the last may be cut short to `first` and `last`. Not empty. */
export interface Cut {
  readonly start: number;
  readonly end: number;
  readonly first: number;
  readonly last: number;
}

/**
 * The minutes of a set, and those that it has in common with the set of a counter, added up from its beginning on: what of it lies in one
 * range is then counted from its two ends.
 */
export class RunningMinutes {
  /** Index k: the minutes of the ranges before range k; all of them, and those in common. */
  private readonly minutes: Int32Array;
  private readonly common: Int32Array;

  constructor(
    private readonly set: IntervalSet,
    private readonly counter: MinuteCounter,
  ) {
    const ranges = set.length / 2;
    this.minutes = new Int32Array(ranges + 1);
    this.common = new Int32Array(ranges + 1);
    for (let k = 0; k < ranges; k++) {
      const [from, to] = [set[2 * k] as number, set[2 * k + 1] as number];
      this.minutes[k + 1] = (this.minutes[k] as number) + to - from;
      this.common[k + 1] = (this.common[k] as number) + counter.commonRange(from, to);
    }
  }

  /** The counts of a part of the set. Cost: the same for all. */
  ofPart({ start, end, first, last }: Cut): { readonly minutes: number; readonly common: number } {
    const { set, counter, minutes, common } = this;
    const [begins, ends] = [set[start] as number, set[end - 1] as number];
    const between = (sums: Int32Array): number => (sums[end / 2] as number) - (sums[start / 2] as number);
    return {
      minutes: between(minutes) - (first - begins) - (ends - last),
      common: between(common) - (begins < first ? counter.commonRange(begins, first) : 0) - (last < ends ? counter.commonRange(last, ends) : 0),
    };
  }
}
