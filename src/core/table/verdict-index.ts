import type { Position } from "../compile/position-index";
import { minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { nothing } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";
import type { AccessTable } from "./access-table";
import { lineInSlots, rowSlots } from "./internal/row-slots";
import type { RowSlots } from "./internal/row-slots";
import { never } from "./timelines";
import type { TimelineNumber } from "./timelines";

const wordsADay = minutesADay / 32;

/**
 * An access table made ready for single questions. A verdict is two look-ups by id and three loads from flat arrays: the timeline of the
 * credential's row at the door, that timeline's day, the day's minutes; three more where the credential is not live throughout. Nothing is
 * searched, and no jump hangs on what is found. Must give what `reasonAt` gives.
 */
export interface VerdictIndex {
  /** The code of the row of each credential that is live throughout, by id, so that nothing else has to be loaded for it; −1 − k for the k-th of the others. */
  readonly credentials: Readonly<Record<string, number>>;
  /** Index 2k: the code of the row of the k-th credential that is not live throughout; 2k + 1: its timeline of life. */
  readonly bounded: Int32Array;
  readonly doors: Readonly<Record<string, Position>>;
  readonly slots: RowSlots["slots"];
  /** First minute of the reading, and how many days from there are laid out. */
  readonly from: number;
  readonly to: number;
  readonly days: number;
  /** Day d of timeline t at t × days + d: number of a kind of day. */
  readonly dayOfTimeline: Uint8Array | Uint16Array | Int32Array;
  /** Kinds of days: 1,440 bits each. */
  readonly minutes: Int32Array;
}

/** Sets the bits of `[from, to)`, minutes of a day. */
function fill(bits: Int32Array, from: number, to: number): void {
  for (let minute = from; minute < to;) {
    const word = minute >> 5;
    const end = Math.min(to, (word + 1) << 5);
    const count = end - minute;
    bits[word] = (bits[word] as number) | (count === 32 ? -1 : ((1 << count) - 1) << (minute & 31));
    minute = end;
  }
}

/** Numbers below a bound, as narrow as they can be: there are few kinds of days, and half of the memory is half of the cache misses. */
const narrowed = (numbers: Int32Array, bound: number): VerdictIndex["dayOfTimeline"] =>
  bound <= 0x100 ? Uint8Array.from(numbers) : bound <= 0x10000 ? Uint16Array.from(numbers) : numbers;

/** Timelines as days, and days by what is open in them: most timelines repeat the same few days. */
function layOutDays(sets: readonly IntervalSet[], from: number, days: number): Pick<VerdictIndex, "dayOfTimeline" | "minutes"> {
  const dayOfTimeline = new Int32Array(sets.length * days);
  const kinds: Int32Array[] = [new Int32Array(wordsADay)];
  const known = new Map<string, number>([["", 0]]);
  sets.forEach((set, timeline) => {
    let i = 0;
    for (let day = 0; day < days; day++) {
      const start = from + day * minutesADay;
      const end = start + minutesADay;
      while (i < set.length && (set[i + 1] as number) <= start) i += 2;
      if (i >= set.length) break;
      let key = "";
      for (let j = i; j < set.length && (set[j] as number) < end; j += 2)
        key += `${Math.max(0, (set[j] as number) - start)}-${Math.min(minutesADay, (set[j + 1] as number) - start)} `;
      let kind = known.get(key);
      if (kind === undefined) {
        const bits = new Int32Array(wordsADay);
        for (let j = i; j < set.length && (set[j] as number) < end; j += 2)
          fill(bits, Math.max(0, (set[j] as number) - start), Math.min(minutesADay, (set[j + 1] as number) - start));
        kind = kinds.push(bits) - 1;
        known.set(key, kind);
      }
      dayOfTimeline[timeline * days + day] = kind;
    }
  });
  const minutes = new Int32Array(kinds.length * wordsADay);
  kinds.forEach((bits, kind) => minutes.set(bits, kind * wordsADay));
  return { dayOfTimeline: narrowed(dayOfTimeline, kinds.length), minutes };
}

/** Numbers by id, as a plain dictionary: the engine finds a text that it has met before by identity, in half the time that a map takes. */
const byId = (objects: readonly { readonly id: string }[], numberOf: (position: Position) => number): Readonly<Record<string, number>> => {
  const numbers = Object.create(null) as Record<string, number>;
  for (let i = 0; i < objects.length; i++) numbers[(objects[i] as { readonly id: string }).id] = numberOf(i);
  return numbers;
};

/** Lays a table out for single questions. Cost: the rows of credentials, and the days of their timelines. */
export function verdictIndex(table: AccessTable): VerdictIndex {
  const { compiled, timelines, timeframe, rows, rowOfCredential, liveOfCredential } = table;
  const [from = 0, to = 0] = timeframe.span;
  const days = Math.ceil((to - from) / minutesADay);
  const span = timelines.number(timeframe.span);
  // Rows and timelines of people who carry several cards are not asked about: without them, what is asked about lies closer together.
  const numbers = new Int32Array(timelines.size);
  const sets: IntervalSet[] = [nothing];
  const numberOf = (timeline: TimelineNumber): number => {
    if (timeline !== never && numbers[timeline] === 0) numbers[timeline] = sets.push(timelines.set(timeline)) - 1;
    return numbers[timeline] as number;
  };
  const { slots, codes } = rowSlots(rows, rowOfCredential, compiled.doors.length, numberOf);
  const bounded: number[] = [];
  const codeOrBounded = (credential: Position): number => {
    const code = codes[rowOfCredential[credential] as number] as number;
    return liveOfCredential[credential] === span ? code : -(bounded.push(code, numberOf(liveOfCredential[credential] as number)) >> 1);
  };
  const credentials = byId(compiled.facility.credentials, codeOrBounded);
  return {
    credentials,
    bounded: Int32Array.from(bounded),
    doors: byId(compiled.facility.doors, (door) => door),
    slots,
    from,
    to,
    days,
    ...layOutDays(sets, from, days),
  };
}

function holds({ from, days, dayOfTimeline, minutes }: VerdictIndex, timeline: TimelineNumber, minute: number): boolean {
  const since = minute - from;
  const day = (since / minutesADay) | 0;
  const ofDay = since - day * minutesADay;
  return (((minutes[(dayOfTimeline[timeline * days + day] as number) * wordsADay + (ofDay >> 5)] as number) >>> (ofDay & 31)) & 1) === 1;
}

/** Whether a credential opens a door at a minute of the reading, by the ids of the document; false for ids that it does not hold, and outside the reading. */
export function opensById(index: VerdictIndex, credential: string, door: string, minute: EpochMinute): boolean {
  const who = index.credentials[credential];
  const where = index.doors[door];
  if (who === undefined || where === undefined || minute < index.from || minute >= index.to) return false;
  const { slots, bounded } = index;
  const other = -1 - who;
  const timeline = lineInSlots(slots, who >= 0 ? who : (bounded[other * 2] as number), where);
  return holds(index, timeline, minute) && (who >= 0 || holds(index, bounded[other * 2 + 1] as number, minute));
}
