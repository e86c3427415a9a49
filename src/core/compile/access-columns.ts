import { FewNumbers } from "../kernel/few-numbers";
import { ListNumbers } from "../kernel/list-numbers";
import { PairTable } from "../kernel/pair-table";
import type { AccessColumns, ObjectColumns, Position } from "./compiled-facility";
import type { GivenGrants } from "./given-grants";
import type { RouteLists } from "./route-lists";

interface Sources {
  readonly objects: ObjectColumns;
  readonly given: GivenGrants;
  readonly lists: RouteLists;
}

type MembershipLists = Pick<AccessColumns, "firstMembership" | "nextMembership" | "membershipList">;
type HolderLists = Pick<AccessColumns, "departmentList" | "directList" | "combination" | "combinations" | "directs">;
type Profiles = Pick<AccessColumns, "ownList" | "profileOf" | "samples">;
type Carried = Pick<AccessColumns, "carriedStart" | "carried">;

function membershipLists({ objects: { memberships, holders }, lists }: Sources): MembershipLists {
  const { memberOf, groupOf, window } = memberships;
  const firstMembership = new Int32Array(holders.department.length).fill(-1);
  const nextMembership = new Int32Array(memberOf.length);
  const membershipList = new Int32Array(memberOf.length);
  // From the last to the first, so that each cardholder's chain runs in the order of the document.
  for (let m = memberOf.length - 1; m >= 0; m--) {
    const holder = memberOf[m] as number;
    membershipList[m] = lists.membership(groupOf[m] as number, window[m] as number);
    nextMembership[m] = firstMembership[holder] as number;
    firstMembership[holder] = m;
  }
  return { firstMembership, nextMembership, membershipList };
}

/** The lists of each cardholder, and their combinations. */
function holderLists({ objects, given, lists }: Sources, { firstMembership, nextMembership, membershipList }: MembershipLists): HolderLists {
  const { department } = objects.holders;
  const { kind } = objects.grants;
  const { ofCardholder, next } = given;
  const departmentList = new Int32Array(department.length).fill(-1);
  const directList = new Int32Array(department.length).fill(-1);
  const combination = new Int32Array(department.length);
  const directs = new ListNumbers();
  // Most people have what their department gives and nothing else: the position of the department says it, without a look-up.
  const combinations = new ListNumbers(given.ofGroup.length, department.length >> 2);
  const several = new FewNumbers();
  for (let i = 0; i < department.length; i++) {
    const group = department[i] as number;
    if (group !== -1) departmentList[i] = lists.department(group);
    let number = group + 1;
    const first = ofCardholder[i] as number;
    if (first !== -1 || firstMembership[i] !== -1) {
      several.clear();
      for (let m = firstMembership[i] as number; m !== -1; m = nextMembership[m] as number) several.add((membershipList[m] as number) * 2);
      if (first !== -1) {
        directList[i] = lists.direct("cardholder", first);
        // Lists of grants of the same kinds give the same.
        let content = 0;
        for (let g = first; g !== -1; g = next[g] as number) content = directs.add(content, kind[g] as number);
        several.add(content * 2 + 1);
      }
      number = combinations.addSet(number, several);
    }
    combination[i] = number;
  }
  return { departmentList, directList, combination, combinations, directs };
}

function profiles({ objects: { cards, holders }, given, lists }: Sources, { combination, combinations }: HolderLists): Profiles {
  const { holderOf, means } = cards;
  const { peculiarity } = holders;
  const profileOf = new Int32Array(holderOf.length);
  const samples: Position[] = [];
  const ownList = new Map<Position, number>();
  // Index combination × 3 + what the card shows: its profile plus one, 0 where there is none yet; cards with grants of their own have one each.
  const profileOfKey = new Int32Array((combinations.highest + 1) * 3);
  const peculiarProfiles = new PairTable();
  for (let i = 0; i < holderOf.length; i++) {
    const grant = given.ofCredential[i] as number;
    if (grant !== -1) {
      ownList.set(i, lists.direct("credential", grant));
      profileOf[i] = samples.push(i) - 1;
      continue;
    }
    const holder = holderOf[i] as number;
    const key = (holder === -1 ? 0 : (combination[holder] as number)) * 3 + (means[i] as number);
    if (holder !== -1 && peculiarity[holder] !== 0) {
      const profile = peculiarProfiles.getOrSet(key, peculiarity[holder] as number, samples.length);
      if (profile === samples.length) samples.push(i);
      profileOf[i] = profile;
      continue;
    }
    if (profileOfKey[key] === 0) profileOfKey[key] = samples.push(i);
    profileOf[i] = (profileOfKey[key] as number) - 1;
  }
  return { ownList, profileOf, samples };
}

function liveWindows({ holders, cards }: ObjectColumns): Pick<AccessColumns, "liveFrom" | "liveUntil"> {
  const liveFrom = cards.from.slice();
  const liveUntil = cards.until.slice();
  for (let i = 0; i < liveFrom.length; i++) {
    const holder = cards.holderOf[i] as number;
    if (holder === -1) continue;
    liveFrom[i] = Math.max(liveFrom[i] as number, holders.from[holder] as number);
    liveUntil[i] = Math.min(liveUntil[i] as number, holders.until[holder] as number);
  }
  return { liveFrom, liveUntil };
}

/** The cards of each cardholder, one behind the other. */
function carriedBy(holderOf: Int32Array, cardholders: number): Carried {
  const carriedStart = new Int32Array(cardholders + 1);
  for (let i = 0; i < holderOf.length; i++) {
    const holder = holderOf[i] as number;
    if (holder !== -1) carriedStart[holder + 1] = (carriedStart[holder + 1] as number) + 1;
  }
  for (let i = 0; i < cardholders; i++) carriedStart[i + 1] = (carriedStart[i + 1] as number) + (carriedStart[i] as number);
  const carried = new Int32Array(carriedStart[cardholders] as number);
  const next = carriedStart.slice();
  for (let i = 0; i < holderOf.length; i++) {
    const holder = holderOf[i] as number;
    if (holder === -1) continue;
    carried[next[holder] as number] = i;
    next[holder] = (next[holder] as number) + 1;
  }
  return { carriedStart, carried };
}

/** What follows for people and cards. Cost: a few loads for each; a handful of look-ups for whoever has more than a department. */
export function accessColumns(sources: Sources): AccessColumns {
  const { objects } = sources;
  const members = membershipLists(sources);
  const holders = holderLists(sources, members);
  return { ...members, ...holders, ...profiles(sources, holders), ...liveWindows(objects), ...carriedBy(objects.cards.holderOf, holders.combination.length) };
}
