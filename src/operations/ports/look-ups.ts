/** What somebody looked at: what a person or a card opens, their page, or their events. */
export type LookedAt = "access" | "page" | "events";

export interface NewLookUp {
  readonly account: number;
  readonly what: LookedAt;
  readonly kind: "cardholder" | "credential";
  readonly id: string;
  /** What the register calls them; empty where it does not say. */
  readonly name: string;
}

export interface LookUp extends Omit<NewLookUp, "account"> {
  readonly number: number;
  readonly at: string;
  /** Name of the account that looked. */
  readonly by: string;
}

export interface LookUpStore {
  readonly note: (lookUp: NewLookUp, at: string) => Promise<void>;
  /** The latest first, from before a number on: those with a text in who looked, or at whom. */
  readonly page: (asked: { readonly text: string; readonly before: number | undefined }, limit: number) => Promise<LookUp[]>;
}
