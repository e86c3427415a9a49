import { addDays } from "../time/civil-day";
import type { CivilDay, Weekday } from "../time/civil-day";
import type { PartsOfDay } from "./when-context";
import type { Token } from "./when-tokens";
import type { DayFilter, HoursOfDay, LocalTime } from "./when";

/** What some tokens say by themselves. */
export type Piece =
  | { readonly says: "date"; readonly date: CivilDay; readonly weekdayOnly?: boolean; readonly holiday?: string }
  | { readonly says: "dates"; readonly from: CivilDay; readonly to: CivilDay; readonly week?: boolean }
  | { readonly says: "span"; readonly from: LocalTime; readonly to: LocalTime }
  | { readonly says: "days"; readonly days: DayFilter }
  | { readonly says: "hours"; readonly hours: HoursOfDay; readonly recurs: boolean; readonly tonight?: boolean }
  | { readonly says: "clock"; readonly minuteOfDay: number }
  | { readonly says: "midnight" }
  | { readonly says: "now" }
  | { readonly says: "any" }
  | { readonly says: "nothing" };

/** What stands in the way of one meaning. */
export type Obstacle =
  | { readonly why: "two-readings"; readonly text: string; readonly readings: readonly [string, string] }
  | { readonly why: "impossible-date"; readonly text: string }
  | { readonly why: "other-weekday"; readonly text: string; readonly weekday: Weekday }
  | { readonly why: "backward"; readonly text: string };

export type Found = { readonly piece: Piece; readonly used: number } | { readonly obstacle: Obstacle; readonly used: number } | undefined;

/** What pieces are read against at a site. */
export interface PieceContext {
  readonly today: CivilDay;
  readonly parts: PartsOfDay;
  /** Day types and names of holidays of the calendars, each as the words that name it. */
  readonly dayTypes: readonly (readonly [words: readonly string[], dayType: string])[];
  readonly holidays: readonly (readonly [words: readonly string[], name: string])[];
}

/** Why a typed time has no one meaning. */
export interface WhenRefusal {
  /** What was understood by itself, and what was not, as it was typed. */
  readonly understood: readonly string[];
  readonly notUnderstood: readonly string[];
  /** What is in the way of a part that was understood. */
  readonly obstacle?: Obstacle;
}

/** A piece with the words that say it. */
export interface SaidPiece {
  readonly piece: Piece;
  readonly text: string;
}

/** Whether a token is one of some words. */
export const isWord = (token: Token | undefined, ...words: readonly string[]): boolean => token?.kind === "word" && words.includes(token.text);

/** A local time; 24:00 is the beginning of the next date. */
export const timeOf = (date: CivilDay, minuteOfDay: number): LocalTime =>
  minuteOfDay >= 1440 ? { date: addDays(date, 1), minuteOfDay: minuteOfDay - 1440 } : { date, minuteOfDay };
