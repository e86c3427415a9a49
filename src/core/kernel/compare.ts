/**
 * Order of two texts by code points, negative, zero or positive. JavaScript's own `<` compares UTF-16 units,
 * which puts characters beyond U+FFFF before U+E000; the documents are ordered by code points.
 */
export function compareCodePoints(a: string, b: string): number {
  const shorter = Math.min(a.length, b.length);
  for (let i = 0; i < shorter; i++) {
    const x = a.charCodeAt(i);
    const y = b.charCodeAt(i);
    if (x !== y) {
      const xSurrogate = x >= 0xd800 && x <= 0xdfff;
      const ySurrogate = y >= 0xd800 && y <= 0xdfff;
      return xSurrogate === ySurrogate ? x - y : xSurrogate ? 1 : -1;
    }
  }
  return a.length - b.length;
}

/** An order of objects by one of their texts. */
export const byText =
  <T>(textOf: (item: T) => string) =>
  (a: T, b: T): number =>
    compareCodePoints(textOf(a), textOf(b));

/** The first so many of items that are offered one by one. Cost of an item: one comparison for most, and a share of a sort. */
export class First<T> {
  private held: T[] = [];

  constructor(
    private readonly count: number,
    private readonly compare: (a: T, b: T) => number,
  ) {}

  /** Once so many were offered: an item behind which none is among the first. */
  bound: T | undefined;

  /** Takes an item in; false where it, and so whatever lies behind it, is not among the first. */
  offer(item: T): boolean {
    const { count, bound, compare, held } = this;
    if (count === 0 || (bound !== undefined && compare(item, bound) >= 0)) return false;
    held.push(item);
    if (held.length >= 2 * count) this.bound = this.items()[count - 1];
    return true;
  }

  /** The first of those that were offered, in their order. */
  items(): readonly T[] {
    this.held = this.held.sort(this.compare).slice(0, this.count);
    return this.held;
  }
}

/** The first few of many in an order, in that order, without sorting the rest. */
export function firstFew<T>(items: Iterable<T>, count: number, compare: (a: T, b: T) => number): readonly T[] {
  const first = new First(count, compare);
  for (const item of items) first.offer(item);
  return first.items();
}

/** The items in lists by a key, each list in the order of the items. */
export function groupBy<K, T>(items: Iterable<T>, keyOf: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}

/** The greatest of some numbers, and of one that is there at least. Of lists however long: as arguments of a call they would overflow its stack. */
export function greatest(numbers: Iterable<number>, atLeast = -Infinity): number {
  let most = atLeast;
  for (const number of numbers) if (number > most) most = number;
  return most;
}
