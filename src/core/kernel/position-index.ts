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

  has(id: string): boolean {
    return this.get(id) !== undefined;
  }
}

/** FNV-1a over UTF-16 units, folded once so that the low bits depend on all of them. */
function hashOf(id: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < id.length; i++) hash = Math.imul(hash ^ id.charCodeAt(i), 0x01000193);
  return hash ^ (hash >>> 15);
}
