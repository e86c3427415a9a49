import type { Where, Who } from "../questions/question";
import type { When } from "../questions/when";

/** What must be of those who open something at a time. */
export type Demand =
  /** Nobody of whom it speaks opens it then. */
  | { readonly must: "none" }
  /** Only they open it then. */
  | { readonly must: "only" }
  /** Nobody of them opens both places then. */
  | { readonly must: "not-both"; readonly other: Where }
  /** At every minute of the time so many of them open it. */
  | { readonly must: "at-least"; readonly count: number }
  /** Not more of them than so many open it, at whichever minute of the time. */
  | { readonly must: "at-most"; readonly count: number };

/** Of whom, where and when a house rule speaks. */
export interface HouseQuestion {
  /** Undefined for everybody. */
  readonly who: Who | undefined;
  readonly where: Where;
  readonly when: When;
}

/** What must always be so, written as a question of who, where and when. Judged over the minutes ahead, in ordinary mode. */
export interface HouseRule {
  readonly id: string;
  readonly name: string;
  readonly demand: Demand;
  /** Undefined where its words mean nothing in a register, such as a holiday that its calendars no longer have. */
  readonly asks: HouseQuestion | undefined;
}
