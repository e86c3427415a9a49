import type { Facility } from "../../facility/facility";
import { listKeys } from "../../facility/document";
import type { FacilityChange } from "../../facility/facility-change";
import type { Plain } from "../../facility/object-key";

/**
 * Ids for objects that orders add, one after the other: `withdrawal-D-1`, … of a docket D, none that the document has. Plans number theirs each from
 * 1; orders of several plans go out together.
 */
export function orderIds(facility: Facility, docket: number, used: number): () => string {
  const taken = new Set<string>();
  const prefix = `withdrawal-${docket}-`;
  for (const list of listKeys) if (list !== "memberships") for (const { id } of facility[list]) if (id.startsWith(prefix)) taken.add(id);
  let next = used;
  return () => {
    let id = `${prefix}${++next}`;
    while (taken.has(id)) id = `${prefix}${++next}`;
    return id;
  };
}

/** Changes with other ids for what they add, also where others of them refer to it. */
export function renamedChanges(changes: readonly FacilityChange[], nextId: () => string): FacilityChange[] {
  const names = new Map(changes.flatMap((change) => (change.do === "add" ? [[change.id, nextId()] as const] : [])));
  const renamed = (object: Plain): Plain => {
    const schedule = typeof object.schedule === "string" ? names.get(object.schedule) : undefined;
    return schedule === undefined ? object : { ...object, schedule };
  };
  return changes.map((change): FacilityChange => {
    if (change.do === "remove") return change;
    if (change.do === "alter") return { ...change, object: renamed(change.object) };
    const id = names.get(change.id) ?? change.id;
    return { ...change, id, object: { ...renamed(change.object), id } };
  });
}
