import type { ListKey } from "@/core/facility/document";
import { listKeys } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import type { Brings, OwnershipProfile } from "@/core/facility/ownership";
import { ownedPart } from "@/core/facility/ownership";
import type { ReadBundle } from "./read-bundle";
import type { MissingMeans, SettledBundle } from "./settle-bundle";
import { settleBundle } from "./settle-bundle";
import type { Loose } from "./tables";

/** Puts of a bundle what its source owns on top of the present register. Of the lists that it only names objects of, the others stay. */
export function settleOwned(
  bundle: Omit<ReadBundle, "tables">,
  present: Facility | undefined,
  asOf: string,
  profile: OwnershipProfile,
  onlyNamed: readonly ListKey[] = [],
  missing: Readonly<Partial<Record<ListKey, MissingMeans>>> = {},
): SettledBundle {
  const brings = ownedPart(bundle.brings, profile);
  const lists = Object.fromEntries(Object.entries(bundle.lists).filter(([list]) => brings[list as ListKey] !== undefined));
  // Of what a source only names it does not say what there is.
  const incomplete = listKeys.filter((list) => profile[list]?.complete === false || missing[list] === "kept" || onlyNamed.includes(list));
  return settleBundle({ ...bundle, brings, lists }, present, asOf, incomplete, missing);
}

/** A facility document as the bundle that it could have come as: all that is in it stands at line 0 of its file. */
export function bundleOfDocument(facility: Facility, brings: Brings, file: string): Omit<ReadBundle, "tables"> {
  const { name, timeZone, asOf } = facility;
  const lists = Object.fromEntries(listKeys.filter((list) => brings[list] !== undefined).map((list) => [list, facility[list] as unknown as Loose[]]));
  const origins = Object.fromEntries(Object.entries(lists).map(([list, objects]) => [list, objects.map(() => ({ file, line: 0 }))]));
  return { head: { name, timeZone, asOf }, lists, origins, partOrigins: new Map(), refused: [], brings, files: [] };
}
