import type { EpochMinute } from "@/core/time/instant";
import type { NamedDoor, NamedHolder, QuestionNames } from "./inquiry";

export interface ToldPlace {
  /** Undefined of outside. */
  readonly area: string | undefined;
  readonly name: string;
}

/** A way on foot: its doors one after the other. */
export interface ToldWay {
  readonly doors: readonly NamedDoor[];
  /** When all of them can be taken; undefined where a time is asked, and this says all there is to say. */
  readonly words: string | undefined;
}

/** What there is to draw: places, and the doors that lead from one to another. */
export interface DrawnPlan {
  readonly places: readonly (ToldPlace & { readonly state: "start" | "got-to" | "never"; readonly isAsked: boolean })[];
  /** By the number of places in the list; `isTaken` says whether any of the doors can be taken, `isOnWay` whether one is on a told way. */
  readonly passages: readonly {
    readonly from: number;
    readonly to: number;
    readonly doors: readonly string[];
    readonly isTaken: boolean;
    readonly isOnWay: boolean;
  }[];
  /** How many places are left out. */
  readonly more: number;
}

export interface RoutesOfOne {
  readonly kind: "one";
  readonly holder: NamedHolder;
  /** Undefined where no end is asked about. */
  readonly end:
    | {
        readonly steps: number | undefined;
        readonly words: string | undefined;
        readonly minutes: number;
        readonly ways: readonly ToldWay[];
        readonly areAll: boolean;
        /** Where they never get there: the way on which the fewest doors stay shut. */
        readonly shutWay: readonly { readonly door: NamedDoor; readonly isShut: boolean }[] | undefined;
      }
    | undefined;
  readonly places: readonly (ToldPlace & { readonly steps: number; readonly words: string | undefined })[];
  readonly morePlaces: number;
  /** Doors that they open and never get to. */
  readonly stranded: readonly NamedDoor[];
}

/** Somebody who gets through an asked door, and how. */
export interface RouteRow {
  readonly holder: NamedHolder;
  readonly steps: number;
  readonly last: readonly NamedDoor[];
  readonly minutes: number;
}

export interface RoutesOfSeveral {
  readonly kind: "several";
  readonly end:
    | {
        readonly arriving: number;
        readonly rows: readonly RouteRow[];
        /** How many come by how many doors at least. */
        readonly bySteps: readonly { readonly steps: number; readonly holders: number }[];
        /** Through which door last, the most first. */
        readonly byLast: readonly { readonly door: NamedDoor; readonly holders: number }[];
        /** Those who open an asked door and never get to one. */
        readonly never: readonly NamedHolder[];
        readonly neverCount: number;
      }
    | undefined;
  readonly places: readonly (ToldPlace & { readonly holders: number; readonly steps: number })[];
  readonly morePlaces: number;
}

/** What nobody could do any more if a door were out of use. */
export interface CutOff {
  readonly door: NamedDoor;
  /** Those who would no longer get through an asked door, where an end is asked about; else places that somebody would no longer get to. */
  readonly holders: readonly NamedHolder[];
  readonly holderCount: number;
  readonly places: readonly (ToldPlace & { readonly holders: number })[];
  readonly placeCount: number;
}

/** Where somebody can get in and finds no way out a minute later. */
export interface ToldShutIn {
  readonly place: ToldPlace;
  readonly holders: readonly NamedHolder[];
  readonly holderCount: number;
  /** The first such minute of the first of them, on the clock of the area's site. */
  readonly first: EpochMinute;
  readonly zone: string;
}

export interface RoutesAnswer {
  readonly names: QuestionNames;
  readonly askedHolders: number;
  /** Whether only the doors of some sites are known: ways that come past others are not told. */
  readonly isLimited: boolean;
  readonly askedDoors: number | undefined;
  /** Whether all doors together lead from outside to where is asked. */
  readonly isLedTo: boolean;
  readonly of: RoutesOfOne | RoutesOfSeveral;
  readonly shutIn: readonly ToldShutIn[];
  /** Whether a recorded way leads outside from any area, or from where is asked: else being shut in cannot be told. */
  readonly hasWaysOut: boolean;
  readonly cutOff: CutOff | undefined;
  readonly drawing: DrawnPlan;
  readonly asOf: EpochMinute;
}
