import { canonicalJson } from "../facility/canonical-json";
import type { Result } from "../kernel/result";
import { failure, success } from "../kernel/result";
import type { Decision } from "./decide-line";

export interface SignableLine {
  readonly id: number;
  readonly decision: Decision | undefined;
  readonly reason: string;
  /** The line as it was frozen. */
  readonly content: unknown;
}

export interface SignableDocket {
  readonly round: number;
  readonly docket: number;
  readonly snapshot: string;
  readonly certifier: string;
  readonly lines: readonly SignableLine[];
}

export interface Signature {
  /** What the certifier signs, in words. */
  readonly statement: string;
  readonly kept: number;
  readonly withdrawn: number;
  /** The bytes whose SHA-256 is the docket's: canonical JSON of lines and decisions. */
  readonly signedText: string;
}

/** The text whose SHA-256 a signature bears. */
export const signedTextOf = (docket: SignableDocket, statement: string): string => canonicalJson({ ...docket, statement });

/** The statement and the text to hash of a docket whose lines are all decided; fails with how many are not. */
export function signDocket(docket: SignableDocket, signer: string): Result<Signature, { readonly undecided: number }> {
  const undecided = docket.lines.filter(({ decision }) => decision === undefined).length;
  if (undecided > 0) return failure({ undecided });
  const kept = docket.lines.filter(({ decision }) => decision === "keep").length;
  const withdrawn = docket.lines.length - kept;
  const statement = `I, ${signer}, have looked at each of these ${docket.lines.length} lines. ${kept} ${kept === 1 ? "is" : "are"} needed and ${kept === 1 ? "stays" : "stay"}; ${withdrawn} ${withdrawn === 1 ? "is" : "are"} to be withdrawn.`;
  return success({ statement, kept, withdrawn, signedText: signedTextOf(docket, statement) });
}
