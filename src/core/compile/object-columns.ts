import { required } from "../kernel/invariant";
import { positionsOf } from "./position-index";
import type { Position } from "./position-index";
import type { Cardholder, Credential, Grant, Membership } from "../facility/document";
import type { Facility } from "../facility/facility";
import { unbounded } from "../time/window";
import type { CardFacts, GrantFacts, HolderFacts, MembershipFacts, ObjectColumns } from "./object-facts";
import type { SharedObjects } from "./alignment";
import { credentialLife, inactiveFrom } from "./lives";
import type { PositionIndexes } from "./position-indexes";
import type { Vocabulary } from "./vocabulary";

interface Sources {
  readonly facility: Facility;
  readonly vocabulary: Vocabulary;
  readonly indexes: PositionIndexes;
  readonly shared: SharedObjects | undefined;
}

/*
 * Objects are read by going along the keys that they have: most lack most keys, and asking each of them for every key by its name took
 * four times as long.
 */

/** What a cardholder says about access. */
function readCardholder(cardholder: Cardholder): {
  readonly isActive: boolean;
  readonly department: string | undefined;
  readonly hasWindow: boolean;
  readonly mayHavePersonalRules: boolean;
} {
  let [isActive, hasWindow, mayHavePersonalRules] = [false, false, false];
  let department: string | undefined;
  for (const key in cardholder)
    switch (key) {
      case "status":
        isActive = cardholder[key] === "active";
        break;
      case "department":
        department = cardholder[key];
        break;
      case "from":
      case "until":
        hasWindow = true;
        break;
      case "calendar":
      case "hours":
      case "sites":
      case "override":
      case "lockdownPass":
      case "pinExempt":
        mayHavePersonalRules = true;
        break;
    }
  return { isActive, department, hasWindow, mayHavePersonalRules };
}

/** What a credential says about access. */
function readCredential(credential: Credential): { readonly isPlain: boolean; readonly presents: number; readonly cardholder: string | undefined } {
  let [isActive, hasWindow, isPin, hasPin] = [false, false, false, false];
  let cardholder: string | undefined;
  for (const key in credential)
    switch (key) {
      case "status":
        isActive = credential[key] === "active";
        break;
      case "cardholder":
        cardholder = credential[key];
        break;
      case "kind":
        isPin = credential[key] === "pin";
        break;
      case "hasPin":
      case "duressPin":
        hasPin ||= credential[key] === true;
        break;
      case "pinTag":
        hasPin ||= credential[key] !== undefined;
        break;
      case "from":
      case "until":
      case "expiry":
        hasWindow = true;
        break;
    }
  return { isPlain: isActive && !hasWindow, presents: isPin ? 2 : hasPin ? 1 : 0, cardholder };
}

function membershipFacts({ facility: { memberships }, vocabulary, indexes, shared }: Sources): MembershipFacts {
  if (shared?.memberships.isSame && shared.cardholders.isInPlace && shared.groups.isInPlace) return shared.columns.memberships;
  const groups = indexes.of("groups");
  const memberOf = new Int32Array(memberships.length);
  const groupOf = new Int32Array(memberships.length);
  const window = new Int32Array(memberships.length);
  let near = 0;
  for (let m = 0; m < memberships.length; m++) {
    const was = shared === undefined ? -1 : (shared.memberships.wasAt[m] as number);
    let [holder, group] = [-1, -1];
    if (shared !== undefined && was !== -1) {
      holder = shared.cardholders.nowAt[shared.columns.memberships.memberOf[was] as number] as number;
      group = shared.groups.nowAt[shared.columns.memberships.groupOf[was] as number] as number;
      window[m] = shared.columns.memberships.window[was] as number;
    } else window[m] = vocabulary.windows.of(memberships[m] as Membership).number;
    if (holder === -1) holder = required(indexes.of("cardholders").getNear((memberships[m] as Membership).cardholder, near), "references resolve");
    if (group === -1) group = required(groups.get((memberships[m] as Membership).group), "references resolve");
    memberOf[m] = near = holder;
    groupOf[m] = group;
  }
  return { memberOf, groupOf, window };
}

const emptyHolders = (count: number): HolderFacts => ({
  department: new Int32Array(count),
  personalRules: new Int32Array(count),
  from: new Float64Array(count),
  until: new Float64Array(count),
});

const copiedHolders = ({ department, personalRules, from, until }: HolderFacts): HolderFacts => ({
  department: department.slice(),
  personalRules: personalRules.slice(),
  from: from.slice(),
  until: until.slice(),
});

