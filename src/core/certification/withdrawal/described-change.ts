import type { CompiledFacility } from "../../compile/compiled-facility";
import type { DefinitionSubject } from "../definitions/definition";
import type { FieldChange } from "../../drafting/change";
import { fieldChanges } from "../../drafting/change";
import type { FacilityChange } from "../../facility/facility-change";
import type { Plain } from "../../facility/object-key";
import { keyOf } from "../../facility/object-key";
import { required } from "../../kernel/invariant";

/** A change with the fields that it alters; none where a whole object is added or removed. */
export interface DescribedChange {
  readonly change: FacilityChange;
  readonly fields: readonly FieldChange[];
}

/** Something by which a door opens. */
export type PathLeft = { readonly kind: "override" } | { readonly kind: "grant"; readonly grant: string; readonly group: string | undefined };

/**
 * What has to be done by hand, since no change that its source can make takes away just what was withdrawn: the ways by which it opens, which others
 * have too.
 */
export interface ByHand {
  readonly ways: readonly PathLeft[];
}

/** What is to be changed about a definition, in the words of whoever certified it. */
export interface Task {
  readonly task: string;
  readonly subject: DefinitionSubject;
}

/** What an order asks for. */
export type OrderedChange = DescribedChange | ByHand | Task;

/** Whether an order is a change that can be made as it stands; the others somebody has to see to. */
export const isDescribed = (ordered: OrderedChange): ordered is DescribedChange => "change" in ordered;

function objectBefore({ facility, indexes }: CompiledFacility, change: FacilityChange): Plain | undefined {
  if (change.list === "memberships") {
    const key = keyOf("memberships", { ...change.membership });
    return facility.memberships.find((membership) => keyOf("memberships", membership as unknown as Plain) === key) as unknown as Plain | undefined;
  }
  const position = indexes.of(change.list).get(change.id);
  return position === undefined ? undefined : (facility[change.list][position] as unknown as Plain);
}

/** What changes to a facility alter, field by field. */
export const describedChanges = (compiled: CompiledFacility, changes: readonly FacilityChange[]): DescribedChange[] =>
  changes.map((change) => ({
    change,
    fields: change.do === "alter" ? fieldChanges(required(objectBefore(compiled, change), "what is altered is in the document"), change.object) : [],
  }));
