/**
 * Something odd (`note`) or wrong (`error`) in a document. `path` is written `cardholders[3].until`; facts are what the
 * sentence shown to a person is made from.
 */
export interface DataIssue {
  readonly level: "error" | "note";
  readonly path: string;
  readonly code: ErrorCode | NoteCode;
  readonly facts: Readonly<Record<string, string | number>>;
}

export type ErrorCode = "not-json" | "malformed" | "unknown-reference" | "duplicate-id" | "loop";

export type NoteCode =
  | "empty-window"
  | "backward-range"
  | "priority-tie"
  | "empty-interval"
  | "repeated-reference"
  | "area-of-other-site";

export const problem = (path: string, code: ErrorCode, facts: DataIssue["facts"]): DataIssue => ({ level: "error", path, code, facts });
export const note = (path: string, code: NoteCode, facts: DataIssue["facts"]): DataIssue => ({ level: "note", path, code, facts });
