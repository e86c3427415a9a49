import { grown } from "../../kernel/grown";

/** A handful of whole numbers that is filled, looked at and emptied again and again, without anything being made for it. */
export class NumberBuffer {
  /** Those below `count` are there. */
  items = new Int32Array(16);
  count = 0;

  clear(): void {
    this.count = 0;
  }

  add(number: number): void {
    if (this.count === this.items.length) this.items = grown(this.items, this.count * 2);
    this.items[this.count++] = number;
  }

  /** Sorts them in place: for a handful that is quicker than the engine's own sort, which is made for many. */
  sort(): void {
    const { items, count } = this;
    for (let i = 1; i < count; i++) {
      const number = items[i] as number;
      let j = i - 1;
      for (; j >= 0 && (items[j] as number) > number; j--) items[j + 1] = items[j] as number;
      items[j + 1] = number;
    }
  }
}
