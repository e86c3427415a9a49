import { present } from "../kernel/invariant";
import type { Position } from "../kernel/position-index";
import type { CompiledCredential, CompiledFacility } from "../compile/compiled-facility";
import type { AccessPath } from "../resolve/paths";
import { overrideCovers, pathsBetween } from "../resolve/paths";
import { candidateDoors } from "../resolve/reach";
import type { Reading } from "../resolve/reading";
import { openIn } from "../resolve/timetable";
import type { IntervalSet } from "../time/intervals";
import { subtract, union } from "../time/intervals";

/** A change that the controlling system must make, in its own terms. */
export type Change =
  | { readonly kind: "end-grant"; readonly grant: string }
  | { readonly kind: "end-membership"; readonly group: string; readonly cardholder: string }
  | { readonly kind: "end-override"; readonly cardholder: string }
  | { readonly kind: "end-credential"; readonly credential: string }
  | { readonly kind: "add-block"; readonly cardholder: string; readonly doors: readonly string[] };

export interface Withdrawal {
  readonly changes: readonly Change[];
  /** Other doors that the same holder then no longer opens at all, by id. */
  readonly alsoLost: readonly string[];
  /** Other doors that the same holder then opens at fewer times, by id. */
  readonly alsoNarrowed: readonly string[];
}

const changeKey = (change: Change): string => JSON.stringify(change);

/** The change that takes a path away from this holder alone; undefined where any change of it would touch others. */
function changeFor(compiled: CompiledFacility, path: AccessPath): Change | undefined {
  const { facility } = compiled;
  if (path.by === "membership") {
    const membership = present(facility.memberships[path.membership ?? -1], "a route by membership names it");
    return { kind: "end-membership", group: membership.group, cardholder: membership.cardholder };
  }
  return path.by === "department" ? undefined : { kind: "end-grant", grant: path.grant.grant.id };
}

/** Whether a path is gone once the changes are made. */
function isGone(compiled: CompiledFacility, path: AccessPath, made: ReadonlySet<string>): boolean {
  const change = changeFor(compiled, path);
  return change !== undefined && made.has(changeKey(change));
}

/**
 * The changes by which a holder no longer opens some doors: each path away by a change that touches nobody else, as few of them
 * as that takes; where a path comes with the department, by one block for this person instead, since everybody else there
 * keeps it. The resolver proves the result; what else the holder loses is worked out over the reading.
 */
export function planWithdrawal(
  compiled: CompiledFacility,
  reading: Reading,
  credentials: readonly CompiledCredential[],
  doors: readonly Position[],
): Withdrawal {
  const holder = credentials[0]?.holder;
  const wanted = new Set(doors);
  const changes = new Map<string, Change>();
  const add = (change: Change) => changes.set(changeKey(change), change);
  let needsBlock = false;
  for (const credential of credentials)
    for (const door of doors) {
      const at = present(compiled.doors[door], "positions are valid");
      if (holder && overrideCovers(credential, at)) add({ kind: "end-override", cardholder: holder.cardholder.id });
      for (const path of pathsBetween(compiled, credential, door)) {
        if (path.grant.blocks) continue;
        const change = changeFor(compiled, path);
        if (change) add(change);
        else needsBlock = true;
      }
    }
  const blocked = (cardholder: string): Withdrawal => {
    // A block alone shuts every way of this person, so ending single grants besides would only take away more.
    const keepOverride = [...changes.values()].filter(({ kind }) => kind === "end-override");
    const ids = doors.map((door) => present(compiled.facility.doors[door], "positions are valid").id);
    return { changes: [...keepOverride, { kind: "add-block", cardholder, doors: ids }], alsoLost: [], alsoNarrowed: [] };
  };
  if (needsBlock && holder) return blocked(holder.cardholder.id);

  const made = new Set(changes.keys());
  const endsOverride = [...changes.values()].some(({ kind }) => kind === "end-override");
  const alsoLost = new Set<Position>();
  const alsoNarrowed = new Set<Position>();
  for (const credential of credentials)
    for (const door of candidateDoors(compiled, credential)) {
      const paths = pathsBetween(compiled, credential, door);
      const left = paths.filter((path) => !isGone(compiled, path, made));
      const overridden = overrideCovers(credential, present(compiled.doors[door], "positions are valid"));
      if (wanted.has(door) || (left.length === paths.length && !(overridden && endsOverride))) continue;
      const before = openIn(compiled, reading, credential, door, paths);
      const without = overridden && endsOverride ? withoutOverride(credential) : credential;
      const after = openIn(compiled, reading, without, door, left);
      // A group may carry a block too: leaving it must not open anything.
      if (holder && subtract(after, before).length > 0) return blocked(holder.cardholder.id);
      if (before.length === 0) continue;
      if (after.length === 0) alsoLost.add(door);
      else if (subtract(before, after).length > 0) alsoNarrowed.add(door);
    }
  const id = (door: Position): string => present(compiled.facility.doors[door], "positions are valid").id;
  return { changes: [...changes.values()], alsoLost: [...alsoLost].map(id), alsoNarrowed: [...alsoNarrowed].map(id) };
}

/** The change that takes a credential away, and the doors that its holder then opens with no other. */
export function planReturn(compiled: CompiledFacility, reading: Reading, credential: CompiledCredential): Withdrawal {
  const others = (credential.holder?.credentials ?? [])
    .filter((position) => position !== credential.position)
    .map((position) => present(compiled.credentials.at(position), "positions are valid"));
  const alsoLost: string[] = [];
  const alsoNarrowed: string[] = [];
  for (const door of candidateDoors(compiled, credential)) {
    const own = openIn(compiled, reading, credential, door);
    if (own.length === 0) continue;
    const rest = others.reduce<IntervalSet>((open, other) => union(open, openIn(compiled, reading, other, door)), []);
    const { id } = present(compiled.facility.doors[door], "positions are valid");
    if (rest.length === 0) alsoLost.push(id);
    else if (subtract(own, rest).length > 0) alsoNarrowed.push(id);
  }
  return { changes: [{ kind: "end-credential", credential: credential.credential.id }], alsoLost, alsoNarrowed };
}

const withoutOverride = (credential: CompiledCredential): CompiledCredential =>
  credential.holder ? { ...credential, holder: { ...credential.holder, override: undefined } } : credential;
