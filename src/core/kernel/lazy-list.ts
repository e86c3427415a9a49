/** A list of which each item is made when it is first asked for, and kept. */
export class LazyList<T> implements Iterable<T> {
  private readonly items: (T | undefined)[];

  constructor(
    readonly length: number,
    private readonly make: (index: number) => T,
  ) {
    this.items = new Array<T | undefined>(length).fill(undefined);
  }

  /** The item at an index; undefined where the list has none there. */
  at(index: number): T | undefined {
    if (index < 0 || index >= this.length) return undefined;
    return (this.items[index] ??= this.make(index));
  }

  /** All items. Cost: makes those that were never asked for. */
  all(): readonly T[] {
    for (let i = 0; i < this.length; i++) this.items[i] ??= this.make(i);
    return this.items as readonly T[];
  }

  [Symbol.iterator](): Iterator<T> {
    return this.all()[Symbol.iterator]();
  }
}
