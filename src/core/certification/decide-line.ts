import type { Result } from "../kernel/result";
import { failure, success } from "../kernel/result";
import type { CredentialLife } from "./line";
import { isAsleep } from "./line";
import { saysSomething, writtenReason } from "./reason";

/**
 * What stays of a line that is narrowed: the hours of one of the register's schedules, up to and including a last date (of the facility's zone), or
 * both; or all of its doors but some.
 */
export type Narrowing =
  | {
      readonly kind: "hours";
      readonly schedule?: string;
      /** What the register calls it when the line is decided. */
      readonly scheduleName?: string;
      readonly until?: string;
    }
  | { readonly kind: "doors"; readonly shut: readonly string[] };

/** What was decided on a line, and why. `to` is the docket of the certifier to whom it was passed on. */
export type DecidedLine = { readonly reason: string } & (
  | { readonly decision: "keep" | "withdraw" }
  | { readonly decision: "narrow"; readonly narrowing: Narrowing }
  | { readonly decision: "pass-on"; readonly to: number }
);

export type Decision = DecidedLine["decision"];

export type DecisionRefusal =
  | "reason-needed"
  | "task-needed"
  | "docket-signed"
  | "not-yours"
  | "about-yourself"
  | "passed-on-already"
  | "nothing-to-narrow"
  | "not-a-certifier"
  | "round-closed"
  | "taken-up";

/** What is known of a line and its docket when a decision on it is asked for. */
export interface LineState {
  readonly flagged: boolean;
  readonly signed: boolean;
  readonly mine: boolean;
  /** Whether it is about a definition, of which nothing can stay in part; what needs changing is said in words. */
  readonly isDefinition?: boolean;
  /** Whether it is about whoever decides: nobody certifies themself. */
  readonly aboutDecider?: boolean;
  /** Whether somebody passed it on: it is not passed on again. */
  readonly wasPassedOn?: boolean;
  readonly closed?: boolean;
}

/**
 * A decision on a line: refused on a docket that is signed or somebody else's, on a line about whoever decides, and without a reason that says more than
 * "ok" where a flagged line stays, whole or narrowed, or a definition needs changing.
 */
export function decideLine<D extends DecidedLine>(state: LineState, asked: D): Result<D, DecisionRefusal> {
  if (!state.mine) return failure("not-yours");
  if (state.signed) return failure("docket-signed");
  if (state.closed) return failure("round-closed");
  if (state.aboutDecider && asked.decision !== "pass-on") return failure("about-yourself");
  if (state.wasPassedOn && asked.decision === "pass-on") return failure("passed-on-already");
  const reason = writtenReason(asked.reason);
  if (state.isDefinition && asked.decision === "narrow") return failure("nothing-to-narrow");
  if (state.isDefinition && asked.decision === "withdraw" && !saysSomething(reason)) return failure("task-needed");
  if (state.flagged && (asked.decision === "keep" || asked.decision === "narrow") && !saysSomething(reason)) return failure("reason-needed");
  return success({ ...asked, reason });
}

/**
 * Whether a line may be kept together with others: nothing speaks against it, and the certifier kept it just so last time, or at least half of the peers
 * have the same.
 */
export const isUnremarkable = (line: {
  readonly findings: readonly unknown[];
  readonly life: CredentialLife | undefined;
  readonly peers: { readonly same: number; readonly of: number } | undefined;
  readonly keptBefore?: string;
}): boolean =>
  line.findings.length === 0 &&
  !isAsleep(line.life) &&
  (line.keptBefore !== undefined || (line.peers !== undefined && line.peers.of > 0 && 2 * line.peers.same >= line.peers.of));
