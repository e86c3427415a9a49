import type { CompiledFacility } from "../compile/compiled-facility";
import type { PlacedDoor } from "./plan";

/** A plan as far as lifts are concerned. */
interface PlanWithDoors {
  readonly id: number;
  readonly doors: readonly PlacedDoor[];
}

/** Another plan that a lift leads to from a door. */
export interface JoinedPlan {
  /** The door on the plan that is looked at: the lift's reader, or one of its floors. */
  readonly door: string;
  readonly plan: number;
  /** The door of the same lift on the other plan. */
  readonly there: string;
}

/** The lift that a door belongs to, by the id of its reader: that of the lift itself, or of the lift that its floors need. Undefined for other doors. */
export function liftOf({ doors, doorById }: CompiledFacility, id: string): string | undefined {
  const door = doors[doorById.get(id) ?? -1]?.door;
  if (door?.kind === "lift") return door.id;
  const before = doors[doorById.get(door?.via ?? "") ?? -1]?.door;
  return before?.kind === "lift" || (before && door?.kind === "floor") ? before.id : undefined;
}

/** The other plans that lifts lead to from the doors of one, in the order of its doors, then of the plans. */
export function joinedByLifts(compiled: CompiledFacility, plan: PlanWithDoors, others: readonly PlanWithDoors[]): JoinedPlan[] {
  const ofLift = new Map<string, { readonly plan: number; readonly there: string }[]>();
  for (const other of others) {
    if (other.id === plan.id) continue;
    for (const { door } of other.doors) {
      const lift = liftOf(compiled, door);
      if (lift === undefined) continue;
      const known = ofLift.get(lift) ?? [];
      // One door of a lift on a plan is enough to find it by; its reader comes before its floors.
      if (known.at(-1)?.plan !== other.id) ofLift.set(lift, [...known, { plan: other.id, there: door }]);
      else if (door === lift) known[known.length - 1] = { plan: other.id, there: door };
    }
  }
  return plan.doors.flatMap(({ door }) => {
    const lift = liftOf(compiled, door);
    return lift === undefined ? [] : (ofLift.get(lift) ?? []).map((joined) => ({ door, ...joined }));
  });
}
