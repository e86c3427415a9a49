import type { WaitReason } from "@/operations/ports/deliveries";
import { unreachable } from "@/core/kernel/invariant";
import { plural } from "./numbers";

/** Why something that arrived was not taken in by itself. */
export function waitWords(reason: WaitReason): string {
  switch (reason.code) {
    case "asked":
      return "collected on request";
    case "looks-first":
      return "everything from this source is reviewed first";
    case "needs-profile":
      return "nobody has said yet how it is written";
    case "no-moment":
      return "it does not say for which moment it speaks";
    case "failed":
      return "it could not be read to its end; the server’s messages say more";
    case "refused":
      return `it is refused with ${plural(reason.count, "error", "errors")}`;
    case "left-out":
      return `${plural(reason.count, "row", "rows")} cannot be read`;
    case "unread":
      return `${plural(reason.count, "file", "files")} of it ${reason.count === 1 ? "was" : "were"} not read`;
    case "effect":
      return `the access of ${plural(reason.people, "person changes", "people change")}, more than the ${reason.atMost.toLocaleString("en-GB")} that may by themselves`;
    default:
      return unreachable(reason);
  }
}
