import type { CompiledFacility } from "../compile/compiled-facility";
import { instantOf } from "../facility/time-rules";
import { askVerdict } from "../paths/trace";
import { isFree } from "../paths/verdict";
import type { Reason } from "../paths/verdict";
import { minuteDown } from "../time/instant";

/** A credential presented at a door at an instant, with what somebody expects the door to do. */
export interface Trial {
  readonly credential: string;
  readonly door: string;
  /** An instant of UTC on the minute: `YYYY-MM-DDTHH:MMZ`. */
  readonly at: string;
  readonly lockdown: boolean;
  readonly expected: "open" | "closed";
  readonly note: string;
}

/** What a door does for the credential by the record, beside what was expected. */
export interface TrialResult {
  readonly verdict: "open" | "closed";
  readonly reason: Reason;
  /** Whether the door stands free to anybody then, whatever is presented. */
  readonly isFree: boolean;
  readonly isAsExpected: boolean;
}

/** Tries a credential in a register. One that the register does not hold, or a door, stays shut, and says so. */
export function runTrial(compiled: CompiledFacility, { credential, door, at, lockdown, expected }: Trial): TrialResult {
  const [minute, mode] = [minuteDown(instantOf(at)), { lockdown, asIfLive: false }];
  const { verdict, reason } = askVerdict(compiled, { credential, door, at: minute, mode });
  const known = compiled.doors[compiled.doorById.get(door) ?? -1];
  return { verdict, reason, isFree: known !== undefined && isFree(compiled, known, minute, mode), isAsExpected: verdict === expected };
}
