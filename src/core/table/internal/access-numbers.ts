import { ListNumbers } from "./list-numbers";
import type { Position } from "../../compile/position-index";

/**
 * Numbers for what people have: what they inherit from groups, what is given straight to them, and all of it together. They speak of groups by
 * position and of all else by its number in the vocabulary, so that a facility with the same groups goes on with them, and whoever has what
 * they had before keeps their number.
 */
export class AccessNumbers {
  /** Number g + 1 is what the members of department g inherit; a list with a window more is what a membership of that group brings in it. */
  private readonly inherited: ListNumbers;
  /** Kinds of grants that are given straight to somebody, one after the other. */
  readonly directGrants = new ListNumbers();
  /** Number g + 1 is that of whoever has what department g brings, and nothing else; items more are those of `inheritedItem` and `directItem`. */
  readonly entitlements: ListNumbers;

  constructor(readonly groups: number) {
    this.inherited = new ListNumbers(groups);
    this.entitlements = new ListNumbers(groups);
  }

  membership(group: Position, window: number): number {
    return this.inherited.add(group + 1, window);
  }

  isDepartment(inherited: number): boolean {
    return inherited <= this.groups;
  }

  /** The group that something is inherited from, and the number of the membership's window as it is written. */
  originOf(inherited: number): { readonly group: Position; readonly window: number } {
    return this.isDepartment(inherited)
      ? { group: (inherited - 1), window: 0 }
      : { group: (this.inherited.shorterOf(inherited) - 1), window: this.inherited.lastOf(inherited) };
  }
}

/** An item of an entitlement: twice the number of what is inherited from a group, or one more than twice that of what is given straight to somebody. */
export const inheritedItem = (inherited: number): number => inherited * 2;
export const directItem = (direct: number): number => direct * 2 + 1;
export const isDirectItem = (item: number): boolean => (item & 1) === 1;
export const numberOfItem = (item: number): number => item >> 1;
