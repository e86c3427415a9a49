import { grown } from "../../kernel/grown";
import { invariant } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import type { AccessRows } from "../access-rows";
import type { TimelineNumber } from "../timelines";

/** A door lies in one of so many slots from its own on. */
const slotsToLookAt = 4;

/** Full to more than this, a row would often have to be laid out again with twice the room. */
const fullest = 0.9;

/**
 * The timelines of rows by row and door, for single questions. Each row is a hash table of its own in which every door lies so near to its own
 * slot that all the slots where it may be are looked at, always: a search that ends where it finds something is a jump that the processor
 * guesses wrongly every other time, which costs more than the look.
 */
export interface RowSlots {
  /** Index 2s: the door in slot s, of which the largest number is none; 2s + 1: its timeline. As narrow as the numbers allow. */
  readonly slots: Uint16Array | Int32Array;
  /** Index r: where the slots of row r begin, times 32, and by how many bits hashes are shifted in it; −1 for a row that is not laid out. */
  readonly codes: Int32Array;
}

/** Fibonacci hashing: the leading bits of a multiple of the golden ratio (Knuth, The Art of Computer Programming 3, section 6.4; from memory). */
const slotOf = (door: Position, shift: number): number => Math.imul(door, 0x9e3779b1) >>> shift;

/**
 * The slot of each of the doors from `start` to `end`, among 2 to the power of `bits` slots and a few for what runs over; undefined where some door
 * would lie too far from its own. Put there in the order of their own slots, they lie as near to them as they can.
 */
function placesIn({ doors, start, end }: { readonly doors: Int32Array; readonly start: number; readonly end: number }, bits: number): Float64Array | undefined {
  const count = end - start;
  const byOwnSlot = new Float64Array(count);
  for (let i = 0; i < count; i++) byOwnSlot[i] = slotOf(doors[start + i] as number, 32 - bits) * count + i;
  byOwnSlot.sort();
  const places = new Float64Array(count);
  let free = 0;
  for (const key of byOwnSlot) {
    const own = Math.floor(key / count);
    const place = Math.max(own, free);
    if (place - own >= slotsToLookAt) return undefined;
    places[key - own * count] = place;
    free = place + 1;
  }
  return places;
}

/**
 * Lays out as slots each of the rows that `inUse` holds, in whatever order and however often; `numberOf` gives the number by which a timeline is to
 * be known there, `never` its own. Cost: the entries, sorted within each row.
 */
export function rowSlots(rows: AccessRows, inUse: Int32Array, doorCount: number, numberOf: (timeline: TimelineNumber) => number): RowSlots {
  const { doors, times } = rows;
  const codes = new Int32Array(rows.count).fill(-1);
  let slots = new Int32Array(1024).fill(-1);
  let used = 0;
  let largest = 0;
  for (const row of inUse) {
    if (codes[row] !== -1) continue;
    const [start, end] = [rows.start(row), rows.end(row)];
    let bits = 1;
    while (2 ** bits * fullest < end - start) bits++;
    let places = placesIn({ doors, start, end }, bits);
    while (!places) places = placesIn({ doors, start, end }, ++bits);
    const next = used + 2 ** bits + slotsToLookAt - 1;
    invariant(next <= 2 ** 26, "there are fewer than fifty million entries of rows");
    if (next * 2 > slots.length) {
      const before = slots.length;
      slots = grown(slots, Math.max(next * 2, before * 2)).fill(-1, before);
    }
    codes[row] = used * 32 + (32 - bits);
    for (let i = start; i < end; i++) {
      const at = (used + (places[i - start] as number)) * 2;
      const timeline = numberOf(times[i] as number);
      slots[at] = doors[i] as number;
      slots[at + 1] = timeline;
      if (timeline > largest) largest = timeline;
    }
    used = next;
  }
  // Half of the memory is half of the cache misses. A slot that is free keeps the largest number for its door.
  const isNarrow = doorCount <= 0xffff && largest <= 0xffff;
  return { slots: isNarrow ? Uint16Array.from(slots.subarray(0, used * 2)) : slots.slice(0, used * 2), codes };
}

/** The timeline in a slot where the door is the one that is asked for; else `never`, which is 0. */
function ifAt(slots: Uint16Array | Int32Array, at: number, door: Position): TimelineNumber {
  const difference = (slots[at] as number) - door;
  return (slots[at + 1] as number) & ~((difference | -difference) >> 31);
}

/** On which timeline a row opens a door, by the row's code; `never` where it does not. Looks at `slotsToLookAt` slots. */
export function lineInSlots(slots: Uint16Array | Int32Array, code: number, door: Position): TimelineNumber {
  const at = ((code >> 5) + slotOf(door, code & 31)) * 2;
  return ifAt(slots, at, door) | ifAt(slots, at + 2, door) | ifAt(slots, at + 4, door) | ifAt(slots, at + 6, door);
}
