import type { Facility } from "../facility/facility";
import type { CredentialsByHolder, Holdings } from "./holdings";
import type { ObjectColumns } from "./object-facts";

/** Where the objects of a list stand in the same list of a facility compiled before. */
export interface Alignment {
  /** Index i: where the very object at position i stood; −1 where it is another one, or not known. */
  readonly wasAt: Int32Array;
  /** Index i: where the object that stood at position i, or one with its id, stands now; −1 where that is not known. */
  readonly nowAt: Int32Array;
  /** Whether it is the very same list; and whether each of its objects, or one with its id, stands where it stood, and nothing else is there. */
  readonly isSame: boolean;
  readonly isInPlace: boolean;
}

/**
 * What a facility has in common with one that was compiled before: a draft shares all objects with the register but those that
 * it changes, and an object that is the same says the same, so that it need not be read again.
 */
export interface SharedObjects {
  readonly columns: ObjectColumns;
  readonly credentialsByHolder: CredentialsByHolder;
  readonly groups: Alignment;
  readonly cardholders: Alignment;
  readonly credentials: Alignment;
  readonly memberships: Alignment;
  readonly grants: Alignment;
}

type Listed = object & { readonly id?: string };

/** How far it is looked ahead for the object at which two lists go on alike, and how often in vain before it is given up. */
const lookAhead = 64;
const triesInVain = 100;

/** Where `wanted` stands in a list, from `start` on and not far from there; −1 where it does not. */
function findNear(list: readonly Listed[], wanted: Listed | undefined, start: number): number {
  const end = Math.min(list.length, start + lookAhead);
  for (let i = start; i < end; i++) if (list[i] === wanted) return i;
  return -1;
}

/**
 * Goes along two lists side by side; index i of `places` is i. Cost: one comparison of references for each object where the lists are much alike, or not at
 * all.
 */
function align(before: readonly Listed[], now: readonly Listed[], places: Int32Array): Alignment {
  if (before === now) {
    const all = places.subarray(0, now.length);
    return { wasAt: all, nowAt: all, isSame: true, isInPlace: true };
  }
  const wasAt = new Int32Array(now.length).fill(-1);
  const nowAt = new Int32Array(before.length).fill(-1);
  let [inVain, inPlace, i, j] = [0, 0, 0, 0];
  while (i < now.length && j < before.length && inVain < triesInVain) {
    const [start, isLevel] = [i, i === j];
    for (; i < now.length && j < before.length && now[i] === before[j]; i++, j++) {
      wasAt[i] = j;
      nowAt[j] = i;
    }
    if (isLevel) inPlace += i - start;
    if (i === now.length || j === before.length) break;
    const [object, old] = [now[i] as Listed, before[j] as Listed];
    if (object.id !== undefined && object.id === old.id) {
      nowAt[j] = i;
      if (isLevel) inPlace++;
    } else {
      const gone = findNear(before, object, j + 1);
      const come = gone === -1 ? findNear(now, old, i + 1) : -1;
      if (gone !== -1) j = gone;
      else if (come !== -1) i = come;
      else inVain++;
      if (gone !== -1 || come !== -1) continue;
    }
    i++;
    j++;
  }
  return { wasAt, nowAt, isSame: false, isInPlace: inPlace === before.length && now.length === before.length };
}

/** What of a compiled facility is compared with the next one. */
interface Before {
  readonly facility: Facility;
  readonly objects: ObjectColumns;
  readonly holdings: Holdings;
}

/** Nothing is shared where dates are read in another zone than before. */
export function sharedWith(before: Before | undefined, facility: Facility): SharedObjects | undefined {
  if (!before || before.facility.timeZone !== facility.timeZone) return undefined;
  const was = before.facility;
  const places = new Int32Array(Math.max(was.groups.length, was.cardholders.length, was.credentials.length, was.memberships.length, was.grants.length));
  for (let i = 0; i < places.length; i++) places[i] = i;
  return {
    columns: before.objects,
    credentialsByHolder: before.holdings.credentials,
    groups: align(was.groups, facility.groups, places),
    cardholders: align(was.cardholders, facility.cardholders, places),
    credentials: align(was.credentials, facility.credentials, places),
    memberships: align(was.memberships, facility.memberships, places),
    grants: align(was.grants, facility.grants, places),
  };
}
