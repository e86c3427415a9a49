import type { Cardholder } from "../facility/document";
import type { When } from "./when";

/** Types of cardholders that can be asked about. */
export const cardholderTypes = ["employee", "contractor", "visitor", "tenant", "other"] as const satisfies readonly NonNullable<Cardholder["type"]>[];
export type CardholderType = (typeof cardholderTypes)[number];

/** Who: a person, a card, everybody of a group with those below, whoever holds a level or bundle, all of a type, or everybody. */
export type Who =
  | { readonly kind: "cardholder" | "credential"; readonly id: string }
  | { readonly kind: "group" | "level" | "bundle"; readonly id: string }
  | { readonly kind: "type"; readonly type: CardholderType }
  | { readonly kind: "everybody" };

/** Where: a door, a door group, the doors of a level, an area with those below, a site, everything from a sensitivity on, or anywhere. */
export type Where =
  | { readonly kind: "door" | "area"; readonly id: string }
  | { readonly kind: "doorGroup" | "level" | "site"; readonly id: string }
  | { readonly kind: "sensitivity"; readonly from: 1 | 2 | 3 }
  | { readonly kind: "anywhere" };

/** The forms among which whoever asks can choose, for questions about several people and several doors: people, doors, or people by doors. */
export const chosenForms = ["people", "doors", "sheet"] as const;
export type ChosenForm = (typeof chosenForms)[number];

/** What of a sheet can be taken together. */
export const sheetFolds = ["people", "doors", "both"] as const;
export type SheetFold = (typeof sheetFolds)[number];

/** A question of who opens where, when; what is left open is what is asked. */
export interface Question {
  readonly who: Who | undefined;
  readonly where: Where | undefined;
  readonly when: When;
  readonly lockdown: boolean;
  /** Whether it is also asked what would open if every card were live: this is told apart. */
  readonly asIfLive?: true | undefined;
  /** Number of the snapshot that is asked; undefined for the latest. */
  readonly snapshot?: number | undefined;
  /** Number of the draft whose changes count as made in the present register; no snapshot is named then. */
  readonly draft?: number | undefined;
  /** As what the answer is wanted, where there is a choice. */
  readonly form?: ChosenForm | undefined;
  /** What of a sheet is taken together: people by department, doors by area, or both. */
  readonly fold?: SheetFold | undefined;
}
