import type { Agreement } from "@/core/events/agreement";
import type { Reason } from "@/core/paths/verdict";
import { reasonWords } from "./reasons";

/** Why a door did otherwise than the record says, as a sentence; of one that did as it says, what that is. */
export function agreementWords(granted: boolean, agreement: Agreement): string {
  if (agreement.agrees === "cannot-tell")
    return agreement.why === "unknown-door" ? "Cannot tell: the record of that time has no such door." : "Cannot tell: several credentials have this number.";
  const { reason, free } = agreement.says;
  if (agreement.agrees === "yes") {
    if (granted && reason !== "open") return "Agrees: the door was free for everybody then.";
    return granted ? "Agrees: the record opens it." : `Agrees: ${reasonWords(reason)}.`;
  }
  return granted
    ? `Does not agree: it was let in, and ${reasonWords(reason)}.`
    : `Does not agree: it was refused, and the record ${free ? "opens it, and it was free" : "opens it"}.`;
}

/** The same of many: what happened, and what the record says. */
export function differenceWords(what: string): string {
  const [result, reason] = what.split(" ") as [string, Reason];
  return result === "granted" ? `Let in, although ${reasonWords(reason)}` : "Refused, although the record opens it";
}

export const agreementMark = ({ agrees }: Agreement): string => (agrees === "yes" ? "agrees" : agrees === "no" ? "does not" : "cannot tell");
