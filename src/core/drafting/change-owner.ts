import { unreachable } from "../kernel/invariant";
import type { FieldChange } from "./change";
import type { FacilityChange } from "../facility/facility-change";
import type { Ownership } from "../facility/ownership";

/** The source that has to make a change; undefined where Nomade itself owns what is changed. Of several fields the first that a source owns decides. */
export function ownerOfChange(
  ownership: Ownership,
  { change, fields }: { readonly change: FacilityChange; readonly fields: readonly FieldChange[] },
): string | undefined {
  switch (change.do) {
    case "add":
    case "remove":
      return ownership.ofObjects(change.list);
    case "alter":
      return fields.map(({ field }) => ownership.ofField(change.list, field)).find((source) => source !== undefined);
    default:
      return unreachable(change);
  }
}
