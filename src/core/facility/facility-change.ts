import { unreachable } from "../kernel/invariant";
import type { ListKey, Membership } from "./document";
import type { Facility } from "./facility";
import type { Plain } from "./object-key";
import { keyOf } from "./object-key";

/** What tells a membership from others: it has no id. */
export type MembershipKey = Pick<Membership, "group" | "cardholder" | "from" | "until">;

/** What a change is about: an object by its id, or a membership by what it says. */
export type ChangedObject =
  { readonly list: Exclude<ListKey, "memberships">; readonly id: string } | { readonly list: "memberships"; readonly membership: MembershipKey };

/** One change to a document; `object` is the whole object as it then is, in the normal form. */
export type FacilityChange =
  | ({ readonly do: "add"; readonly object: Plain } & Extract<ChangedObject, { readonly id: string }>)
  | ({ readonly do: "alter"; readonly object: Plain } & ChangedObject)
  | ({ readonly do: "remove" } & ChangedObject);

/** What tells the object of a change from the others of its list. */
export const keyOfChange = (change: ChangedObject): string => (change.list === "memberships" ? keyOf("memberships", { ...change.membership }) : change.id);

/**
 * The document with changes made in it; lists that no change touches are the same, and so are the objects of the others. Memberships that say
 * the same are one: all of them go, and one stands for them where it is altered. Added objects come last.
 */
export function withChanges(facility: Facility, changes: readonly FacilityChange[]): Facility {
  const lists: Partial<Record<ListKey, readonly Plain[]>> = {};
  for (const list of new Set(changes.map((change) => change.list))) {
    const altered = new Map<string, Plain | undefined>();
    const added: Plain[] = [];
    for (const change of changes) {
      if (change.list !== list) continue;
      switch (change.do) {
        case "add":
          added.push(change.object);
          break;
        case "alter":
          altered.set(keyOfChange(change), change.object);
          break;
        case "remove":
          altered.set(keyOfChange(change), undefined);
          break;
        default:
          unreachable(change);
      }
    }
    const done = new Set<string>();
    const kept = (facility[list] as unknown as readonly Plain[]).flatMap((object) => {
      const key = keyOf(list, object);
      if (!altered.has(key)) return [object];
      const next = done.has(key) ? undefined : altered.get(key);
      done.add(key);
      return next ? [next] : [];
    });
    lists[list] = [...kept, ...added];
  }
  return { ...facility, ...lists } as Facility;
}
