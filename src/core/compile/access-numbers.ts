import { ListNumbers } from "../kernel/list-numbers";
import type { Position } from "../kernel/position-index";

/**
 * Numbers for what people have: what groups give them, what is given straight to them, and all of it together. They speak of groups by
 * position and of all else by its number in the vocabulary, so that a facility with the same groups goes on with them, and whoever has what
 * they had before keeps their number.
 */
export class AccessNumbers {
  /** Number g + 1 is what department g gives; a list with a window more is what a membership of that group gives in it. */
  private readonly given: ListNumbers;
  /** Kinds of grants that are given straight to somebody, one after the other. */
  readonly directs = new ListNumbers();
  /** Number g + 1 is that of whoever has what department g gives, and nothing else; items more are those of `membershipItem` and `directItem`. */
  readonly combinations: ListNumbers;

  constructor(readonly groups: number) {
    this.given = new ListNumbers(groups);
    this.combinations = new ListNumbers(groups);
  }

  membership(group: Position, window: number): number {
    return this.given.add(group + 1, window);
  }

  isDepartment(given: number): boolean {
    return given <= this.groups;
  }

  /** The group of what is given, and the number of the window as it is written. */
  givenBy(given: number): { readonly group: Position; readonly window: number } {
    return this.isDepartment(given) ? { group: given - 1, window: 0 } : { group: this.given.shorterOf(given) - 1, window: this.given.lastOf(given) };
  }
}

/** An item of a combination: twice the number of what a membership gives, or one more than twice that of what is given straight to somebody. */
export const membershipItem = (given: number): number => given * 2;
export const directItem = (direct: number): number => direct * 2 + 1;
export const isDirectItem = (item: number): boolean => (item & 1) === 1;
export const numberOfItem = (item: number): number => item >> 1;
