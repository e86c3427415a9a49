import type { Position } from "../compile/position-index";
import { routesOf } from "../paths/paths";
import { intersectWindows, windowIsEmpty } from "../time/window";
import type { Window } from "../time/window";
import type { Holder, Judged } from "./judged";

/** Levels, bundles and groups that somebody holds. */
export interface Held {
  readonly levels: ReadonlySet<Position>;
  readonly bundles: ReadonlySet<Position>;
  readonly groups: ReadonlySet<Position>;
}

/** What a holder holds at some minute ahead at which a credential of theirs is live. Source: `findings.md`, 1.6. */
export function heldBy(judged: Judged, holder: Holder): Held {
  const { compiled, facility, lives } = judged;
  const { indexes } = compiled;
  const held = { levels: new Set<Position>(), bundles: new Set<Position>(), groups: new Set<Position>() };
  const at = (list: "levels" | "bundles" | "groups", id: string): Position => indexes.of(list).get(id) ?? -1;
  const ahead = { from: judged.asOf, until: judged.end };
  const addGroup = (id: string): void => compiled.chainOf(at("groups", id)).forEach((group) => held.groups.add(group));
  for (const credential of holder.credentials) {
    const live = intersectWindows(ahead, lives.liveWindow(credential));
    if (windowIsEmpty(live)) continue;
    const holds = (window: Window): boolean => !windowIsEmpty(intersectWindows(live, window));
    for (const { list } of routesOf(judged.credential(credential)))
      for (const { grant, window } of list.routes) {
        const { open, effect } = facility.grants[grant] ?? {};
        if (effect === "block" || open === undefined || !holds(window)) continue;
        if (open.level !== undefined) held.levels.add(at("levels", open.level));
        else if (open.bundle !== undefined) {
          const bundle = at("bundles", open.bundle);
          held.bundles.add(bundle);
          for (const level of facility.bundles[bundle]?.levels ?? []) held.levels.add(at("levels", level));
        }
      }
    if (holder.cardholder === undefined) continue;
    const { department } = lives.cardholder(holder.cardholder);
    if (department !== undefined) addGroup(department);
    for (const membership of membershipsOf(judged, holder.cardholder)) if (holds(lives.windowOfMembership(membership))) addGroup(membership.group);
  }
  return held;
}

/** The memberships of a cardholder, in the order of the document. */
export function membershipsOf({ compiled: { holdings, facility } }: Judged, cardholder: Position) {
  const { ofCardholder, next } = holdings.memberships;
  const found = [];
  for (let m = ofCardholder[cardholder] as number; m !== -1; m = next[m] as number) {
    const membership = facility.memberships[m];
    if (membership) found.push(membership);
  }
  return found;
}

/** How many holders hold each level, bundle and group. */
export interface HolderCounts {
  readonly levels: ReadonlyMap<Position, number>;
  readonly bundles: ReadonlyMap<Position, number>;
  readonly groups: ReadonlyMap<Position, number>;
}

const counts = new WeakMap<Judged, HolderCounts>();

/** Worked out once for a register. */
export function holderCounts(judged: Judged): HolderCounts {
  const known = counts.get(judged);
  if (known) return known;
  const made = { levels: new Map<Position, number>(), bundles: new Map<Position, number>(), groups: new Map<Position, number>() };
  for (const holder of judged.holders) {
    const held = heldBy(judged, holder);
    for (const kind of ["levels", "bundles", "groups"] as const) for (const one of held[kind]) made[kind].set(one, (made[kind].get(one) ?? 0) + 1);
  }
  counts.set(judged, made);
  return made;
}
