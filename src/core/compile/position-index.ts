import type { NumberOf } from "../kernel/brand";
/** Position of an object in its list; the dense number by which everything compiled refers to it. */
export type Position = NumberOf<"position">;

/**
 * Positions of objects by their ids: built in a third of the time that a map takes, which counts where a register is read.
 * Of equal ids the first is found.
 */
export class PositionIndex {
  /** Index 2i: position of slot i plus one, 0 for an empty slot; 2i + 1: the hash of its id, so that another's text is hardly ever looked at. */
  private readonly slots: Int32Array;
  private readonly ids: string[];

  constructor(objects: readonly { readonly id: string }[]) {
    let size = 4;
    while (size < objects.length * 2) size *= 2;
    this.slots = new Int32Array(size * 2);
    this.ids = new Array<string>(objects.length);
    for (let i = 0; i < objects.length; i++) {
      const { id } = objects[i] as { readonly id: string };
      this.ids[i] = id;
      const hash = hashOf(id);
      let slot = hash & (size - 1);
      while (this.slots[slot * 2] !== 0) slot = (slot + 1) & (size - 1);
      this.slots[slot * 2] = i + 1;
      this.slots[slot * 2 + 1] = hash;
    }
  }

  get(id: string): number | undefined {
    const { slots, ids } = this;
    const mask = (slots.length >> 1) - 1;
    const hash = hashOf(id);
    for (let slot = hash & mask; ; slot = (slot + 1) & mask) {
      const position = (slots[slot * 2] as number) - 1;
      if (position < 0) return undefined;
      if (slots[slot * 2 + 1] === hash && ids[position] === id) return position;
    }
  }

  /** The same, looked for first at a position and the one after it: lists of one export often run in one order. */
  getNear(id: string, near: number): number | undefined {
    const { ids } = this;
    return ids[near] === id ? near : ids[near + 1] === id ? near + 1 : this.get(id);
  }

  has(id: string): boolean {
    return this.get(id) !== undefined;
  }
}

/** Positions of a few of many objects, by one walk along them: cheaper than an index of all. */
export function positionsOf(wanted: ReadonlySet<string>, objects: readonly { readonly id: string }[]): ReadonlyMap<string, number> {
  const found = new Map<string, number>();
  for (let i = 0; i < objects.length && found.size < wanted.size; i++) {
    const { id } = objects[i] as { readonly id: string };
    if (wanted.has(id) && !found.has(id)) found.set(id, i);
  }
  return found;
}

/**
 * Even and odd places are taken in two chains that a processor works on side by side, and are mixed at the end, so that the low
 * bits depend on all of them.
 */
function hashOf(id: string): number {
  const { length } = id;
  let even: number = length;
  let odd = 0;
  let i = 0;
  for (; i + 1 < length; i += 2) {
    even = (Math.imul(even, 31) + id.charCodeAt(i)) | 0;
    odd = (Math.imul(odd, 37) + id.charCodeAt(i + 1)) | 0;
  }
  if (i < length) even = (Math.imul(even, 31) + id.charCodeAt(i)) | 0;
  const hash = Math.imul(even, 0x9e3779b1) ^ Math.imul(odd, 0x85ebca6b);
  return hash ^ (hash >>> 15);
}
