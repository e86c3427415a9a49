import type { RegisterKind } from "@/core/register/kinds";
import type { NamedCause, NamedChange } from "@/operations/register/effect-on-access";
import { capital } from "./numbers";
import { kindWords } from "./register-words";

/** What becomes of a door for somebody. */
export const doorChangeWords = { gained: "opens it now", lost: "no longer opens it", hours: "other hours" } as const;

const causeKinds: Partial<Record<string, string>> = { membership: "Membership", calendarEntry: "Calendar entry", doorGroup: "Door group" };

const hoursOf = (minutes: number): string => (minutes < 60 ? `${minutes} min` : `${Math.round(minutes / 60).toLocaleString("en-GB")} h`);

/** How much more and less it is open for somebody in the 13 months. */
export function amountWords({ minutesMore, minutesLess }: Pick<NamedChange, "minutesMore" | "minutesLess">): string {
  return [minutesMore > 0 ? `+ ${hoursOf(minutesMore)}` : "", minutesLess > 0 ? `− ${hoursOf(minutesLess)}` : ""].filter(Boolean).join(", ");
}

const kindName = (kind: string): string => causeKinds[kind] ?? (kind in kindWords ? kindWords[kind as RegisterKind][1] : capital(kind));

export const causeWords = (causes: readonly NamedCause[]): string => causes.map(({ kind, name, what }) => `${kindName(kind)} ${name} ${what}`).join("; ");
