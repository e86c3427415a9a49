import type { ChainState, RecordEntry } from "@/core/evidence/chain";

/** Who does something, as it stands in the record. */
export interface Actor {
  readonly signIn: string;
}

export const system: Actor = { signIn: "system" };

/** What is written into the record, within the transaction of the change that it speaks of. */
export interface Recorded {
  readonly what: string;
  readonly on: string;
  readonly before?: unknown;
  readonly after?: unknown;
}

/** An entry with what it says; undefined where that is not kept any more. */
export type StoredEntry = RecordEntry & { readonly content: string | undefined };

/** Which entries are asked for; what is left out plays no part. */
export interface AskedEntries {
  /** Those with numbers below this one. */
  readonly before?: number;
  /** Those of one code. */
  readonly what?: string;
  /** Those that have this in who, in what it was done to, or in what they say; those of `textAsWhat`, codes whose words have it, as well. */
  readonly text?: string;
  readonly textAsWhat?: readonly string[];
  /** Those of one sign-in name. */
  readonly who?: string;
  /** Those of these dates of UTC, `YYYY-MM-DD`, both included. */
  readonly from?: string;
  readonly until?: string;
  /** Those on one of these, or on something of one of them, as "line 4 of docket 2" is of "docket 2". */
  readonly on?: readonly string[];
  /** Those that speak of this finding. */
  readonly finding?: string;
  /** Those that speak of this object of the register. */
  readonly object?: { readonly list: string; readonly id: string };
}

export interface RecordStore {
  readonly append: (who: Actor, at: string, recorded: Recorded) => Promise<void>;
  /** Entries that fit what is asked, the latest first. */
  readonly page: (asked: AskedEntries, limit: number) => Promise<StoredEntry[]>;
  /** Everybody who has an entry. */
  readonly people: () => Promise<string[]>;
  /** Every entry from the first of a kind on something on, in their order; none where there is no such entry. */
  readonly since: (what: string, on: string) => Promise<StoredEntry[]>;
  /** Walks the whole chain, its values, and the heads written beside the database. */
  readonly verify: () => Promise<RecordVerification>;
}

export type RecordVerification =
  | {
      readonly sound: true;
      readonly count: number;
      readonly head: string;
      /** Entries that had values which are not there any more, by their numbers. */
      readonly withoutValues: readonly number[];
      /** What could not be compared, in sentences: heads that are missing, or torn. */
      readonly notes: readonly string[];
    }
  | { readonly sound: false; readonly chain: ChainState; readonly why: string };
