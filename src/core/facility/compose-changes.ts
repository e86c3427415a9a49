import { canonicalJson } from "./canonical-json";
import type { FacilityChange } from "./facility-change";
import { keyOfChange } from "./facility-change";

/**
 * Changes to a document and further ones to what came of it, as changes to the document itself: each object once. What is added and then removed
 * never was there. Source: none; it follows from what changes mean.
 */
export function composeChanges(first: readonly FacilityChange[], then: readonly FacilityChange[]): FacilityChange[] {
  const composed = new Map<string, FacilityChange>();
  // A membership that was altered is told by what it says then; further changes to it are changes to the one that it was.
  const renamed = new Map<string, string>();
  const place = (change: FacilityChange): string => canonicalJson([change.list, keyOfChange(change)]);
  for (const change of [...first, ...then]) {
    const named = place(change);
    const key = renamed.get(named) ?? named;
    const before = composed.get(key);
    if (change.do === "remove") {
      if (before?.do === "add") composed.delete(key);
      else composed.set(key, before?.do === "alter" ? removalOf(before) : change);
      continue;
    }
    composed.set(key, before && before.do !== "remove" ? { ...before, object: change.object } : change);
    if (change.list === "memberships" && change.do === "alter") renamed.set(place({ ...change, membership: change.object as typeof change.membership }), key);
  }
  return [...composed.values()];
}

function removalOf(altered: Extract<FacilityChange, { readonly do: "alter" }>): FacilityChange {
  return altered.list === "memberships"
    ? { do: "remove", list: altered.list, membership: altered.membership }
    : { do: "remove", list: altered.list, id: altered.id };
}
