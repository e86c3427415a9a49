import { FewNumbers } from "../kernel/few-numbers";
import { grown } from "../kernel/grown";
import { PairTable } from "../kernel/pair-table";
import type { Position } from "../kernel/position-index";
import { AccessNumbers, directItem, membershipItem } from "./access-numbers";
import type { AccessColumns } from "./compiled-facility";
import type { ObjectColumns } from "./object-facts";
import type { GivenGrants } from "./given-grants";
import type { Alignment, Kept } from "./kept";

interface Sources {
  readonly objects: ObjectColumns;
  readonly given: GivenGrants;
  readonly groups: number;
  /** What a facility compiled before has in common with this one. */
  readonly kept: Kept | undefined;
}

type Memberships = Pick<AccessColumns, "firstMembership" | "nextMembership" | "membershipGives">;
type Carried = Pick<AccessColumns, "carriedStart" | "carried">;

function membershipChains({ memberships: { memberOf, groupOf, window }, holders }: ObjectColumns, numbers: AccessNumbers): Memberships {
  const firstMembership = new Int32Array(holders.department.length).fill(-1);
  const nextMembership = new Int32Array(memberOf.length);
  const membershipGives = new Int32Array(memberOf.length);
  // From the last to the first, so that each cardholder's chain runs in the order of the document.
  for (let m = memberOf.length - 1; m >= 0; m--) {
    const holder = memberOf[m] as number;
    membershipGives[m] = numbers.membership(groupOf[m] as number, window[m] as number);
    nextMembership[m] = firstMembership[holder] as number;
    firstMembership[holder] = m;
  }
  return { firstMembership, nextMembership, membershipGives };
}

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

/** Index i: the number of cardholder i's combination before, where nothing of it has changed; 0 where that is not known. */
function combinationsKept({ objects, kept }: Sources, numbers: AccessNumbers): Int32Array {
  const combination = new Int32Array(objects.holders.department.length);
  if (!kept || kept.access.numbers !== numbers) return combination;
  const { columns, cardholders, memberships, grants, access } = kept;
  const { wasAt } = cardholders;
  const changed = new Uint8Array(combination.length);
  if (!memberships.isSame) markChanged(changed, memberships, objects.memberships.memberOf, columns.memberships.memberOf, cardholders);
  if (!grants.isSame) markChanged(changed, grants, objects.grants.toCardholder, columns.grants.toCardholder, cardholders);
  for (let i = 0; i < combination.length; i++) {
    const was = wasAt[i] as number;
    if (was !== -1 && changed[i] === 0) combination[i] = access.combination[was] as number;
  }
  return combination;
}

/** Index i: the number of all that cardholder i has. */
function holderCombinations(sources: Sources, numbers: AccessNumbers, { firstMembership, nextMembership, membershipGives }: Memberships): Int32Array {
  const { objects, given } = sources;
  const { department } = objects.holders;
  const { kind } = objects.grants;
  const { ofCardholder, next } = given;
  const { directs, combinations } = numbers;
  const combination = combinationsKept(sources, numbers);
  const items = new FewNumbers();
  for (let i = 0; i < combination.length; i++) {
    if (combination[i] !== 0) continue;
    // Most people have what their department gives and nothing else: its position says it, without a look-up.
    const alone = (department[i] as number) + 1;
    const first = ofCardholder[i] as number;
    if (first === -1 && firstMembership[i] === -1) {
      combination[i] = alone;
      continue;
    }
    items.clear();
    for (let m = firstMembership[i] as number; m !== -1; m = nextMembership[m] as number) items.add(membershipItem(membershipGives[m] as number));
    if (first !== -1) {
      // Grants of the same kinds give the same.
      let direct = 0;
      for (let g = first; g !== -1; g = next[g] as number) direct = directs.add(direct, kind[g] as number);
      items.add(directItem(direct));
    }
    combination[i] = combinations.addSet(alone, items);
  }
  return combination;
}

/** Stands among the means of profiles for cards of people of whom something is peculiar: what these show is looked up, as few as they are. */
export const ofPeculiarHolder = 3;

/** Profiles of cards, from 0 on, in the order in which they first come; each with its first card, and the combination of that. */
class Profiles {
  readonly samples: Position[] = [];
  readonly combinations: number[] = [];
  readonly means: number[] = [];
  /** Index combination × 3 + what the card shows: its profile plus one, 0 where there is none yet. */
  private plain: Int32Array;
  private readonly peculiar = new PairTable();

  constructor(highest: number) {
    this.plain = new Int32Array((highest + 1) * 3);
  }

  number(card: Position, combination: number, means: number, peculiarity: number): number {
    const key = combination * 3 + means;
    if (peculiarity !== 0) {
      const profile = this.peculiar.getOrSet(key, peculiarity, this.samples.length);
      return profile === this.samples.length ? this.add(card, combination, ofPeculiarHolder) : profile;
    }
    if (key >= this.plain.length) this.plain = grown(this.plain, key * 2);
    if (this.plain[key] === 0) this.plain[key] = this.add(card, combination, means) + 1;
    return (this.plain[key] as number) - 1;
  }

  private add(card: Position, combination: number, means: number): number {
    this.combinations.push(combination);
    this.means.push(means);
    return this.samples.push(card) - 1;
  }
}

function cardProfiles({ objects: { cards, holders, grants }, given }: Sources, { combinations, directs }: AccessNumbers, combination: Int32Array): Pick<AccessColumns, "profileOf" | "samples" | "profileCombination" | "profileMeans"> {
  const { holderOf, means } = cards;
  const profileOf = new Int32Array(holderOf.length);
  const profiles = new Profiles(combinations.highest);
  for (let i = 0; i < holderOf.length; i++) {
    const holder = holderOf[i] as number;
    let all = holder === -1 ? 0 : (combination[holder] as number);
    const first = given.ofCredential[i] as number;
    if (first !== -1) {
      let direct = 0;
      for (let g = first; g !== -1; g = given.next[g] as number) direct = directs.add(direct, grants.kind[g] as number);
      all = combinations.add(all, directItem(direct));
    }
    profileOf[i] = profiles.number(i, all, means[i] as number, holder === -1 ? 0 : (holders.peculiarity[holder] as number));
  }
  return { profileOf, samples: profiles.samples, profileCombination: profiles.combinations, profileMeans: profiles.means };
}

/** The cards of each cardholder, one behind the other. */
function carriedBy({ objects: { cards, holders }, kept }: Sources): Carried {
  const { holderOf } = cards;
  if (kept && kept.columns.cards.holderOf === holderOf) return { carriedStart: kept.access.carriedStart, carried: kept.access.carried };
  const cardholders = holders.department.length;
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

/** What follows for people and cards. Cost: a few loads for each; a handful of look-ups for whoever has more than a department, where that is new. */
export function accessColumns(sources: Sources): AccessColumns {
  const { objects, given, kept, groups } = sources;
  const numbers = kept?.groups.isInPlace && kept.access.numbers.groups === groups ? kept.access.numbers : new AccessNumbers(groups);
  const memberships = membershipChains(objects, numbers);
  const combination = holderCombinations(sources, numbers, memberships);
  return { numbers, ...memberships, firstGrant: given.ofCardholder, ownGrant: given.ofCredential, combination, ...cardProfiles(sources, numbers, combination), ...carriedBy(sources) };
}
