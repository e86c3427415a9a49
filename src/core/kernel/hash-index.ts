import { grown } from "./grown";

/**
 * Numbers from 1 on by a hash of what they stand for, in open addressing. What is equal is for the caller to say:
 * `for (let n = index.first(hash); n !== 0; n = index.next()) if (isEqual(n)) return n;` and, where there is none, `index.add(number)`.
 */
export class HashIndex {
  /** A number by its hash, 0 for an empty slot; and index n: the hash of number n. */
  private slots = new Int32Array(1024);
  private hashes = new Int32Array(512);
  private hash = 0;
  private slot = 0;
  private count = 0;

  /** The first number that has a hash; 0 where there is none. */
  first(hash: number): number {
    this.hash = hash;
    this.slot = slotOf(hash, this.slots.length);
    return this.found();
  }

  /** The next one with the hash that was asked for last. */
  next(): number {
    this.slot = (this.slot + 1) & (this.slots.length - 1);
    return this.found();
  }

  private found(): number {
    const { slots, hashes, hash } = this;
    for (let { slot } = this; ; slot = (slot + 1) & (slots.length - 1)) {
      const number = slots[slot] as number;
      if (number === 0 || hashes[number] === hash) {
        this.slot = slot;
        return number;
      }
    }
  }

  /** Adds a number with the hash that was asked for last, after all that have it have been seen. */
  add(number: number): void {
    this.slots[this.slot] = number;
    if (number >= this.hashes.length) this.hashes = grown(this.hashes, Math.max(number + 1, this.hashes.length * 2));
    this.hashes[number] = this.hash;
    if (++this.count * 2 > this.slots.length) this.grow();
  }

  private grow(): void {
    const before = this.slots;
    const slots = new Int32Array(before.length * 2);
    for (const number of before) {
      if (number === 0) continue;
      let slot = slotOf(this.hashes[number] as number, slots.length);
      while (slots[slot] !== 0) slot = (slot + 1) & (slots.length - 1);
      slots[slot] = number;
    }
    this.slots = slots;
  }
}

/** The low bits of a product depend on those below them alone, so the high ones are taken in. */
const slotOf = (hash: number, size: number): number => (hash ^ (hash >>> 15)) & (size - 1);
