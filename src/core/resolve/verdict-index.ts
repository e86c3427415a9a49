import type { Position } from "../kernel/position-index";
import { minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import type { AccessRows } from "./access-row";
import type { AccessTable } from "./access-table";

const wordsADay = minutesADay / 32;

/**
 * An access table made ready for single questions. A verdict is two look-ups by id and five loads from flat arrays: a credential's
 * row, the row's timeline at the door, that timeline's day, the day's minutes, and when the credential is live. Nothing is searched
 * but hash tables that are at most two thirds full. Must give what `reasonAt` gives.
 */
export interface VerdictIndex {
  readonly credentials: Readonly<Record<string, Position>>;
  readonly doors: Readonly<Record<string, Position>>;
  readonly doorCount: number;
  /** Index 2i: the row of credential i; 2i + 1: its timeline of life, −1 for throughout. */
  readonly cards: Int32Array;
  /** Row and door as one number, and the timeline, by open addressing; an empty place has −1. */
  readonly places: Int32Array;
  /** First minute of the reading, and how many days from there are laid out. */
  readonly from: number;
  readonly to: number;
  readonly days: number;
  /** Day d of timeline t at t × days + d: number of a kind of day. */
  readonly dayOfLine: Uint16Array | Int32Array;
  /** Kinds of days: 1,440 bits each. */
  readonly minutes: Int32Array;
}

const hashOf = (key: number): number => {
  const hash = Math.imul(key, 0x9e3779b1);
  return hash ^ (hash >>> 15);
};

/** The timelines of rows by row and door. Keys stay whole numbers of 31 bits up to 2,000 million rows × doors. */
function layOutPlaces(rows: AccessRows, doorCount: number): Int32Array {
  const { doors, lines } = rows;
  const entries = rows.end(rows.count - 1);
  let size = 4;
  while (size < entries * 1.5) size *= 2;
  const places = new Int32Array(size * 2).fill(-1);
  for (let row = 0; row < rows.count; row++)
    for (let i = rows.start(row); i < rows.end(row); i++) {
      const key = row * doorCount + (doors[i] as number);
      let place = hashOf(key) & (size - 1);
      while (places[place * 2] !== -1) place = (place + 1) & (size - 1);
      places[place * 2] = key;
      places[place * 2 + 1] = lines[i] as number;
    }
  return places;
}

/** Sets the bits of `[from, to)`, minutes of a day. */
function fill(bits: Int32Array, from: number, to: number): void {
  for (let minute = from; minute < to; ) {
    const word = minute >> 5;
    const end = Math.min(to, (word + 1) << 5);
    const count = end - minute;
    bits[word] = (bits[word] as number) | (count === 32 ? -1 : ((1 << count) - 1) << (minute & 31));
    minute = end;
  }
}

/** Timelines as days, and days by what is open in them: most timelines repeat the same few days. */
function layOutDays(sets: readonly IntervalSet[], from: number, days: number): Pick<VerdictIndex, "dayOfLine" | "minutes"> {
  const dayOfLine = new Int32Array(sets.length * days);
  const kinds: Int32Array[] = [new Int32Array(wordsADay)];
  const known = new Map<string, number>([["", 0]]);
  sets.forEach((set, line) => {
    let i = 0;
    for (let day = 0; day < days; day++) {
      const start = from + day * minutesADay;
      const end = start + minutesADay;
      while (i < set.length && (set[i + 1] as number) <= start) i += 2;
      if (i >= set.length) break;
      let key = "";
      for (let j = i; j < set.length && (set[j] as number) < end; j += 2) key += `${Math.max(0, (set[j] as number) - start)}-${Math.min(minutesADay, (set[j + 1] as number) - start)} `;
      let kind = known.get(key);
      if (kind === undefined) {
        const bits = new Int32Array(wordsADay);
        for (let j = i; j < set.length && (set[j] as number) < end; j += 2) fill(bits, Math.max(0, (set[j] as number) - start), Math.min(minutesADay, (set[j + 1] as number) - start));
        kind = kinds.push(bits) - 1;
        known.set(key, kind);
      }
      dayOfLine[line * days + day] = kind;
    }
  });
  const minutes = new Int32Array(kinds.length * wordsADay);
  kinds.forEach((bits, kind) => minutes.set(bits, kind * wordsADay));
  // Most often there are few kinds of days, and the half of the memory is the half of the cache misses.
  return { dayOfLine: kinds.length <= 0x10000 ? Uint16Array.from(dayOfLine) : dayOfLine, minutes };
}

/** Positions by id, as a plain dictionary: the engine finds a text that it has met before by identity, in half the time that a map takes. */
const positionsById = (objects: readonly { readonly id: string }[]): Readonly<Record<string, Position>> => {
  const positions = Object.create(null) as Record<string, Position>;
  for (let i = 0; i < objects.length; i++) positions[(objects[i] as { readonly id: string }).id] = i;
  return positions;
};

/** Lays a table out for single questions. Cost: the rows, and the days of every timeline; it speaks of the timelines there are now. */
export function verdictIndex(table: AccessTable): VerdictIndex {
  const { compiled, book, reading, rows, rowOfCredential, liveOfCredential } = table;
  const [from = 0, to = 0] = reading.whole;
  const days = Math.ceil((to - from) / minutesADay);
  const whole = book.number(reading.whole);
  const cards = new Int32Array(rowOfCredential.length * 2);
  for (let i = 0; i < rowOfCredential.length; i++) {
    cards[i * 2] = rowOfCredential[i] as number;
    cards[i * 2 + 1] = liveOfCredential[i] === whole ? -1 : (liveOfCredential[i] as number);
  }
  const sets = Array.from({ length: book.size }, (_, line) => book.set(line));
  return {
    credentials: positionsById(compiled.facility.credentials),
    doors: positionsById(compiled.facility.doors),
    doorCount: compiled.doors.length,
    cards,
    places: layOutPlaces(rows, compiled.doors.length),
    from,
    to,
    days,
    ...layOutDays(sets, from, days),
  };
}

function holds({ from, days, dayOfLine, minutes }: VerdictIndex, line: number, minute: number): boolean {
  const since = minute - from;
  const day = (since / minutesADay) | 0;
  const ofDay = since - day * minutesADay;
  return (((minutes[(dayOfLine[line * days + day] as number) * wordsADay + (ofDay >> 5)] as number) >>> (ofDay & 31)) & 1) === 1;
}

/** Whether a credential opens a door at a minute of the reading; false outside it. */
export function opensAt(index: VerdictIndex, credential: Position, door: Position, minute: EpochMinute): boolean {
  if (minute < index.from || minute >= index.to) return false;
  const { cards, places, doorCount } = index;
  const key = (cards[credential * 2] as number) * doorCount + door;
  const mask = (places.length >> 1) - 1;
  for (let place = hashOf(key) & mask; ; place = (place + 1) & mask) {
    const found = places[place * 2] as number;
    if (found === -1) return false;
    if (found !== key) continue;
    const live = cards[credential * 2 + 1] as number;
    return holds(index, places[place * 2 + 1] as number, minute) && (live === -1 || holds(index, live, minute));
  }
}

/** Whether a credential opens a door at a minute of the reading, by the ids of the document; false for ids that it does not hold. */
export function opensById(index: VerdictIndex, credential: string, door: string, minute: EpochMinute): boolean {
  const who = index.credentials[credential];
  const where = index.doors[door];
  return who !== undefined && where !== undefined && opensAt(index, who, where, minute);
}
