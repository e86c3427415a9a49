import { NumberBuffer } from "./number-buffer";
import { PairNumbers } from "../../kernel/pair-table";

/**
 * Numbers for lists of whole numbers, put together item by item; of each number it is known to which list which item was added last, so
 * that whatever follows from the items can be worked out from what follows from the list without its last one.
 */
export class ListNumbers {
  private readonly shorter: number[] = [];
  private readonly last: number[] = [];
  private readonly pairs: PairNumbers;
  /** Lists that are being followed. */
  private readonly open = new NumberBuffer();

  /** Numbers up to `reserved` stand for lists that are there from the start, 0 for the empty one. */
  constructor(readonly reserved = 0) {
    this.pairs = new PairNumbers(undefined, reserved);
  }

  /** The highest number. */
  get highest(): number {
    return this.reserved + this.last.length;
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
  addSet(list: number, few: NumberBuffer): number {
    few.sort();
    const { items, count } = few;
    let number = list;
    for (let k = 0; k < count; k++) if (k === 0 || items[k] !== items[k - 1]) number = this.add(number, items[k] as number);
    return number;
  }

  /** The list without its last item, and that item, of a number above the reserved ones. */
  shorterOf(number: number): number {
    return this.shorter[number - this.reserved - 1] as number;
  }

  lastOf(number: number): number {
    return this.last[number - this.reserved - 1] as number;
  }

  /**
   * A number that follows from a list, and from all that it begins with: `known` has those worked out before, and `notKnownYet` elsewhere; it
   * must have those of the reserved lists. Goes no deeper than one call, however long a list is.
   */
  follow(list: number, known: Int32Array, withItem: (before: number, item: number) => number): number {
    const found = known[list] as number;
    if (found !== notKnownYet) return found;
    const { open } = this;
    open.clear();
    let shorter = list;
    for (; known[shorter] === notKnownYet; shorter = this.shorterOf(shorter)) open.add(shorter);
    let number = known[shorter] as number;
    for (let k = open.count - 1; k >= 0; k--) known[open.items[k] as number] = number = withItem(number, this.lastOf(open.items[k] as number));
    return number;
  }
}

/** Stands in a column for what has not been worked out yet. */
export const notKnownYet = -1;