function holderFacts({ facility: { cardholders }, vocabulary, indexes, shared }: Sources): HolderFacts {
  const groups = indexes.of("groups");
  const was = shared?.columns.holders;
  const wasAt = shared?.cardholders.wasAt;
  // Where everybody stands where they stood, the columns are copied as they are, and only who changed is looked at.
  const isInPlace = shared !== undefined && shared.cardholders.isInPlace && shared.groups.isInPlace;
  const { department, personalRules, from, until } = isInPlace ? copiedHolders(shared.columns.holders) : emptyHolders(cardholders.length);
  let near = 0;
  for (let i = 0; i < cardholders.length; i++) {
    const before = wasAt === undefined ? -1 : (wasAt[i] as number);
    if (before !== -1 && isInPlace) continue;
    if (shared !== undefined && was !== undefined && before !== -1) {
      from[i] = was.from[before] as number;
      until[i] = was.until[before] as number;
      personalRules[i] = was.personalRules[before] as number;
      const groupWas = was.department[before] as number;
      let group = groupWas === -1 ? -1 : (shared.groups.nowAt[groupWas] as number);
      if (groupWas !== -1 && group === -1) group = required(groups.get((cardholders[i] as Cardholder).department ?? ""), "references resolve");
      department[i] = group;
      continue;
    }
    const cardholder = cardholders[i] as Cardholder;
    const { isActive, department: group, hasWindow, mayHavePersonalRules } = readCardholder(cardholder);
    const window = hasWindow ? vocabulary.windows.of(cardholder).outward : unbounded;
    from[i] = window.from;
    until[i] = isActive ? window.until : Math.min(window.until, inactiveFrom(cardholder));
    personalRules[i] = mayHavePersonalRules ? vocabulary.personalRules(cardholder) : 0;
    department[i] = group === undefined ? -1 : (near = required(groups.getNear(group, near), "references resolve"));
  }
  return { department, from, until, personalRules };
}

function cardFacts({ facility: { credentials }, vocabulary, indexes, shared }: Sources): CardFacts {
  if (shared?.credentials.isSame && shared.cardholders.isInPlace) return shared.columns.cards;
  const holderOf = new Int32Array(credentials.length);
  const presents = new Uint8Array(credentials.length);
  const from = new Float64Array(credentials.length);
  const until = new Float64Array(credentials.length);
  const was = shared?.columns.cards;
  const people = indexes.of("cardholders");
  let near = 0;
  for (let i = 0; i < credentials.length; i++) {
    const before = shared === undefined ? -1 : (shared.credentials.wasAt[i] as number);
    if (shared !== undefined && was !== undefined && before !== -1) {
      presents[i] = was.presents[before] as number;
      from[i] = was.from[before] as number;
      until[i] = was.until[before] as number;
      const holderWas = was.holderOf[before] as number;
      let holder = holderWas === -1 ? -1 : (shared.cardholders.nowAt[holderWas] as number);
      if (holderWas !== -1 && holder === -1) holder = required(people.get((credentials[i] as Credential).cardholder ?? ""), "references resolve");
      holderOf[i] = holder;
      continue;
    }
    const credential = credentials[i] as Credential;
    const { isPlain, presents: shown, cardholder } = readCredential(credential);
    presents[i] = shown;
    from[i] = unbounded.from;
    until[i] = unbounded.until;
    if (!isPlain) {
      const life = credentialLife(credential, vocabulary);
      from[i] = life.window.from;
      until[i] = Math.min(life.window.until, life.inactiveFrom);
    }
    holderOf[i] = cardholder === undefined ? -1 : (near = required(people.getNear(cardholder, near), "references resolve"));
  }
  return { holderOf, presents, from, until };
}

/** Positions of the credentials that are given something themselves: hardly any, so that they are found by one walk rather than through an index of all. */
function givenCredentials({ grants, credentials }: Facility): ReadonlyMap<string, Position> {
  const given = new Set<string>();
  for (const { to } of grants) if (to.credential !== undefined) given.add(to.credential);
  return positionsOf(given, credentials);
}

function grantFacts({ facility, vocabulary, indexes, shared }: Sources): GrantFacts {
  const { grants } = facility;
  const groups = indexes.of("groups");
  const toCardholder = new Int32Array(grants.length).fill(-1);
  const toGroup = new Int32Array(grants.length).fill(-1);
  const toCredential = new Int32Array(grants.length).fill(-1);
  const kind = new Int32Array(grants.length);
  let byCredential: ReadonlyMap<string, Position> | undefined;
  const was = shared?.columns.grants;
  for (let g = 0; g < grants.length; g++) {
    const before = shared === undefined ? -1 : (shared.grants.wasAt[g] as number);
    if (shared !== undefined && was !== undefined && before !== -1) {
      kind[g] = was.kind[before] as number;
      const [holder, group, card] = [was.toCardholder[before] as number, was.toGroup[before] as number, was.toCredential[before] as number];
      if (holder !== -1) toCardholder[g] = shared.cardholders.nowAt[holder] as number;
      if (group !== -1) toGroup[g] = shared.groups.nowAt[group] as number;
      if (card !== -1) toCredential[g] = shared.credentials.nowAt[card] as number;
      if (toCardholder[g] !== -1 || toGroup[g] !== -1 || toCredential[g] !== -1) continue;
    } else kind[g] = vocabulary.grantKinds.number(grants[g] as Grant);
    const { cardholder, group, credential } = (grants[g] as Grant).to;
    if (cardholder !== undefined) toCardholder[g] = required(indexes.of("cardholders").get(cardholder), "references resolve");
    else if (group !== undefined) toGroup[g] = required(groups.get(group), "references resolve");
    else toCredential[g] = required((byCredential ??= givenCredentials(facility)).get(credential ?? ""), "references resolve");
  }
  return { toCardholder, toGroup, toCredential, kind };
}

/**
 * What people, cards, memberships and grants say, as columns of numbers. Cost: one look at each object that was not there before, and a
 * handful of numbers looked up for it.
 */
export function objectColumns(sources: Sources): ObjectColumns {
  return { memberships: membershipFacts(sources), holders: holderFacts(sources), cards: cardFacts(sources), grants: grantFacts(sources) };
}
