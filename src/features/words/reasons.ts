import { unreachable } from "@/core/kernel/invariant";
import type { PathState } from "@/core/paths/trace";
import type { Reason } from "@/core/paths/verdict";

/** Why a door does not open, as a clause. */
export function reasonWords(reason: Reason): string {
  switch (reason) {
    case "open":
      return "opens";
    case "unknown-credential":
      return "there is no such credential";
    case "unknown-door":
      return "there is no such door";
    case "credential-inactive":
      return "the credential is not active then";
    case "cardholder-inactive":
      return "the cardholder is not active then";
    case "not-yet-valid":
      return "not valid yet at that time";
    case "expired":
      return "expired by that time";
    case "site-excluded":
      return "not known at this site";
    case "blocked":
      return "a block is in force";
    case "no-grant":
      return "no grant reaches this door";
    case "grant-not-in-force":
      return "no grant is in force then";
    case "closed-holiday":
      return "shut because of the holiday";
    case "closed-schedule":
      return "outside the hours granted";
    case "cardholder-hours":
      return "outside the person's own hours";
    case "lockdown":
      return "shut in a lockdown";
    case "entry-unmet":
      return "lacks what the door asks for";
    case "via-closed":
      return "the way to it is shut";
    default:
      return unreachable(reason);
  }
}

/** What a path does at the asked time. */
export function pathStateWords(state: PathState): string {
  switch (state) {
    case "open":
      return "open then";
    case "blocks":
      return "shuts it then";
    case "not-yet-in-force":
      return "not yet in force";
    case "no-longer-in-force":
      return "no longer in force";
    case "closed-holiday":
      return "shut by the holiday";
    case "closed-schedule":
      return "shut then";
    case "cardholder-hours":
      return "outside own hours";
    case "not-in-lockdown":
      return "shut in a lockdown";
    default:
      return unreachable(state);
  }
}
