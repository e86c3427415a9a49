import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { AccessTable } from "../table/access-table";
import { pairsOfCredential } from "../table/access-table";
import type { IntervalSet } from "../time/intervals";
import { union } from "../time/intervals";

/** The doors that open for a cardholder, or for a credential without one, each with its times on the reading's minutes. */
export type Reach = ReadonlyMap<Position, IntervalSet>;

/** Reach of some credentials taken together. Cost: the doors of their rows. */
export function reachOf(table: AccessTable, credentials: readonly Position[]): Reach {
  const reach = new Map<Position, IntervalSet>();
  for (const credential of credentials) for (const [door, open] of pairsOfCredential(table, credential)) reach.set(door, union(reach.get(door) ?? [], open));
  return reach;
}

/** Sensitivity of a door: the highest of the area that it leads into and those above it, 0 for a door of no area. */
export const doorSensitivity = (compiled: CompiledFacility, door: Position): number =>
  Math.max(0, ...required(compiled.doors[door], "positions are valid").areas.map((area) => compiled.facility.areas[area]?.sensitivity ?? 0));
