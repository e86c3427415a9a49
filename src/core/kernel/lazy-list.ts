/** A list of which each item is made when it is first asked for, and kept. */
export class LazyList<T> implements Iterable<T> {
  private items: (T | undefined)[] | undefined;

  constructor(
    readonly length: number,
    private readonly make: (index: number) => T,
  ) {}

  /** Room for the items, once somebody asks for one. */
  private kept(): (T | undefined)[] {
    return (this.items ??= new Array<T | undefined>(this.length).fill(undefined));
  }

  /** The item at an index; undefined where the list has none there. */
  at(index: number): T | undefined {
    if (index < 0 || index >= this.length) return undefined;
    const items = this.kept();
    return (items[index] ??= this.make(index));
  }

  /** All items. Cost: makes those that were never asked for. */
  all(): readonly T[] {
    const items = this.kept();
    for (let i = 0; i < this.length; i++) items[i] ??= this.make(i);
    return items as readonly T[];
  }

  [Symbol.iterator](): Iterator<T> {
    return this.all()[Symbol.iterator]();
  }
}
