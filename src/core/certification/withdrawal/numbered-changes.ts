import { canonicalJson } from "../../facility/canonical-json";
import type { ListKey } from "../../facility/document";
import { listKeys } from "../../facility/document";
import type { Facility } from "../../facility/facility";
import type { ChangedObject, FacilityChange } from "../../facility/facility-change";
import type { Plain } from "../../facility/object-key";
import { compareCodePoints } from "../../kernel/compare";
import { unreachable } from "../../kernel/invariant";
import type { PlannedChange } from "./plan-objects";

/** Ids for new objects: `withdrawal-1`, `withdrawal-2`, …, but none that any object of the document has. */
export function newIds(facility: Facility): (number: number) => string {
  const taken = new Set<string>();
  for (const list of listKeys) if (list !== "memberships") for (const { id } of facility[list]) if (id.startsWith(prefix)) taken.add(id);
  const free: string[] = [];
  let next = 1;
  return (number) => {
    while (free.length < number) {
      const id = `${prefix}${next++}`;
      if (!taken.has(id)) free.push(id);
    }
    return free[number - 1] as string;
  };
}

const prefix = "withdrawal-";

const targetTexts = (target: ChangedObject): readonly string[] =>
  target.list === "memberships"
    ? [target.list, target.membership.group, target.membership.cardholder, target.membership.from ?? "", target.membership.until ?? ""]
    : [target.list, target.id];

/** Where a change stands among the others of its plan: texts that are compared one after the other. */
function orderOf(change: PlannedChange): readonly string[] {
  switch (change.kind) {
    case "outside":
      return ["0"];
    case "block":
      return ["1", change.door, change.outside ? "0" : "1"];
    case "part":
      return ["2", change.grant, canonicalJson(change.object.open), typeof change.object.schedule === "string" ? change.object.schedule : ""];
    case "alter":
    case "remove":
      return ["3", ...targetTexts(change.target)];
    default:
      return unreachable(change);
  }
}

function compareTexts(a: readonly string[], b: readonly string[]): number {
  for (let i = 0; i < Math.min(a.length, b.length); i++) {
    const order = compareCodePoints(a[i] as string, b[i] as string);
    if (order !== 0) return order;
  }
  return a.length - b.length;
}

/**
 * The changes of a plan in the order in which they are carried out, new objects with their ids: first what is open when nothing may stay, once
 * for all blocks; then blocks, parts of grants, and what is altered or removed.
 */
export function numberedChanges(changes: readonly PlannedChange[], idOf: (number: number) => string): FacilityChange[] {
  const outside = changes.find(({ kind }) => kind === "outside");
  const ordered = [...(outside ? [outside] : []), ...changes.filter(({ kind }) => kind !== "outside")]
    .map((change) => ({ change, order: orderOf(change) }))
    .sort((a, b) => compareTexts(a.order, b.order));
  let numbered = 0;
  let outsideId: string | undefined;
  const add = (list: Exclude<ListKey, "memberships">, object: Plain): FacilityChange => {
    const id = idOf(++numbered);
    return { do: "add", list, id, object: { id, ...Object.fromEntries(Object.entries(object).filter(([key]) => key !== "id")) } };
  };
  return ordered.map(({ change }): FacilityChange => {
    switch (change.kind) {
      case "outside": {
        const added = add("schedules", change.object);
        outsideId = "id" in added ? added.id : undefined;
        return added;
      }
      case "block":
        return add("grants", change.outside ? { ...change.object, schedule: outsideId } : change.object);
      case "part":
        return add("grants", change.object);
      case "alter":
        return { do: "alter", ...change.target, object: change.object };
      case "remove":
        return { do: "remove", ...change.target };
      default:
        return unreachable(change);
    }
  });
}
