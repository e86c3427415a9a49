import type { FindingFacts } from "../findings/finding";
import type { DoorUse } from "../findings/use";
import type { CivilDay } from "../time/civil-day";
import type { IntervalSet } from "../time/intervals";

/**
 * What a line is about: the doors into one area, or those of a site that lead into none, as they open at present; or a
 * credential, where something speaks against it or it would open more if it were awake.
 */
export interface LineSubject {
  readonly kind: "area" | "site" | "credential";
  readonly id: string;
  readonly name: string;
}

/** Doors of a line that open at the same times. */
export interface LineHours {
  readonly doors: readonly { readonly id: string; readonly name: string }[];
  readonly words: string;
  /** The same in German; lines of rounds that were opened before there was any have English words only. */
  readonly german?: string;
  /** An ordinary week, minutes 0..10080 from Monday. */
  readonly week: IntervalSet;
  /** What of it lies outside the business hours of the doors' sites, as these were set when the round opened; lines of earlier rounds do not say. */
  readonly outside?: IntervalSet;
}

/** A local time in the facility's zone; without a clock where it is the turn of a date. */
export interface LifeBound {
  readonly date: CivilDay;
  readonly minuteOfDay?: number;
}

/**
 * What is to be said of a credential's life: it is live throughout the 13 months; it ends by itself, `last` being the last date or the minute
 * before which; it begins by itself; or it is asleep, neither live nor beginning by itself, and would open places that its holder does not open
 * otherwise, were it made active again.
 */
export type CredentialLife =
  | { readonly kind: "live" }
  | { readonly kind: "ends"; readonly last: LifeBound }
  | { readonly kind: "begins"; readonly first: LifeBound }
  | {
      readonly kind: "asleep";
      readonly places: string | undefined;
      /** The same as names, the most sensitive first, and how many there are besides; lines of earlier rounds have English words only. */
      readonly placeNames?: readonly string[];
      readonly morePlaces?: number;
    };

/** What speaks against a line: facts with the names of then; of lines made before findings were kept as facts, the sentence. */
export type LineFinding = { readonly fingerprint: string; readonly risk: number } & (
  { readonly sentence: string } | { readonly facts: FindingFacts; readonly names: Readonly<Record<string, string>> }
);

/**
 * Since when somebody opens some door of a line: at each of the snapshots that were looked at, from that of `from` on. `notYet` is that of the snapshot
 * before, by which they opened none; left out where it was not looked further back. Local dates of the exports.
 */
export interface Since {
  readonly from: string;
  readonly notYet?: string;
}

/** One decision that a person can understand, as it is frozen when the round opens. */
export interface Line {
  /** The cardholder; undefined for a credential without one. */
  readonly cardholder: string | undefined;
  /** The credential, where it has no cardholder. */
  readonly credential: string | undefined;
  readonly subject: LineSubject;
  readonly sensitivity: number;
  /** Whether a standing override of the holder covers all doors of the line. */
  readonly override: boolean;
  readonly hours: readonly LineHours[];
  /** Of a line about a credential; undefined for others. */
  readonly life: CredentialLife | undefined;
  readonly use: DoorUse;
  /** How many other members of the department open the same doors of the subject at the same times of an ordinary week. */
  readonly peers: { readonly same: number; readonly of: number } | undefined;
  readonly findings: readonly LineFinding[];
  /** Since when they open a door of it, as far as was looked back; left out where there is no earlier snapshot, and of lines about a credential. */
  readonly since?: Since;
  /** When the same certifier kept it last, signed, if it says the same as then: an ISO text of UTC. Left out where they did not. */
  readonly keptBefore?: string;
}

/** Whether a credential is asleep: not live, and would open something if it were that its holder does not open otherwise. */
export const isAsleep = (life: CredentialLife | undefined): boolean => life?.kind === "asleep" && life.places !== undefined;
