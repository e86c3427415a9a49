import type { CivilDay } from "../time/civil-day";
import { weekdayNumber } from "../time/civil-day";
import type { HeldRow } from "./unit-memory";

/** A weekly pattern that counts on the dates from `first` to `last`, both included, and what it is on the dates that are unlike it. */
export interface DatedPattern {
  readonly week: readonly HeldRow[];
  readonly unlike: ReadonlyMap<CivilDay, HeldRow>;
  readonly first: CivilDay;
  readonly last: CivilDay;
}

/** Dates on which every pattern has a row of its own, or that of the weekday. */
export interface KindOfDates {
  readonly dates: CivilDay[];
  /** Rows by pattern; where there is none the weekday's counts. */
  readonly rows: Map<DatedPattern, HeldRow>;
}

export const rowKey = (row: HeldRow): string => row.map(([from, to]) => `${from}-${to}`).join(" ");

/** The row of a pattern on a date; undefined where it says nothing of it. */
function rowOn({ week, unlike, first, last }: DatedPattern, date: CivilDay): HeldRow | undefined {
  return date < first || date > last ? undefined : (unlike.get(date) ?? week[weekdayNumber(date)]);
}

const alike = (row: HeldRow | undefined, other: HeldRow): boolean => row === undefined || rowKey(row) === rowKey(other);

/**
 * Puts the dates that are unlike some pattern into as few kinds as can be seen step by step: a date joins the first kind with which all patterns agree. A
 * public holiday on a Monday and one on a Sunday so become one kind, and what changes on a date is not sent as a kind of its own.
 */
export function kindsOfDates(patterns: readonly DatedPattern[]): readonly KindOfDates[] {
  const unlikeOn = new Map<CivilDay, DatedPattern[]>();
  for (const pattern of patterns)
    for (const date of pattern.unlike.keys()) {
      const known = unlikeOn.get(date);
      if (known) known.push(pattern);
      else unlikeOn.set(date, [pattern]);
    }
  const kinds: KindOfDates[] = [];
  for (const date of [...unlikeOn.keys()].sort((a, b) => a - b)) {
    const those = unlikeOn.get(date) ?? [];
    const joins = ({ rows, dates }: KindOfDates): boolean =>
      [...rows].every(([pattern, row]) => alike(rowOn(pattern, date), row)) &&
      those.every((pattern) => {
        const row = pattern.unlike.get(date) ?? [];
        return rows.has(pattern) || dates.every((other) => alike(rowOn(pattern, other), row));
      });
    let kind = kinds.find(joins);
    if (!kind) kinds.push((kind = { dates: [], rows: new Map<DatedPattern, HeldRow>() }));
    kind.dates.push(date);
    for (const pattern of those) kind.rows.set(pattern, pattern.unlike.get(date) ?? []);
  }
  return kinds;
}
