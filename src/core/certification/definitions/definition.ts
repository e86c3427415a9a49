import type { Cardholder, Credential } from "../../facility/document";
import type { IntervalSet } from "../../time/intervals";
import type { LineFinding } from "../line";

/**
 * What is certified beside who has which access: what a level opens, what stands open to everybody, which days are holidays, the cards in stock, and
 * privileges.
 */
export const definitionKinds = ["level", "unlocking", "calendar", "stock", "privilege"] as const;
export type DefinitionKind = (typeof definitionKinds)[number];

/** Privileges of a person that auditors ask about first. */
export const privileges = [
  "override",
  "lockdownPass",
  "pinExempt",
  "extraTime",
  "holdOpen",
  "passbackExempt",
  "firstIn",
] as const satisfies readonly (keyof Cardholder)[];
export type Privilege = (typeof privileges)[number];

/** `id` tells it from others of its kind; `name` is that of the object, or the id where only words can say it (a privilege, a kind of card). */
export interface DefinitionSubject {
  readonly kind: DefinitionKind;
  readonly id: string;
  readonly name: string;
}

export interface Named {
  readonly id: string;
  readonly name: string;
}

/** Doors that a definition opens at the same times: the first few, and how many. */
export interface DefinedHours {
  readonly doors: readonly Named[];
  readonly count: number;
  readonly words: string;
  readonly german: string;
  /** The zone on whose clock these hours are. */
  readonly zone: string;
  /** An ordinary week, minutes 0..10080 from Monday. */
  readonly week: IntervalSet;
  /** What of it lies outside the business hours of the doors' sites, as these were set when the round opened; lines of earlier rounds do not say. */
  readonly outside?: IntervalSet;
}

/** The first few of a list, and how many it has. */
export interface FirstNames {
  readonly names: readonly string[];
  readonly count: number;
}

/** Numbers that follow on each other, as they come in a box. */
export interface NumberRange {
  readonly facilityCode?: string;
  readonly first: string;
  readonly last: string;
  readonly count: number;
}

/** Dates that follow on each other, of which a calendar says the same; `to` is the last, the first itself where it is one date. */
export interface MarkedSpan {
  readonly from: string;
  readonly to: string;
  readonly name: string;
  readonly dayType: string;
}

/** What somebody certifies, as it is frozen when the round opens; lists are cut, and what was cut is counted. */
export type Definition =
  | {
      readonly kind: "level";
      readonly hours: readonly DefinedHours[];
      readonly moreHours: number;
      readonly doors: number;
      /** What it does at doors beside opening them. */
      readonly actions: readonly { readonly action: string; readonly doors: number }[];
      /** Who has it at some time in the coming 13 months. */
      readonly people: FirstNames;
    }
  | {
      readonly kind: "unlocking";
      readonly hours: readonly DefinedHours[];
      readonly moreHours: number;
      readonly doors: number;
      /** Doors that unlock only once somebody has come in. */
      readonly afterFirstIn: number;
    }
  | {
      readonly kind: "calendar";
      /** How many dates of the coming 13 months are no ordinary days, and all of them: those that follow on each other and say the same as one span. */
      readonly count: number;
      readonly dates: readonly MarkedSpan[];
      readonly sites: readonly string[];
      readonly doors: number;
      /** People of whom it counts wherever they go. */
      readonly people: FirstNames;
    }
  | {
      readonly kind: "stock";
      readonly of: Credential["kind"];
      readonly states: readonly { readonly status: Credential["status"]; readonly count: number; readonly opening: number }[];
      readonly ranges: readonly NumberRange[];
      readonly moreRanges: number;
      /** Where those would let somebody in who had them, the most sensitive first. */
      readonly places: FirstNames;
    }
  | {
      readonly kind: "privilege";
      readonly privilege: Privilege;
      readonly people: FirstNames;
      /** How many of them open anything in the coming 13 months. */
      readonly opening: number;
    };

/** What a definition says of one of its parts. */
export type PartSays =
  | { readonly kind: "hours"; readonly words: string; readonly german: string; readonly actions: readonly string[] }
  | { readonly kind: "day"; readonly name: string; readonly dayType: string }
  | { readonly kind: "status"; readonly status: Credential["status"] }
  | { readonly kind: "sites"; readonly sites: "all" | readonly string[] }
  | { readonly kind: "has" };

/** Something that came to a definition, went from it, or is otherwise than it was. */
export type DefinitionChange = { readonly part: Named } & (
  | { readonly do: "added"; readonly is: PartSays }
  | { readonly do: "gone"; readonly was: PartSays }
  | { readonly do: "altered"; readonly was: PartSays; readonly is: PartSays }
);

/** How a definition is otherwise than when it was certified last. */
export interface SinceLastTime {
  /** When it was signed then: an ISO text of UTC. */
  readonly at: string;
  /** The first few, and how many there are in all. */
  readonly changes: readonly DefinitionChange[];
  readonly count: number;
}

/** A line of a docket that is about a definition: nobody's access alone. */
export interface DefinitionLine {
  readonly definition: Definition;
  readonly subject: DefinitionSubject;
  readonly sensitivity: number;
  /** The riskiest of what speaks against it, and how many findings there are besides. */
  readonly findings: readonly LineFinding[];
  readonly moreFindings?: number;
  /** Left out where it was not certified before. */
  readonly since?: SinceLastTime;
  /** When the same certifier found it right, if nothing changed since: an ISO text of UTC. */
  readonly keptBefore?: string;
}
