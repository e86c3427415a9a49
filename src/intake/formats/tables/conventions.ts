import { formatClock, parseClock, parseCivilDay, formatCivilDay, civilDay, minutesADay } from "@/core/time/civil-day";
import { formatMinute, parseInstant } from "@/core/time/instant";
import { lastMinuteAtWallClock, minuteAtWallClock, zoneOf } from "@/core/time/zone";
import type { Loose } from "./tables";
import { asText } from "./tables";

/** How a source writes some things in a file, where that is not as here. */
export interface Conventions {
  /** The last minute of an interval is named as its end: 00:00–23:59 is the whole day. */
  readonly endsIncluded?: boolean;
  /** What an interval that ends before it starts means: the night over midnight, as here, or nothing at all. */
  readonly backwards?: "overnight" | "never";
  /** An `until` on this date or later means that there is no end. */
  readonly endless?: string;
  /** The order of day, month and year in dates such as 3.4.2026. */
  readonly dates?: "dmy" | "mdy";
  /** The zone of times that are written without an offset. */
  readonly zone?: string;
  /** PINs that mean that there is none, such as four zeros. */
  readonly noPin?: readonly string[];
}

const dateColumns = ["on", "from", "to", "until"];
/** Columns that hold instants, or may. */
const momentColumns = ["from", "until", "statusSince", "firstUse", "lastUse", "issuedAt", "asOf"];
const looseDate = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4})$/;
const localTimeForm = /^(\S+?)[T ](\d{1,2}:\d\d)(:\d\d(?:\.\d+)?)?$/;

/**
 * A time without an offset as an instant of a zone; any other text as it is. Of a time that comes twice the first is taken, or
 * the last for what ends.
 */
function instantIn(text: string, zone: string, order: Conventions["dates"], isEnd: boolean): string {
  const [, day = "", clock = "", seconds = ":00"] = localTimeForm.exec(text) ?? [];
  const date = parseCivilDay(order ? isoDate(day, order) : day);
  const minute = parseClock(clock.padStart(5, "0"), false);
  if (date === undefined || minute === undefined) return text;
  const at = (isEnd ? lastMinuteAtWallClock : minuteAtWallClock)(zoneOf(zone), date, minute);
  return formatMinute(at).replace("Z", `${seconds}Z`);
}

/** A date in the order that a source uses, as ISO 8601; any other text as it is, so that it is refused as what it is. */
function isoDate(text: string, order: "dmy" | "mdy"): string {
  const found = looseDate.exec(text);
  if (!found) return text;
  const [first, second, year] = [Number(found[1]), Number(found[2]), Number(found[3])];
  const [day, month] = order === "dmy" ? [first, second] : [second, first];
  if (month < 1 || month > 12 || day < 1 || day > 31) return text;
  const iso = formatCivilDay(civilDay(year, month, 1)).slice(0, 8) + String(day).padStart(2, "0");
  return parseCivilDay(iso) === undefined ? text : iso;
}

/** Whether a date or an instant lies on a date or after it. What is neither is left as it is, to be refused as what it is. */
function isOnOrAfter(text: string, date: string): boolean {
  const [, written = "", time = ""] = /^(\d{4}-\d{2}-\d{2})(T.*)?$/.exec(text) ?? [];
  const [found, bound] = [parseCivilDay(written), parseCivilDay(date)];
  return found !== undefined && bound !== undefined && found >= bound && (time === "" || parseInstant(text) !== undefined);
}

/** A row's values as they would be written here. `table` is the file's name among the tables. */
export function asWrittenHere(values: Loose, table: string, { endsIncluded, backwards, endless, dates, zone }: Conventions): Loose {
  const read: Loose = { ...values };
  // Of a block the shorter reading opens more.
  const isBlock = table === "grants" && values.effect === "block";
  if (zone !== undefined)
    for (const column of momentColumns)
      if (typeof read[column] === "string") read[column] = instantIn(read[column], zone, dates, (column === "until") !== isBlock);
  if (dates) for (const column of dateColumns) if (typeof read[column] === "string") read[column] = isoDate(read[column], dates);
  if (endless !== undefined && typeof read.until === "string" && isOnOrAfter(read.until, endless)) delete read.until;
  if (table !== "schedule-hours") return read;
  const [start, end] = [parseClock(asText(read.start), false), parseClock(asText(read.end), true)];
  if (start === undefined || end === undefined) return read;
  if (endsIncluded && end < minutesADay) read.end = formatClock(end + 1);
  if (backwards === "never" && end < start) {
    delete read.start;
    delete read.end;
  }
  return read;
}

export type Convention = keyof Conventions;

/** The conventions without which a row would read otherwise. A PIN that means none is not among them: it is sorted out before. */
export function conventionsThatChange(values: Loose, table: string, writes: Conventions): Convention[] {
  const read = JSON.stringify(asWrittenHere(values, table, writes));
  return (Object.keys(writes) as Convention[]).filter((convention) => {
    const { [convention]: _left, ...others } = writes;
    return JSON.stringify(asWrittenHere(values, table, others)) !== read;
  });
}
