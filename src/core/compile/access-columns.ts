import { FewNumbers } from "../kernel/few-numbers";
import { PairNumbers, numberOfSet } from "../kernel/pair-table";
import type { AccessColumns, ObjectColumns, Position } from "./compiled-facility";
import type { GivenGrants } from "./given-grants";
import type { RouteLists } from "./route-lists";

interface Sources {
  readonly objects: ObjectColumns;
  readonly given: GivenGrants;
  readonly lists: RouteLists;
}

type MembershipLists = Pick<AccessColumns, "firstMembership" | "nextMembership" | "membershipList">;
type HolderLists = Pick<AccessColumns, "departmentList" | "directList">;
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

/** The lists of each cardholder, and a number for all that decides what they open: cardholders with one number differ in nothing but when they are in use. */
function holderLists({ objects, given, lists }: Sources, { firstMembership, nextMembership, membershipList }: MembershipLists): HolderLists & { readonly key: Int32Array } {
  const { department, peculiarity } = objects.holders;
  const { kind } = objects.grants;
  const { ofCardholder, next } = given;
  const departmentList = new Int32Array(department.length).fill(-1);
  const directList = new Int32Array(department.length).fill(-1);
  const key = new Int32Array(department.length);
  const direct = new PairNumbers();
  const peculiar = new PairNumbers();
  // Most people have what their department gives and nothing else: the position of the department says it, without a look-up.
  const all = new PairNumbers(department.length >> 2, given.ofGroup.length);
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
        for (let g = first; g !== -1; g = next[g] as number) content = direct.number(content, kind[g] as number);
        several.add(content * 2 + 1);
      }
      number = numberOfSet(all, number, several);
    }
    // Even numbers say that there is nothing peculiar.
    key[i] = peculiarity[i] === 0 ? number * 2 : peculiar.number(number, peculiarity[i] as number) * 2 + 1;
  }
  return { departmentList, directList, key };
}

function profiles({ objects: { cards }, given, lists }: Sources, holderKey: Int32Array): Profiles {
  const { holderOf, means } = cards;
  const profileOf = new Int32Array(holderOf.length);
  const samples: Position[] = [];
  const ownList = new Map<Position, number>();
  let most = 0;
  for (let i = 0; i < holderKey.length; i++) most = Math.max(most, holderKey[i] as number);
  // Index holder key × 3 + what the card shows: its profile plus one, 0 where there is none yet; cards with grants of their own have one each.
  const profileOfKey = new Int32Array((most + 1) * 3);
  for (let i = 0; i < holderOf.length; i++) {
    const grant = given.ofCredential[i] as number;
    if (grant !== -1) {
      ownList.set(i, lists.direct("credential", grant));
      profileOf[i] = samples.push(i) - 1;
      continue;
    }
    const holder = holderOf[i] as number;
    const key = (holder === -1 ? 0 : (holderKey[holder] as number)) * 3 + (means[i] as number);
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
  const { key, ...holders } = holderLists(sources, members);
  return { ...members, ...holders, ...profiles(sources, key), ...liveWindows(objects), ...carriedBy(objects.cards.holderOf, key.length) };
}
