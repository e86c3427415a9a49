import type { ListKey } from "../facility/document";
import { listKeys } from "../facility/document";
import type { Facility } from "../facility/facility";
import type { Plain } from "../facility/object-key";
import { keyOf } from "../facility/object-key";
import { references } from "../facility/references";

export interface NamedObject {
  readonly list: ListKey;
  readonly key: string;
}

/** What else a removal concerns. */
export interface Removal {
  /** Objects that mean nothing without what is removed, and go with it: memberships, grants, the credentials of a person. */
  readonly along: readonly NamedObject[];
  /** Objects that refer to it and stay: each has to refer to something else first. `field` is the first key of the way to the reference. */
  readonly holding: readonly (NamedObject & { readonly field: string; readonly to: NamedObject })[];
}

const goesAlong = (list: ListKey, to: ListKey): boolean => list === "memberships" || list === "grants" || (list === "credentials" && to === "cardholders");

function* idsAt(value: unknown, path: readonly string[]): Generator<string> {
  const [key, ...rest] = path;
  if (key === undefined) {
    if (typeof value === "string") yield value;
  } else if (key === "*") {
    if (Array.isArray(value)) for (const element of value as unknown[]) yield* idsAt(element, rest);
  } else if (typeof value === "object" && value !== null) yield* idsAt((value as Plain)[key], rest);
}

/** What refers to objects that are no longer in a facility, and what goes with them. Cost: a walk of the facility, and one more for each step along. */
export function removalOf(facility: Facility, removed: readonly NamedObject[]): Removal {
  const along = new Map<string, NamedObject>();
  const holding: Removal["holding"][number][] = [];
  for (let step = removed; step.length > 0; ) {
    const gone = new Set(step.map(({ list, key }) => `${list} ${key}`));
    const next: NamedObject[] = [];
    for (const list of listKeys)
      for (const { path, to } of references.filter(({ from }) => from === list)) {
        if (!step.some((one) => one.list === to)) continue;
        for (const object of facility[list] as unknown as readonly Plain[])
          for (const id of idsAt(object, path)) {
            if (!gone.has(`${to} ${id}`)) continue;
            const named = { list, key: keyOf(list, object) };
            const name = `${list} ${named.key}`;
            if (removed.some((one) => one.list === list && one.key === named.key) || along.has(name)) continue;
            if (goesAlong(list, to)) {
              along.set(name, named);
              next.push(named);
            } else holding.push({ ...named, field: path[0] ?? "", to: { list: to, key: id } });
          }
      }
    step = next;
  }
  return { along: [...along.values()], holding: holding.filter(({ list, key }) => !along.has(`${list} ${key}`)) };
}
