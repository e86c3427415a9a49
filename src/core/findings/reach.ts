import type { Position } from "../compile/position-index";
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
