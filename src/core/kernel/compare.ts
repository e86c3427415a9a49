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

/** The first few of many in an order, in that order; of equal ones those that were offered first. */
export class FirstFew<T> {
  readonly items: T[] = [];

  constructor(
    private readonly count: number,
    private readonly compare: (a: T, b: T) => number,
  ) {}

  /** Takes an item in if it is among the first so far; says whether it was. Cost: mostly one comparison. */
  offer(item: T): boolean {
    const { items, count, compare } = this;
    if (items.length === count && (count === 0 || compare(item, items[count - 1] as T) >= 0)) return false;
    let [low, high] = [0, items.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (compare(item, items[middle] as T) < 0) high = middle;
      else low = middle + 1;
    }
    items.splice(low, 0, item);
    if (items.length > count) items.pop();
    return true;
  }
}

/** The first of many items, of which also many are kept. Cost of an item: one comparison for most, and a share of a sort. */
export class FirstMany<T> {
  private held: T[] = [];

  constructor(
    private readonly count: number,
    private readonly compare: (a: T, b: T) => number,
  ) {}

  /** Once there are more than are kept: an item behind which none is among the first. */
  bound: T | undefined;

  offer(item: T): void {
    const { count, bound, compare, held } = this;
    if (count === 0 || (bound !== undefined && compare(item, bound) >= 0)) return;
    held.push(item);
    if (held.length >= 2 * count) this.bound = this.first()[count - 1];
  }

  /** The first of those that were offered, in their order. */
  first(): readonly T[] {
    this.held = this.held.sort(this.compare).slice(0, this.count);
    return this.held;
  }
}

/** The first few of many in an order, in that order, without sorting the rest. */
export function firstFew<T>(items: Iterable<T>, count: number, compare: (a: T, b: T) => number): T[] {
  const first = new FirstFew(count, compare);
  for (const item of items) first.offer(item);
  return first.items;
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
