import type { Readable } from "node:stream";

/** A file, or a folder of files, that somebody brings. */
export interface SourceFile {
  /** What it was called where it comes from; tells nothing of where it lies. */
  readonly name: string;
  readonly path: string;
  readonly isFolder: boolean;
  readonly bytes: number;
  readonly text: () => Promise<string>;
  readonly stream: () => Readable;
  /** SHA-256 of its bytes, in hexadecimal. */
  readonly hash: () => Promise<string>;
}

/** What a bundle was before its PINs were taken out of it: hashes of the whole and of each file, for whoever compares. */
export interface OriginalHashes {
  readonly bundle: string;
  readonly files: Readonly<Record<string, string>>;
}

/** Files that are brought, and what is kept beside one while it waits to be stored. */
export interface SourceFiles {
  readonly open: (path: string, name: string) => Promise<SourceFile>;
  /** Keeps the refused rows of a file as CSV, to be sent back to whoever made it; nothing is kept beside a folder. */
  readonly keepRefusedRows: (file: SourceFile, csv: string) => Promise<void>;
  /** The hashes that a bundle had before its PINs were taken out; undefined where it had none. */
  readonly originalHashes: (file: SourceFile) => Promise<OriginalHashes | undefined>;
  /** Puts other bytes in the place of a bundle's, in one step, and keeps the hashes that it had. */
  readonly replace: (file: SourceFile, bytes: Uint8Array, originals: OriginalHashes) => Promise<void>;
  /** Takes a file away, with all that is kept beside it. */
  readonly drop: (path: string) => Promise<void>;
}

/** A file that waits between being shown and being stored. */
export interface WaitingFile {
  /** The secret by which it is found again. */
  readonly token: string;
  readonly path: string;
  readonly name: string;
}

/** Files between being shown and being stored. One that somebody uploaded and forgot goes after a day; what arrived by itself stays until somebody looks. */
export interface Uploads {
  /** Throws `TooLarge` past the limit; nothing is kept of a file that breaks off. */
  readonly keep: (body: ReadableStream<Uint8Array>, name: string) => Promise<WaitingFile>;
  /** Keeps one of several files that are brought together: of those that wait by a token, or the first of new ones. All of them keep to the limit. */
  readonly keepWith: (token: string | undefined, body: ReadableStream<Uint8Array>, name: string) => Promise<WaitingFile>;
  /** Keeps a file or a folder that lies on this machine already, for as long as it waits: it is moved. */
  readonly adopt: (path: string, name: string) => Promise<WaitingFile>;
  /** Keeps texts as files of a folder, for as long as they wait. */
  readonly keepTexts: (name: string, texts: readonly { readonly name: string; readonly text: string }[]) => Promise<WaitingFile>;
  /** Undefined where there is none by this token. */
  readonly find: (token: string) => Promise<WaitingFile | undefined>;
  /** The refused rows of a file as CSV; undefined where there are none. */
  readonly refusedRows: (file: WaitingFile) => Promise<string | undefined>;
  readonly drop: (file: WaitingFile) => Promise<void>;
}

/** Thrown while a file is received that is larger than may be uploaded. */
export class TooLarge extends Error {
  constructor(name: string, megabytes: number) {
    super(
      `${name} is larger than ${megabytes.toLocaleString("en-GB")} MB, the largest file that may be uploaded here; nothing was kept. A larger one is taken in from the command line.`,
    );
  }
}
