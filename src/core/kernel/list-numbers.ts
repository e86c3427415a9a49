import type { FewNumbers } from "./few-numbers";
import { PairNumbers } from "./pair-table";

/**
 * Numbers for lists of whole numbers, put together item by item; of each number it is known to which list which item was added last, so
 * that whatever follows from the items can be worked out for all lists by one walk along the numbers.
 */
export class ListNumbers {
  private readonly shorter: number[] = [];
  private readonly last: number[] = [];
  private readonly pairs: PairNumbers;

  /** Numbers up to `given` stand for lists that are there from the start, 0 for the empty one; there is room for `expected` more. */
  constructor(
    readonly given = 0,
    expected?: number,
  ) {
    this.pairs = new PairNumbers(expected, given);
  }

  /** The highest number. */
  get highest(): number {
    return this.given + this.last.length;
  }

  /** The number of a list with one item more. */
  add(list: number, item: number): number {
    const number = this.pairs.number(list, item);
    if (number > this.highest) {
      this.shorter.push(list);
      this.last.push(item);
    }
    return number;
  }

  /** The same with several items more, sorted and each taken once; sorts them where they are. */
  addSet(list: number, few: FewNumbers): number {
    few.sort();
    const { items, count } = few;
    let number = list;
    for (let k = 0; k < count; k++) if (k === 0 || items[k] !== items[k - 1]) number = this.add(number, items[k] as number);
    return number;
  }

  /** The list without its last item, and that item, of a number above the given ones. */
  shorterOf(number: number): number {
    return this.shorter[number - this.given - 1] as number;
  }

  lastOf(number: number): number {
    return this.last[number - this.given - 1] as number;
  }

  /** Calls `visit` with each number above the given ones, the number of the list without its last item, and that item; shorter lists come first. */
  each(visit: (number: number, shorter: number, item: number) => void): void {
    for (let k = 0; k < this.last.length; k++) visit(this.given + 1 + k, this.shorter[k] as number, this.last[k] as number);
  }
}
