import type { Change } from "@/core/certification/withdrawal";
import { unreachable } from "@/core/kernel/invariant";

/** An order in the source's terms, by ids. */
export function orderWords(change: Change): string {
  switch (change.kind) {
    case "end-grant":
      return `End grant ${change.grant}`;
    case "end-membership":
      return `Take ${change.cardholder} out of group ${change.group}`;
    case "end-override":
      return `End the standing override of ${change.cardholder}`;
    case "end-credential":
      return `Return credential ${change.credential}`;
    case "add-block":
      return `Block ${change.cardholder} from ${change.doors.join(", ")}`;
    default:
      return unreachable(change);
  }
}
