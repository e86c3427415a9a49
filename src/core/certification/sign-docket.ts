import { canonicalJson } from "../facility/canonical-json";
import type { Result } from "../kernel/result";
import { failure, success } from "../kernel/result";
import type { Decision, Narrowing } from "./decide-line";

export interface SignableLine {
  readonly id: number;
  readonly decision: Decision | undefined;
  /** What stays of one that is narrowed, and the docket to which it was passed on. */
  readonly narrowing?: Narrowing | undefined;
  readonly passedTo?: number | undefined;
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

/** How many lines of a docket were decided in which way. */
export type DecisionCounts = Readonly<Record<Decision, number>>;

export interface Signature {
  /** What the certifier signs, in words. */
  readonly statement: string;
  readonly counts: DecisionCounts;
  /** The bytes whose SHA-256 is the docket's: canonical JSON of lines and decisions. */
  readonly signedText: string;
}

/** The text whose SHA-256 a signature bears. */
export const signedTextOf = (docket: SignableDocket, statement: string): string => canonicalJson({ ...docket, statement });

export function countDecisions(lines: readonly { readonly decision?: Decision | undefined }[]): DecisionCounts {
  const counts = { keep: 0, withdraw: 0, narrow: 0, "pass-on": 0 };
  for (const { decision } of lines) if (decision !== undefined) counts[decision]++;
  return counts;
}

/** The text to hash of a docket whose lines are all decided, under a statement in the certifier's own language; fails with how many are not. */
export function signDocket(docket: SignableDocket, stated: () => string): Result<Signature, { readonly undecided: number }> {
  const undecided = docket.lines.filter(({ decision }) => decision === undefined).length;
  if (undecided > 0) return failure({ undecided });
  const counts = countDecisions(docket.lines);
  const statement = stated();
  return success({ statement, counts, signedText: signedTextOf(docket, statement) });
}
