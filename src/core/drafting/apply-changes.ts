import type { ListKey } from "../facility/document";
import { listKeys } from "../facility/document";
import type { Facility } from "../facility/facility";
import type { Plain } from "../facility/object-key";
import { keyOf } from "../facility/object-key";
import type { DraftChange, RebasedChange } from "./change";
import { rebase } from "./change";

export interface ChangedFacility {
  /** The document with the changes in it; whether its references hold is not checked. */
  readonly facility: Facility;
  /** Each change on top of the register, in the order given. */
  readonly rebased: readonly RebasedChange[];
}

/**
 * Puts changes on top of a register that is in its normal form. Lists that no change touches are the register's own. Cost: one
 * walk of each list that is touched.
 */
export function applyChanges(facility: Facility, changes: readonly DraftChange[]): ChangedFacility {
  const rebased = new Map<DraftChange, RebasedChange>();
  const lists: Partial<Record<ListKey, readonly Plain[]>> = {};
  for (const list of listKeys) {
    const wanted = new Map(changes.filter((change) => change.list === list).map((change) => [change.key, change]));
    if (wanted.size === 0) continue;
    const next: Plain[] = [];
    const add = ({ value }: RebasedChange): void => void (value && next.push(value));
    for (const object of facility[list] as unknown as readonly Plain[]) {
      const key = keyOf(list, object);
      const change = wanted.get(key);
      if (!change) next.push(object);
      else {
        wanted.delete(key);
        const onTop = rebase(change, object);
        rebased.set(change, onTop);
        add(onTop);
      }
    }
    for (const change of wanted.values()) {
      const onTop = rebase(change, undefined);
      rebased.set(change, onTop);
      add(onTop);
    }
    lists[list] = next;
  }
  return { facility: { ...facility, ...lists } as Facility, rebased: changes.flatMap((change) => rebased.get(change) ?? []) };
}
