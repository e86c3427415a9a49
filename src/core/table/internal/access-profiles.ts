import type { Alignment, SharedObjects } from "../../compile/alignment";
import type { CompiledFacility } from "../../compile/compiled-facility";
import type { ObjectColumns } from "../../compile/object-facts";
import type { Position } from "../../compile/position-index";
import { grown } from "../../kernel/grown";
import { PairTable } from "../../kernel/pair-table";
import { AccessNumbers, directItem, inheritedItem } from "./access-numbers";
import { NumberBuffer } from "./number-buffer";

/**
 * What people have and what their credentials open doors by, as numbers. Credentials that differ in nothing but when they are live have one
 * profile.
 */
export interface AccessProfiles {
  readonly numbers: AccessNumbers;
  /** Index i: number of all that cardholder i has. */
  readonly entitlement: Int32Array;
  /** Index i: the profile of credential i, from 0 on. */
  readonly profileOf: Int32Array;
  /** Index p: a credential of profile p, which stands for all of them; the entitlement that it opens doors by; what it presents, or `withPersonalRules`. */
  readonly samples: readonly Position[];
  readonly profileEntitlement: readonly number[];
  readonly profilePresents: readonly number[];
}

type Compiled = Pick<CompiledFacility, "facility" | "objects" | "holdings" | "shared">;

/** Marks the cardholder of each object of a list that came or went. */
function markChanged(changed: Uint8Array, { wasAt }: Alignment, now: Int32Array, before: Int32Array, cardholders: Alignment): void {
  const stays = new Uint8Array(before.length);
  for (let i = 0; i < wasAt.length; i++) {
    const was = wasAt[i] as number;
    if (was !== -1) stays[was] = 1;
    else if (now[i] !== -1) changed[now[i] as number] = 1;
  }
  for (let was = 0; was < before.length; was++) {
    const holder = stays[was] === 1 || before[was] === -1 ? -1 : (cardholders.nowAt[before[was] as number] as number);
    if (holder !== -1) changed[holder] = 1;
  }
}

/** Index i: the number of cardholder i's entitlement before, where nothing of it has changed; 0 where that is not known. */
function unchangedEntitlements({ objects }: Compiled, shared: SharedObjects | undefined, before: AccessProfiles | undefined): Int32Array {
  const entitlement = new Int32Array(objects.holders.department.length);
  if (!shared || !before) return entitlement;
  const { columns, cardholders, memberships, grants } = shared;
  const { wasAt } = cardholders;
  const changed = new Uint8Array(entitlement.length);
  if (!memberships.isSame) markChanged(changed, memberships, objects.memberships.memberOf, columns.memberships.memberOf, cardholders);
  if (!grants.isSame) markChanged(changed, grants, objects.grants.toCardholder, columns.grants.toCardholder, cardholders);
  for (let i = 0; i < entitlement.length; i++) {
    const was = wasAt[i] as number;
    if (was !== -1 && changed[i] === 0) entitlement[i] = before.entitlement[was] as number;
  }
  return entitlement;
}

/** Fills in the number of all that a cardholder has, wherever it is not known yet. */
function numberEntitlements({ objects, holdings }: Compiled, numbers: AccessNumbers, entitlement: Int32Array): void {
  const { department } = objects.holders;
  const { kind } = objects.grants;
  const { groupOf, window } = objects.memberships;
  const { grants, memberships } = holdings;
  const { directGrants, entitlements } = numbers;
  const items = new NumberBuffer();
  for (let i = 0; i < entitlement.length; i++) {
    if (entitlement[i] !== 0) continue;
    // Most people have what their department gives and nothing else: its position says it, without a look-up.
    const alone = (department[i] as number) + 1;
    const first = grants.ofCardholder[i] as number;
    if (first === -1 && memberships.ofCardholder[i] === -1) {
      entitlement[i] = alone;
      continue;
    }
    items.clear();
    for (let m = memberships.ofCardholder[i] as number; m !== -1; m = memberships.next[m] as number)
      items.add(inheritedItem(numbers.membership(groupOf[m] as Position, window[m] as number)));
    if (first !== -1) {
      // Grants of the same kinds give the same.
      let direct = 0;
      for (let g = first; g !== -1; g = grants.next[g] as number) direct = directGrants.add(direct, kind[g] as number);
      items.add(directItem(direct));
    }
    entitlement[i] = entitlements.addSet(alone, items);
  }
}

