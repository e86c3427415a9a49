import { PositionIndex } from "./position-index";
import type { ListKey } from "../facility/document";
import type { Facility } from "../facility/facility";

/** Lists of which each object has an id. */
type IdList = Exclude<ListKey, "memberships">;

/** Whether two lists have the same ids at the same positions. */
export function sameIds(a: readonly { readonly id: string }[], b: readonly { readonly id: string }[]): boolean {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i] && a[i]?.id !== b[i]?.id) return false;
  return true;
}

/** The positions of a facility's objects by their ids, list by list; each is built when first needed, or taken from a facility with the same ids. */
export class PositionIndexes {
  private readonly known = new Map<IdList, PositionIndex>();

  constructor(
    private readonly facility: Facility,
    before?: PositionIndexes,
  ) {
    if (before) for (const [list, index] of before.known) if (sameIds(before.facility[list], facility[list])) this.known.set(list, index);
  }

  of(list: IdList): PositionIndex {
    let index = this.known.get(list);
    if (!index) this.known.set(list, (index = new PositionIndex(this.facility[list])));
    return index;
  }
}
