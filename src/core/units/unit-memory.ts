import type { EntryRule } from "../facility/document";

/**
 * What a unit at the doors holds: all that it decides by. Minutes are whole minutes since 1970-01-01T00:00Z, rows hold minutes of the day on the wall clock of
 * the door. Nothing in it is reckoned from the register again: a unit that was never sent anything, or only half of it, holds just that.
 */
export interface UnitMemory {
  readonly doors: readonly HeldDoor[];
  /** Dates that are not ordinary for this unit, `YYYY-MM-DD`, sorted, each with the number of its kind. */
  readonly dates: readonly HeldDate[];
  readonly sets: readonly HeldSet[];
  readonly lists: readonly HeldList[];
  /** Sorted by id. */
  readonly cards: readonly HeldCard[];
}

/** Ranges `[from, to)` of minutes of the day, 0..1440, sorted, apart from each other. */
export type HeldRow = readonly (readonly [from: number, to: number])[];

export interface HeldDate {
  readonly date: string;
  readonly kind: number;
}

/** A weekly set: what is open on each weekday, Monday first, and on dates of some kinds instead. */
export interface HeldSet {
  readonly id: number;
  readonly week: readonly HeldRow[];
  /** Rows by the number of a kind of date; on dates of a kind without one the weekday's row counts. */
  readonly kinds: Readonly<Record<string, HeldRow>>;
}

/** A weekly set as long as it counts: from `from` up to, not including, `until`; a missing bound is none. */
export interface HeldTimes {
  readonly set: number;
  readonly from?: number;
  readonly until?: number;
}

export interface HeldRight extends HeldTimes {
  readonly door: string;
  /** It counts in a lockdown as well. */
  readonly inLockdown?: true;
}

/** Rights that several cards have in common. */
export interface HeldList {
  readonly id: number;
  readonly rights: readonly HeldRight[];
}

export interface HeldCard {
  /** The id of the credential in the register. */
  readonly id: string;
  readonly list: number;
  readonly number?: string;
  readonly facilityCode?: string;
  readonly from?: number;
  readonly until?: number;
  /** A PIN alone, which no reader of cards reads. */
  readonly isPin?: true;
  readonly hasPin?: true;
  readonly pinExempt?: true;
  readonly firstIn?: true;
  readonly passbackExempt?: true;
}

export interface HeldDoor {
  readonly id: string;
  readonly timeZone: string;
  /** Where it leads from and to, for units that see to it that nobody enters twice. */
  readonly from?: string;
  readonly area?: string;
  /** What has to be presented, unless one of `rules` says otherwise. */
  readonly entry: EntryRule;
  readonly rules: readonly { readonly entry: EntryRule; readonly times: readonly HeldTimes[] }[];
  /** When it stands open to anybody. */
  readonly free: readonly HeldTimes[];
  /** It stands free only once somebody who may start the day has come in. */
  readonly needsFirstIn?: true;
}

/** What a small unit can hold; what is missing has no limit. */
export interface UnitLimits {
  readonly cards?: number;
  readonly sets?: number;
  /** Ranges in one row of a weekly set. */
  readonly rangesPerRow?: number;
  /** Kinds of dates, and dates ahead. */
  readonly kinds?: number;
  readonly dates?: number;
  /** Rights of one card. */
  readonly rightsPerCard?: number;
  /** How finely it knows when a card begins and ends: by the minute (if not said), by the day, or not at all. */
  readonly windows?: "minute" | "day" | "none";
}

/** Which way to err where a unit cannot hold what the register says: to open less, or more. */
export type UnitErring = "less" | "more";

export const emptyMemory: UnitMemory = { doors: [], dates: [], sets: [], lists: [], cards: [] };
