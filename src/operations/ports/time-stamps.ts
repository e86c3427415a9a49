/** A head of the record. */
export interface RecordHead {
  readonly number: number;
  /** SHA-256 in hexadecimal. */
  readonly hash: string;
}

/** A time stamp over a head of the record, as it is kept: when it was made by the authority's clock, or why it says nothing. */
export interface KeptStamp extends RecordHead {
  readonly at?: string;
  readonly problem?: string;
}

/** A time stamp as files, for whoever checks it elsewhere: the stamped text, the authority's answer, and the certificates that are trusted here. */
export interface StampFiles extends RecordHead {
  readonly text: string;
  readonly response: Uint8Array;
  readonly certificates: string;
}

/** Thrown where the authority cannot be reached, or what it gave says nothing. */
export class StampRefused extends Error {}

/** Time stamps by RFC 3161 over heads of the record: whoever owns the database cannot make one of an earlier time. */
export interface TimeStampStore {
  /** Whether an authority is set, so that heads are stamped. */
  readonly isSet: boolean;
  /** Has a head stamped, checks what came, and keeps it; gives the authority's time. */
  readonly stamp: (head: RecordHead) => Promise<string>;
  /** All that are kept, checked, by their numbers; undefined where there are some and no certificate is trusted. */
  readonly read: () => Promise<readonly KeptStamp[] | undefined>;
  /** The latest that is kept over an entry of these numbers, both included. */
  readonly latest: (from: number, until: number) => Promise<StampFiles | undefined>;
}
