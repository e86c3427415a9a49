import { PairNumbers, TextNumbers } from "../kernel/pair-table";
import { sortFew } from "../kernel/compare";
import { present } from "../kernel/invariant";
import type { PositionIndex } from "../kernel/position-index";
import type { Cardholder, Credential, Membership } from "../facility/draft";
import type { Facility } from "../facility/facility";
import { unbounded } from "../time/window";
import type { Zone } from "../time/zone";
import type { AccessColumns, CardColumns, HolderColumns, MembershipColumns } from "./compiled-facility";
import type { GivenGrants } from "./given-grants";
import type { Kept } from "./kept";
import { credentialLife, inactiveFrom } from "./lives";
import type { WindowReader } from "./lives";
import type { RouteLists } from "./route-lists";

interface Sources {
  readonly facility: Facility;
  readonly zone: Zone;
  readonly windowOf: WindowReader;
  readonly lists: RouteLists;
  readonly cardholderById: PositionIndex;
  readonly groupById: PositionIndex;
  readonly given: GivenGrants;
  readonly kept: Kept | undefined;
}

const setText = (set: true | readonly string[] | undefined): string => (set === undefined ? "" : set === true ? "*" : JSON.stringify([...set].sort()));

/** What beside grants decides what a cardholder opens, as a text; empty for most. */
function peculiarities({ calendar, hours, sites, override, lockdownPass, pinExempt }: Cardholder): string {
  if (calendar === undefined && hours === undefined && sites === undefined && !override && !lockdownPass && !pinExempt) return "";
  return JSON.stringify([calendar ?? 0, hours ?? 0, setText(sites), setText(override || undefined), !!lockdownPass, !!pinExempt]);
}

const hasPin = ({ kind, hasPin: stated, duressPin, pinTag }: Credential): boolean => kind === "pin" || !!stated || !!duressPin || pinTag !== undefined;

/** What a credential shows at a reader: 0 a card, 1 a card with a PIN, 2 a PIN. */
export const meansOf = (credential: Credential): number => (credential.kind === "pin" ? 2 : hasPin(credential) ? 1 : 0);

function membershipColumns({ facility, windowOf, lists, cardholderById, groupById, kept }: Sources): MembershipColumns {
  const { cardholders, memberships } = facility;
  const firstMembership = new Int32Array(cardholders.length).fill(-1);
  const nextMembership = new Int32Array(memberships.length);
  const membershipList = new Int32Array(memberships.length);
  const memberOf = new Int32Array(memberships.length);
  const groupOf = new Int32Array(memberships.length);
  // From the last to the first, so that each cardholder's chain runs in the order of the document.
  for (let m = memberships.length - 1; m >= 0; m--) {
    const membership = memberships[m] as Membership;
    let holder = -1;
    let group = -1;
    const was = kept === undefined ? -1 : (kept.memberships.wasAt[m] as number);
    if (kept !== undefined && was !== -1) {
      holder = kept.cardholders.nowAt[kept.columns.memberOf[was] as number] as number;
      group = kept.groups.nowAt[kept.columns.groupOf[was] as number] as number;
    }
    if (holder === -1) holder = present(cardholderById.get(membership.cardholder), "references resolve");
    if (group === -1) group = present(groupById.get(membership.group), "references resolve");
    memberOf[m] = holder;
    groupOf[m] = group;
    membershipList[m] = lists.membership(group, windowOf(membership, "outward"), windowOf(membership, "inward"));
    nextMembership[m] = firstMembership[holder] as number;
    firstMembership[holder] = m;
  }
  return { firstMembership, nextMembership, membershipList, memberOf, groupOf };
}

function holderColumns({ facility, windowOf, lists, groupById, given, kept }: Sources, { firstMembership, nextMembership, membershipList }: MembershipColumns): HolderColumns {
  const { cardholders } = facility;
  const department = new Int32Array(cardholders.length).fill(-1);
  const departmentList = new Int32Array(cardholders.length).fill(-1);
  const directList = new Int32Array(cardholders.length).fill(-1);
  const holderKey = new Int32Array(cardholders.length);
  const isPeculiar = new Uint8Array(cardholders.length);
  const holderFrom = new Float64Array(cardholders.length);
  const holderUntil = new Float64Array(cardholders.length);
  // Most people have what their department gives and nothing else: the number of its list says it, without a look-up.
  const listKeys = new PairNumbers(cardholders.length >> 2, facility.groups.length);
  const peculiarKeys = new PairNumbers();
  const texts = new TextNumbers();
  const several: number[] = [];
  let near = 0;
  for (let i = 0; i < cardholders.length; i++) {
    const cardholder = cardholders[i] as Cardholder;
    let group = -1;
    let mayBePeculiar = true;
    const was = kept === undefined ? -1 : (kept.cardholders.wasAt[i] as number);
    if (kept !== undefined && was !== -1) {
      holderFrom[i] = kept.columns.holderFrom[was] as number;
      holderUntil[i] = kept.columns.holderUntil[was] as number;
      mayBePeculiar = kept.columns.isPeculiar[was] === 1;
      const groupWas = kept.columns.department[was] as number;
      if (groupWas !== -1) group = kept.groups.nowAt[groupWas] as number;
      if (groupWas !== -1 && group === -1) group = present(groupById.get(cardholder.department ?? ""), "references resolve");
    } else {
      const window = windowOf(cardholder, "outward");
      holderFrom[i] = window.from;
      holderUntil[i] = cardholder.status === "active" ? window.until : Math.min(window.until, inactiveFrom(cardholder));
      if (cardholder.department !== undefined) group = present(groupById.getNear(cardholder.department, near), "references resolve");
    }
    let key = 0;
    if (group !== -1) {
      near = group;
      department[i] = group;
      departmentList[i] = lists.department(group);
      key = group + 1;
    }
    const grant = given.toCardholder[i] as number;
    if (grant !== -1) directList[i] = lists.direct("cardholder", grant);
    if (grant !== -1 || firstMembership[i] !== -1) {
      several.length = 0;
      for (let m = firstMembership[i] as number; m !== -1; m = nextMembership[m] as number) several.push(membershipList[m] as number);
      if (grant !== -1) several.push(directList[i] as number);
      sortFew(several);
      for (let k = 0; k < several.length; k++) if (several[k] !== several[k - 1]) key = listKeys.number(key, several[k] as number);
    }
    const peculiar = mayBePeculiar ? peculiarities(cardholder) : "";
    if (peculiar !== "") isPeculiar[i] = 1;
    // Even numbers say that there is nothing peculiar.
    holderKey[i] = peculiar === "" ? key * 2 : peculiarKeys.number(key, texts.number(peculiar)) * 2 + 1;
  }
  return { department, departmentList, directList, holderKey, isPeculiar, holderFrom, holderUntil };
}

