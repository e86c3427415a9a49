import type { UnitChange } from "./memory-changes";
import type { HeldCard, HeldDate, HeldDoor, HeldList, HeldSet, UnitLimits } from "./unit-memory";

/** What units speak; `docs/controllers.md` tells it in words. Times are instants of RFC 3339 in UTC, to the second. */
export const unitFormat = "nomade.unit/1";

/** An update under way or done: what memory it leads to, of how many steps, and how many of them were done. */
export interface UnitUpdate {
  readonly sum: string;
  readonly of: number;
  readonly done: number;
}

/** How a unit is. */
export interface UnitStatus {
  readonly format: string;
  readonly id: string;
  /** What its clock shows. */
  readonly clock: string;
  readonly limits: UnitLimits;
  /** SHA-256 of what it holds now. */
  readonly sum: string;
  readonly update?: UnitUpdate;
  readonly lockdown: boolean;
  /** Which run of numbers its events belong to, and the greatest that it has given and that was acknowledged. */
  readonly run: string;
  readonly last: number;
  readonly acknowledged: number;
}

export interface UnitEvent {
  /** From 1 on, without a gap, within a run. */
  readonly number: number;
  readonly at: string;
  readonly door: string;
  readonly card?: string;
  readonly cardNumber?: string;
  readonly facilityCode?: string;
  readonly granted: boolean;
  readonly reason: string;
}

export interface UnitEvents {
  readonly run: string;
  readonly events: readonly UnitEvent[];
  readonly more: boolean;
}

export interface UnitChanges {
  readonly update: Pick<UnitUpdate, "sum" | "of">;
  /** Number of the first of these steps, from 0 on. */
  readonly from: number;
  readonly changes: readonly UnitChange[];
}

/** A part of what a unit holds, in order; `sum` is that of all of it, so that who reads it in pieces sees when it changed in between. */
export interface MemoryPages {
  readonly doors: HeldDoor;
  readonly dates: HeldDate;
  readonly sets: HeldSet;
  readonly lists: HeldList;
  readonly cards: HeldCard;
}
export type MemoryPart = keyof MemoryPages;
export const memoryParts: readonly MemoryPart[] = ["doors", "dates", "sets", "lists", "cards"];

export interface MemoryPage<Part extends MemoryPart = MemoryPart> {
  readonly sum: string;
  readonly items: readonly MemoryPages[Part][];
  readonly more: boolean;
}
