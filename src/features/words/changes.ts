import type { Change } from "@/core/certification/withdrawal";
import { unreachable } from "@/core/kernel/invariant";
import { listWords, someWords } from "./numbers";

export type Names = Readonly<Record<string, string>>;

const named = (names: Names, kind: string, id: string): string => names[`${kind} ${id}`] ?? id;

/** One change as something to do. */
export function changeWords(change: Change, names: Names): string {
  switch (change.kind) {
    case "end-grant":
      return `end the grant of ${named(names, "grant", change.grant)}`;
    case "end-membership":
      return `take them out of ${named(names, "group", change.group)}`;
    case "end-override":
      return "end the standing override";
    case "end-credential":
      return `return ${named(names, "credential", change.credential)}`;
    case "add-block":
      return "block it for this person, since the department keeps it";
    default:
      return unreachable(change);
  }
}

export const changesWords = (changes: readonly Change[], names: Names): string => listWords([...new Set(changes.map((change) => changeWords(change, names)))]);

const doorsShown = 3;

/** What else would be lost, as a sentence. */
export function sideEffectWords(plan: { readonly alsoLost: readonly string[]; readonly alsoNarrowed: readonly string[] }, names: Names): string {
  const doors = (ids: readonly string[]): string => someWords(ids.map((id) => named(names, "door", id)), doorsShown);
  const parts = [
    plan.alsoLost.length > 0 ? `Also lost: ${doors(plan.alsoLost)}.` : "",
    plan.alsoNarrowed.length > 0 ? `Fewer hours at ${doors(plan.alsoNarrowed)}.` : "",
    plan.alsoLost.length + plan.alsoNarrowed.length === 0 ? "Nothing else is lost." : "",
    "Nobody else is touched.",
  ];
  return parts.filter(Boolean).join(" ");
}