/** Stands in `profilePresents` for credentials of people with rules of their own: what these present is looked up, as few as they are. */
export const withPersonalRules = 3;

/** Profiles from 0 on, in the order in which they first come; each with its first credential, and the entitlement of that. */
class Profiles {
  readonly samples: Position[] = [];
  readonly entitlements: number[] = [];
  readonly presents: number[] = [];
  /** Index entitlement × 3 + what the credential presents: its profile plus one, 0 where there is none yet. */
  private plain: Int32Array;
  private readonly withRules = new PairTable();

  constructor(highest: number) {
    this.plain = new Int32Array((highest + 1) * 3);
  }

  number(credential: Position, entitlement: number, presents: number, personalRules: number): number {
    const key = entitlement * 3 + presents;
    if (personalRules !== 0) {
      const profile = this.withRules.getOrSet(key, personalRules, this.samples.length);
      return profile === this.samples.length ? this.add(credential, entitlement, withPersonalRules) : profile;
    }
    if (key >= this.plain.length) this.plain = grown(this.plain, key * 2);
    if (this.plain[key] === 0) this.plain[key] = this.add(credential, entitlement, presents) + 1;
    return (this.plain[key] as number) - 1;
  }

  private add(credential: Position, entitlement: number, presents: number): number {
    this.entitlements.push(entitlement);
    this.presents.push(presents);
    return this.samples.push(credential) - 1;
  }
}

function numberProfiles({ objects, holdings }: Compiled, numbers: AccessNumbers, entitlement: Int32Array): AccessProfiles {
  const { cards, holders, grants: facts } = objects;
  const { holderOf, presents } = cards;
  const { directGrants, entitlements } = numbers;
  const profileOf = new Int32Array(holderOf.length);
  const profiles = new Profiles(entitlements.highest);
  for (let i = 0; i < holderOf.length; i++) {
    const holder = holderOf[i] as number;
    let all = holder === -1 ? 0 : (entitlement[holder] as number);
    const first = holdings.grants.ofCredential[i] as number;
    if (first !== -1) {
      let direct = 0;
      for (let g = first; g !== -1; g = holdings.grants.next[g] as number) direct = directGrants.add(direct, facts.kind[g] as number);
      all = entitlements.add(all, directItem(direct));
    }
    profileOf[i] = profiles.number(i, all, presents[i] as number, holder === -1 ? 0 : (holders.personalRules[holder] as number));
  }
  return { numbers, entitlement, profileOf, samples: profiles.samples, profileEntitlement: profiles.entitlements, profilePresents: profiles.presents };
}

/** Those of facilities that are still in use, by what their objects say; a facility compiled after another one goes on with its numbers. */
const known = new WeakMap<ObjectColumns, AccessProfiles>();

/**
 * The profiles of a facility, worked out once. Cost: a few loads for each person and credential; a handful of look-ups for whoever has more
 * than a department, where that is new.
 */
export function profilesOf(compiled: Compiled): AccessProfiles {
  const { objects, shared, facility } = compiled;
  let profiles = known.get(objects);
  if (!profiles) {
    const before = shared?.groups.isInPlace ? known.get(shared.columns) : undefined;
    const goesOn = before?.numbers.groups === facility.groups.length ? before : undefined;
    const numbers = goesOn?.numbers ?? new AccessNumbers(facility.groups.length);
    const entitlement = unchangedEntitlements(compiled, shared, goesOn);
    numberEntitlements(compiled, numbers, entitlement);
    profiles = numberProfiles(compiled, numbers, entitlement);
    known.set(objects, profiles);
  }
  return profiles;
}
