const blockBits = 8;

/** A list of which each item is made when it is first asked for, and kept. */
export class LazyList<T> implements Iterable<T> {
  /** Items in blocks: whoever asks for a few of many pays for the room of a few. */
  private readonly blocks: ((T | undefined)[] | undefined)[] = [];

  constructor(
    readonly length: number,
    private readonly make: (index: number) => T,
  ) {}

  /** The item at an index; undefined where the list has none there. */
  at(index: number): T | undefined {
    if (index < 0 || index >= this.length) return undefined;
    const block = (this.blocks[index >> blockBits] ??= new Array<T | undefined>(1 << blockBits).fill(undefined));
    return (block[index & ((1 << blockBits) - 1)] ??= this.make(index));
  }

  /** All items. Cost: makes those that were never asked for. */
  all(): readonly T[] {
    return Array.from({ length: this.length }, (_, index) => this.at(index) as T);
  }

  [Symbol.iterator](): Iterator<T> {
    return this.all()[Symbol.iterator]();
  }
}
