/**
 * Numbers for contents, from 1 on. Contents that had a number before keep it, so that what is held by a unit already need not be sent again; new ones take
 * the smallest that are free.
 */
export class Numbered<T> {
  private readonly numbers = new Map<string, number>();
  private readonly inUse = new Map<number, T>();
  private readonly taken: ReadonlySet<number>;
  private next = 1;

  constructor(
    private readonly keyOf: (content: T) => string,
    before: readonly (T & { readonly id: number })[] = [],
  ) {
    for (const content of before) if (!this.numbers.has(keyOf(content))) this.numbers.set(keyOf(content), content.id);
    this.taken = new Set(before.map(({ id }) => id));
  }

  of(content: T): number {
    const key = this.keyOf(content);
    let number = this.numbers.get(key);
    if (number === undefined) {
      while (this.taken.has(this.next)) this.next++;
      this.numbers.set(key, (number = this.next++));
    }
    if (!this.inUse.has(number)) this.inUse.set(number, content);
    return number;
  }

  /** The contents that were asked for, by number. */
  all(): (readonly [number: number, content: T])[] {
    return [...this.inUse].sort(([a], [b]) => a - b);
  }
}
