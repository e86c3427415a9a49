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

export interface RecordStore {
  readonly append: (who: Actor, at: string, recorded: Recorded) => Promise<void>;
  /** Entries with numbers below `before` (all, if undefined), the latest first. */
  readonly page: (before: number | undefined, limit: number) => Promise<StoredEntry[]>;
  /** Walks the whole chain, its values, and the heads written beside the database. */
  readonly verify: () => Promise<RecordVerification>;
}

export type RecordVerification =
  | {
      readonly sound: true;
      readonly count: number;
      readonly head: string;
      /** How many entries had values that are not there any more. */
      readonly withoutValues: number;
      /** What could not be compared, in sentences: heads that are missing, or torn. */
      readonly notes: readonly string[];
    }
  | { readonly sound: false; readonly chain: ChainState; readonly why: string };
