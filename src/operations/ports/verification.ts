import type { LineDecision } from "./rounds";
import type { Facility } from "@/core/facility/facility";

/** The latest entry of a kind on something, as far as its values are still there. */
export interface LatestEntry {
  readonly number: number;
  readonly after: unknown;
}

/** A docket as it is stored, with what its signature is made of. */
export interface StoredDocket {
  readonly docket: number;
  readonly round: number;
  readonly snapshot: string;
  readonly signedAt: string | undefined;
  /** When it was closed without a signature. */
  readonly closedAt: string | undefined;
  /** Sign-in name and name of who signed. */
  readonly signer: { readonly signIn: string; readonly name: string } | undefined;
  readonly statement: string | undefined;
  readonly hash: string | undefined;
  readonly lines: readonly (LineDecision & {
    readonly id: number;
    readonly content: unknown;
    /** What the decision comes with, as it is stored. */
    readonly terms: string | undefined;
  })[];
  readonly orders: readonly { readonly id: number; readonly line: number }[];
  /** SHA-256 of the orders that its signature, or the closing of its round, made, as they are stored. */
  readonly ordersHash: string;
  /** Orders that were put in the place of these before they were sent, by their line. */
  readonly plannedAnew: readonly { readonly line: number; readonly orders: number; readonly hash: string }[];
}

/** What of an account is compared; `sites` as they are stored. */
export interface StoredAccount {
  readonly signIn: string;
  readonly name: string;
  readonly role: string;
  readonly cardholder: string | undefined;
  readonly sites: string | undefined;
}

/** What is read to be compared with the record; all of it of one moment, since others may write meanwhile. */
export interface Verification {
  /** By what they are on, the latest entries of a kind; undefined values are those that are not there any more. */
  readonly latest: (what: string) => Promise<ReadonlyMap<string, LatestEntry>>;
  readonly snapshots: () => Promise<readonly { readonly id: number; readonly hash: string; readonly isDropped: boolean }[]>;
  /** Dockets that were dropped with their round; their hashes stay. */
  readonly droppedDockets: () => Promise<readonly { readonly id: number; readonly hash: string | undefined }[]>;
  /** Entries whose values were let go, by the entry that says so. */
  readonly valuesGone: () => Promise<ReadonlyMap<number, readonly number[]>>;
  readonly head: () => Promise<number | undefined>;
  /** How many rows of the register a snapshot has, and sentences that name the tables whose rows are not those of its facility. */
  readonly registerRows: (snapshot: number, facility: Facility) => Promise<{ readonly rows: number; readonly different: readonly string[] }>;
  /** Dockets that were not dropped, with all that was signed in them, of one round where that is given. */
  readonly dockets: (round?: number) => AsyncIterable<StoredDocket>;
  readonly accounts: () => Promise<readonly StoredAccount[]>;
}
