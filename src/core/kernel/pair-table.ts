const fieldsASlot = 3;
const firstSlots = 1024;

/**
 * What is known of pairs of whole numbers from 0 on: one flat array, open addressing. Far cheaper than a map with a joint key,
 * which would have to be a text or a number too large to be kept without an allocation.
 */
export class PairTable {
  private slots: Int32Array;
  private mask: number;
  private count = 0;

  /** Room for `expected` pairs at once; for more it grows. */
  constructor(expected = firstSlots / 2) {
    let size = firstSlots;
    while (size < expected * 2) size *= 2;
    this.slots = new Int32Array(size * fieldsASlot);
    this.mask = size - 1;
  }

  /** The value of a pair; -1 where none was set. */
  get(a: number, b: number): number {
    const { slots, mask } = this;
    for (let slot = hashOf(a, b) & mask; ; slot = (slot + 1) & mask) {
      const at = slot * fieldsASlot;
      const value = slots[at + 2] as number;
      if (value === 0) return -1;
      if (slots[at] === a && slots[at + 1] === b) return value - 1;
    }
  }

  /** The value of a pair, set to `value` where there was none: one look for both. */
  getOrSet(a: number, b: number, value: number): number {
    const { slots, mask } = this;
    for (let slot = hashOf(a, b) & mask; ; slot = (slot + 1) & mask) {
      const at = slot * fieldsASlot;
      const known = slots[at + 2] as number;
      if (known === 0) {
        slots[at] = a;
        slots[at + 1] = b;
        slots[at + 2] = value + 1;
        if (++this.count * 2 > mask) this.grow();
        return value;
      }
      if (slots[at] === a && slots[at + 1] === b) return known - 1;
    }
  }

  /** Sets the value, a whole number from 0 on, of a pair that has none. */
  set(a: number, b: number, value: number): void {
    if (this.count * 2 > this.mask) this.grow();
    this.put(a, b, value + 1);
    this.count++;
  }

  private put(a: number, b: number, stored: number): void {
    const { slots, mask } = this;
    let slot = hashOf(a, b) & mask;
    while (slots[slot * fieldsASlot + 2] !== 0) slot = (slot + 1) & mask;
    const at = slot * fieldsASlot;
    slots[at] = a;
    slots[at + 1] = b;
    slots[at + 2] = stored;
  }

  private grow(): void {
    const before = this.slots;
    this.slots = new Int32Array(before.length * 2);
    this.mask = this.mask * 2 + 1;
    for (let at = 0; at < before.length; at += fieldsASlot)
      if (before[at + 2] !== 0) this.put(before[at] as number, before[at + 1] as number, before[at + 2] as number);
  }
}

function hashOf(a: number, b: number): number {
  let hash = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
  return hash ^ (hash >>> 13);
}

/**
 * Numbers for pairs of numbers, from 1 on, in the order in which they are first asked for: equal pairs have one number. A list is
 * numbered by taking its items one after the other, `n = pairs.number(n, item)` from 0 on; lists of different items then differ.
 */
export class PairNumbers {
  private readonly table: PairTable;

  /** Room for `expected` pairs at once; numbers begin after `last`, where those up to it mean something else. */
  constructor(
    expected?: number,
    private last = 0,
  ) {
    this.table = new PairTable(expected);
  }

  number(a: number, b: number): number {
    const number = this.table.getOrSet(a, b, this.last + 1);
    if (number > this.last) this.last = number;
    return number;
  }
}

/** Numbers for texts, from 1 on, in the order in which they first come: equal texts have one number. */
export class TextNumbers {
  private readonly known = new Map<string, number>();

  number(text: string): number {
    let number = this.known.get(text);
    if (number === undefined) {
      number = this.known.size + 1;
      this.known.set(text, number);
    }
    return number;
  }
}
