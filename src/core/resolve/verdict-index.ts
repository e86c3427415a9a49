import type { Position } from "../kernel/position-index";
import { minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import type { AccessRows } from "./access-row";
import type { AccessTable } from "./access-table";

const wordsADay = minutesADay / 32;

/**
 * An access table made ready for single questions. A verdict is two look-ups by id and three loads from flat arrays: the timeline of the
 * credential's row at the door, that timeline's day, the day's minutes; three more where the credential is not live throughout. Nothing is searched
 * but hash tables that are at most two thirds full. Must give what `reasonAt` gives.
 */
export interface VerdictIndex {
  /** The row of each credential that is live throughout, by id, so that nothing else has to be loaded for it; −1 − k for the k-th of the others. */
  readonly credentials: Readonly<Record<string, number>>;
  /** Index 2k: the row of the k-th credential that is not live throughout; 2k + 1: its timeline of life. */
  readonly bounded: Int32Array;
  readonly doors: Readonly<Record<string, Position>>;
  readonly doorCount: number;
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

/** Numbers by id, as a plain dictionary: the engine finds a text that it has met before by identity, in half the time that a map takes. */
const byId = (objects: readonly { readonly id: string }[], numberOf: (position: Position) => number): Readonly<Record<string, number>> => {
  const numbers = Object.create(null) as Record<string, number>;
  for (let i = 0; i < objects.length; i++) numbers[(objects[i] as { readonly id: string }).id] = numberOf(i);
  return numbers;
};

/** Lays a table out for single questions. Cost: the rows, and the days of every timeline; it speaks of the timelines there are now. */
export function verdictIndex(table: AccessTable): VerdictIndex {
  const { compiled, book, reading, rows, rowOfCredential, liveOfCredential } = table;
  const [from = 0, to = 0] = reading.whole;
  const days = Math.ceil((to - from) / minutesADay);
  const whole = book.number(reading.whole);
  const bounded: number[] = [];
  const rowOrBounded = (credential: Position): number =>
    liveOfCredential[credential] === whole ? (rowOfCredential[credential] as number) : -(bounded.push(rowOfCredential[credential] as number, liveOfCredential[credential] as number) >> 1);
  const credentials = byId(compiled.facility.credentials, rowOrBounded);
  const sets = Array.from({ length: book.size }, (_, line) => book.set(line));
  return {
    credentials,
    bounded: Int32Array.from(bounded),
    doors: byId(compiled.facility.doors, (door) => door),
    doorCount: compiled.doors.length,
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

/** Whether a credential opens a door at a minute of the reading, by the ids of the document; false for ids that it does not hold, and outside the reading. */
export function opensById(index: VerdictIndex, credential: string, door: string, minute: EpochMinute): boolean {
  const who = index.credentials[credential];
  const where = index.doors[door];
  if (who === undefined || where === undefined || minute < index.from || minute >= index.to) return false;
  const { places, doorCount, bounded } = index;
  const other = -1 - who;
  const key = (who >= 0 ? who : (bounded[other * 2] as number)) * doorCount + where;
  const mask = (places.length >> 1) - 1;
  for (let place = hashOf(key) & mask; ; place = (place + 1) & mask) {
    const found = places[place * 2] as number;
    if (found === -1) return false;
    if (found !== key) continue;
    return holds(index, places[place * 2 + 1] as number, minute) && (who >= 0 || holds(index, bounded[other * 2 + 1] as number, minute));
  }
}