function cardColumns({ facility, zone, windowOf, lists, cardholderById, given, kept }: Sources, { holderKey, holderFrom, holderUntil }: HolderColumns): CardColumns {
  const { cardholders, credentials } = facility;
  const holderOf = new Int32Array(credentials.length).fill(-1);
  const means = new Uint8Array(credentials.length);
  const ownFrom = new Float64Array(credentials.length);
  const ownUntil = new Float64Array(credentials.length);
  const liveFrom = new Float64Array(credentials.length);
  const liveUntil = new Float64Array(credentials.length);
  const profileOf = new Int32Array(credentials.length);
  const carriedStart = new Int32Array(cardholders.length + 1);
  const samples: number[] = [];
  const ownList = new Map<number, number>();
  let most = 0;
  for (let i = 0; i < holderKey.length; i++) most = Math.max(most, holderKey[i] as number);
  // Index holder key × 3 + what the card shows: its profile plus one, 0 where there is none yet; cards with grants of their own have one each.
  const profileOfKey = new Int32Array((most + 1) * 3);
  let near = 0;
  for (let i = 0; i < credentials.length; i++) {
    const credential = credentials[i] as Credential;
    let holder = -1;
    const was = kept === undefined ? -1 : (kept.credentials.wasAt[i] as number);
    if (kept !== undefined && was !== -1) {
      means[i] = kept.columns.means[was] as number;
      ownFrom[i] = kept.columns.ownFrom[was] as number;
      ownUntil[i] = kept.columns.ownUntil[was] as number;
      const holderWas = kept.columns.holderOf[was] as number;
      if (holderWas !== -1) holder = kept.cardholders.nowAt[holderWas] as number;
      if (holderWas !== -1 && holder === -1) holder = present(cardholderById.get(credential.cardholder ?? ""), "references resolve");
    } else {
      means[i] = meansOf(credential);
      ownFrom[i] = unbounded.from;
      ownUntil[i] = unbounded.until;
      if (credential.status !== "active" || credential.from !== undefined || credential.until !== undefined || credential.expiry) {
        const life = credentialLife(credential, zone, windowOf);
        ownFrom[i] = life.window.from;
        ownUntil[i] = Math.min(life.window.until, life.inactiveFrom);
      }
      if (credential.cardholder !== undefined) {
        holder = present(cardholderById.getNear(credential.cardholder, near), "references resolve");
        near = holder;
      }
    }
    holderOf[i] = holder;
    if (holder === -1) {
      liveFrom[i] = ownFrom[i] as number;
      liveUntil[i] = ownUntil[i] as number;
    } else {
      liveFrom[i] = Math.max(ownFrom[i] as number, holderFrom[holder] as number);
      liveUntil[i] = Math.min(ownUntil[i] as number, holderUntil[holder] as number);
      carriedStart[holder + 1] = (carriedStart[holder + 1] as number) + 1;
    }
    const grant = given.toCredential[i] as number;
    if (grant !== -1) {
      ownList.set(i, lists.direct("credential", grant));
      profileOf[i] = samples.push(i) - 1;
      continue;
    }
    const key = (holder === -1 ? 0 : (holderKey[holder] as number)) * 3 + (means[i] as number);
    if (profileOfKey[key] === 0) profileOfKey[key] = samples.push(i);
    profileOf[i] = (profileOfKey[key] as number) - 1;
  }
  return { holderOf, means, ownFrom, ownUntil, liveFrom, liveUntil, profileOf, samples, ownList, carriedStart, carried: carriedBy(holderOf, carriedStart) };
}

/** The cards of each cardholder one behind the other; `start` holds how many each has at the index after theirs, and is summed up to where they begin. */
function carriedBy(holderOf: Int32Array, start: Int32Array): Int32Array {
  const last = start.length - 1;
  for (let i = 0; i < last; i++) start[i + 1] = (start[i + 1] as number) + (start[i] as number);
  const carried = new Int32Array(start[last] as number);
  const next = start.slice();
  for (let i = 0; i < holderOf.length; i++) {
    const holder = holderOf[i] as number;
    if (holder === -1) continue;
    carried[next[holder] as number] = i;
    next[holder] = (next[holder] as number) + 1;
  }
  return carried;
}

/** Lays people and cards out as columns. Cost: one pass over each list; a handful of numbers looked up for each object that is not kept. */
export function accessColumns(sources: Sources): AccessColumns {
  const members = membershipColumns(sources);
  const holders = holderColumns(sources, members);
  return { ...members, ...holders, ...cardColumns(sources, holders) };
}
