import type { Decision } from "@/core/certification/decide-line";
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
  /** Sign-in name and name of who signed. */
  readonly signer: { readonly signIn: string; readonly name: string } | undefined;
  readonly statement: string | undefined;
  readonly hash: string | undefined;
  readonly lines: readonly { readonly id: number; readonly content: unknown; readonly decision: Decision | undefined; readonly reason: string }[];
  readonly orders: readonly { readonly id: number; readonly line: number }[];
  /** SHA-256 of its orders as they are stored. */
  readonly ordersHash: string;
}

/** What is read to be compared with the record; all of it of one moment, since others may write meanwhile. */
export interface Verification {
  /** By what they are on, the latest entries of a kind; undefined values are those that are not there any more. */
  readonly latest: (what: string) => Promise<ReadonlyMap<string, LatestEntry>>;
  readonly snapshots: () => Promise<readonly { readonly id: number; readonly hash: string }[]>;
  readonly head: () => Promise<number | undefined>;
  /** How many rows of the register a snapshot has, and sentences that name the tables whose rows are not those of its facility. */
  readonly registerRows: (snapshot: number, facility: Facility) => Promise<{ readonly rows: number; readonly different: readonly string[] }>;
  readonly dockets: () => AsyncIterable<StoredDocket>;
  readonly accounts: () => Promise<
    readonly { readonly signIn: string; readonly name: string; readonly role: string; readonly cardholder: string | undefined }[]
  >;
}
