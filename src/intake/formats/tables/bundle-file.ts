import type { Readable } from "node:stream";

/** A row, or a whole file, that cannot be taken in: where, what was found, why, and what was expected. */
export interface RefusedRow {
  readonly file: string;
  /** Line on which it begins, from 1; 0 for the whole file. */
  readonly line: number;
  readonly column: string;
  readonly value: string;
  readonly reason: string;
  /** More than this row is lost by it: the whole file, or all of it from here on. It cannot be left out and the rest taken. */
  readonly whole?: true;
}

/** A file that can be read from its beginning as often as is needed. */
export interface BundleFile {
  readonly name: string;
  readonly open: () => Promise<Readable>;
  /** Of a sheet of a workbook, the row in which a record stands, both from 1; the lines of a file are its own. */
  readonly rowOf?: (record: number) => number;
  /** A sheet that its workbook hides: off until somebody chooses it. */
  readonly isHidden?: boolean;
}
