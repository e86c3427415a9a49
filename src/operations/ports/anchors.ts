/** A head of the record as it was written outside; without number and hash where its line is none. */
export interface Anchor {
  /** Line of the file, from 1. */
  readonly line: number;
  readonly at?: string;
  readonly number?: number;
  readonly hash?: string;
}

/** A file in a folder of the administrator's choice, on another machine if possible: whoever owns the database does not own it. */
export interface AnchorStore {
  /** Adds the present head of the record; nothing where no folder is set, or the last anchor is of this entry. */
  readonly write: (head: { readonly number: number; readonly hash: string }, at: string) => Promise<void>;
  /** All anchors; undefined where no folder is set. */
  readonly read: () => Promise<readonly Anchor[] | undefined>;
}
