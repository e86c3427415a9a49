import type { Actor } from "./record";

/** A house rule as it is written down: its question by the query of its address, times in words, and what must be of the answer. */
export interface WrittenHouseRule {
  readonly name: string;
  readonly must: "none" | "only" | "not-both" | "at-least" | "at-most";
  /** Who, where and when. */
  readonly query: string;
  /** The other place, as an address has it, of a rule that nobody opens both. */
  readonly other?: string | undefined;
  /** Of a rule about a number. */
  readonly count?: number | undefined;
}

export interface KeptHouseRule extends WrittenHouseRule {
  readonly id: number;
  readonly madeBy: string;
  readonly madeAt: string;
  /** Sign-in name of who asks that it no longer counts; a second person has to confirm that. */
  readonly endAskedBy: string | undefined;
}

export interface HouseRuleStore {
  /** Those that count, in the order in which they were written down. */
  readonly inForce: () => Promise<readonly KeptHouseRule[]>;
  /** Writes a rule down. Gives its number. */
  readonly add: (rule: WrittenHouseRule, who: Actor, at: string) => Promise<number>;
  /** Asks that a rule no longer counts, or takes that back; false where there is no such rule, or it is so already. */
  readonly askEnd: (id: number, asks: boolean, who: Actor, at: string) => Promise<boolean>;
  /** Ends a rule of which somebody else asked it; false where nobody else did. */
  readonly end: (id: number, who: Actor, at: string) => Promise<boolean>;
}
