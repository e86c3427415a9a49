import type { Brand } from "../kernel/brand";
import type { FacilityDocument, ListKey } from "./document";
import { listKeys } from "./document";

/** A document in which every id resolves and nothing runs in a loop. Only `checkFacility` makes one; every list is there. */
export type Facility = Brand<Omit<FacilityDocument, ListKey> & { readonly [K in ListKey]: NonNullable<FacilityDocument[K]> }, "Facility">;

/** The document with an empty list where one is missing; checks nothing. */
export function withAllLists(draft: FacilityDocument): Facility {
  const lists = Object.fromEntries(listKeys.map((key) => [key, draft[key] ?? []]));
  return { ...draft, ...lists } as unknown as Facility;
}

/** How many objects of each kind a document holds. */
export type FacilityCounts = Readonly<Record<ListKey, number>>;

export const countsOf = (facility: Facility): FacilityCounts =>
  Object.fromEntries(listKeys.map((key) => [key, facility[key].length])) as unknown as FacilityCounts;
