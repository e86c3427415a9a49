import type { Result } from "../kernel/result";
import { failure, success } from "../kernel/result";
import type { CredentialLife } from "./line";
import { isAsleep } from "./line";
import { writtenReason } from "./reason";

export type Decision = "keep" | "withdraw";

export interface DecidedLine {
  readonly decision: Decision;
  readonly reason: string;
}

export type DecisionRefusal = "reason-needed" | "docket-signed" | "not-yours";

/** What is known of a line and its docket when a decision on it is asked for. */
export interface LineState {
  readonly flagged: boolean;
  readonly signed: boolean;
  readonly mine: boolean;
}

/** A decision on a line: refused on a docket that is signed or somebody else's, and without a reason where a flagged line is kept. */
export function decideLine(state: LineState, asked: DecidedLine): Result<DecidedLine, DecisionRefusal> {
  if (!state.mine) return failure("not-yours");
  if (state.signed) return failure("docket-signed");
  const reason = writtenReason(asked.reason);
  if (state.flagged && asked.decision === "keep" && reason === "") return failure("reason-needed");
  return success({ decision: asked.decision, reason });
}

/** Whether a line may be kept together with others: nothing speaks against it, and at least half of the peers have the same. */
export const isUnremarkable = (line: {
  readonly findings: readonly unknown[];
  readonly life: CredentialLife | undefined;
  readonly peers: { readonly same: number; readonly of: number } | undefined;
}): boolean =>
  line.findings.length === 0 && !isAsleep(line.life) && line.peers !== undefined && line.peers.of > 0 && 2 * line.peers.same >= line.peers.of;
