import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import type { Window } from "@/core/time/window";

/**
 * What peers can be given: people, cards and doors whose access comes from grants, groups, levels and schedules alone. PIN rules,
 * lifts, overrides, own hours and own calendars are left out, on both sides.
 */
export const peerDoors = (compiled: CompiledFacility): Position[] =>
  compiled.doors
    .filter(({ door, via }) => via === undefined && (door.entry ?? "card") === "card" && (door.entryRows ?? []).length === 0)
    .map(({ position }) => position);

export const isPeerCredential = ({ holder, credential }: CompiledCredential): boolean =>
  credential.kind !== "pin" && !holder?.override && holder?.hours === undefined && holder?.calendar === undefined && holder?.sites === undefined;

/** Receivers of a credential with the windows in which they hold: itself, its holder, and every group above those it is in. */
export function receiversOf(
  { facility }: CompiledFacility,
  groupsAbove: (group: string) => readonly string[],
  credential: CompiledCredential,
  membershipWindow: (membership: Position) => Window,
): { id: string; window: Window | undefined }[] {
  const list: { id: string; window: Window | undefined }[] = [{ id: `c ${credential.credential.id}`, window: undefined }];
  const { holder } = credential;
  if (!holder) return list;
  list.push({ id: `h ${holder.cardholder.id}`, window: undefined });
  for (const { membership, list: routes } of holder.routes) {
    if (routes.by === "department") for (const group of groupsAbove(holder.cardholder.department ?? "")) list.push({ id: `g ${group}`, window: undefined });
    if (membership !== undefined)
      for (const group of groupsAbove(required(facility.memberships[membership], "positions are valid").group))
        list.push({ id: `g ${group}`, window: membershipWindow(membership) });
  }
  return list;
}

/** A group and all above it. */
export function groupChains({ facility }: CompiledFacility): (group: string) => readonly string[] {
  const parents = new Map(facility.groups.map(({ id, parent }) => [id, parent]));
  return (group) => {
    const chain: string[] = [];
    for (let at: string | undefined = group; at !== undefined && at !== ""; at = parents.get(at)) chain.push(at);
    return chain;
  };
}

/** Name of the clock by which a door's schedules are read. */
export const clockOf = (compiled: CompiledFacility, door: Position): string => {
  const { zone, calendar } = required(compiled.doors[door], "positions are valid");
  return `${zone.name} ${calendar === undefined ? "" : (compiled.facility.calendars[calendar]?.id ?? "")}`;
};

export const receiverKey = (to: { readonly cardholder?: string; readonly group?: string; readonly credential?: string }): string =>
  to.cardholder !== undefined ? `h ${to.cardholder}` : to.group !== undefined ? `g ${to.group}` : `c ${to.credential ?? ""}`;
