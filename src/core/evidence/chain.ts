import { canonicalJson } from "../facility/canonical-json";

/** One entry of the record. Entries are numbered from 1 without gaps; each holds the hash of the one before. */
export interface RecordEntry {
  readonly number: number;
  /** Instant of UTC, `YYYY-MM-DDTHH:MM:SS.mmmZ`. */
  readonly at: string;
  /** Sign-in name of who did it; "system" for the program itself. */
  readonly who: string;
  /** What was done, such as `intake.stored`. */
  readonly what: string;
  /** On what, such as `snapshot 3`. */
  readonly on: string;
  /** SHA-256 of the values before and after, which are kept apart so that they can be deleted; "" for none. */
  readonly valuesHash: string;
  readonly previousHash: string;
  readonly hash: string;
}

/** Hash "before" the first entry. */
export const chainStart = "0".repeat(64);

/** The text whose SHA-256 an entry bears: canonical JSON of everything in it but its own hash. */
export const entryText = ({ number, at, who, what, on, valuesHash, previousHash }: Omit<RecordEntry, "hash">): string =>
  canonicalJson({ number, at, who, what, on, valuesHash, previousHash });

/** The text of a head that is stamped and kept outside: canonical JSON of its number and its hash. */
export const headText = ({ number, hash }: Pick<RecordEntry, "number" | "hash">): string => canonicalJson({ number, hash });

export type ChainState =
  | { readonly whole: true; readonly count: number; readonly head: string }
  | { readonly whole: false; readonly number: number; readonly why: "number" | "previous-hash" | "hash" };

/** Walks entries in order of their numbers and names the first that does not fit; `digest` gives SHA-256 in hexadecimal. */
export function walkChain(entries: Iterable<RecordEntry>, digest: (text: string) => string): ChainState {
  let count = 0;
  let head = chainStart;
  for (const entry of entries) {
    if (entry.number !== count + 1) return { whole: false, number: count + 1, why: "number" };
    if (entry.previousHash !== head) return { whole: false, number: entry.number, why: "previous-hash" };
    if (digest(entryText(entry)) !== entry.hash) return { whole: false, number: entry.number, why: "hash" };
    count = entry.number;
    head = entry.hash;
  }
  return { whole: true, count, head };
}
