import { PairNumbers, TextNumbers } from "../kernel/pair-table";
import { present } from "../kernel/invariant";
import type { PositionIndex } from "../kernel/position-index";
import type { Cardholder, Credential } from "../facility/draft";
import type { Facility } from "../facility/facility";
import { unbounded } from "../time/window";
import type { Zone } from "../time/zone";
import type { AccessColumns, CompiledGrant, Position } from "./compiled-facility";
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
  /** Grants by the position of the cardholder, or the credential, to whom they are given. */
  readonly grantsToCardholder: ReadonlyMap<Position, readonly CompiledGrant[]>;
  readonly grantsToCredential: ReadonlyMap<Position, readonly CompiledGrant[]>;
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

const memberships = ({ facility, windowOf, lists, cardholderById, groupById }: Sources) => {
  const firstMembership = new Int32Array(facility.cardholders.length).fill(-1);
  const nextMembership = new Int32Array(facility.memberships.length).fill(-1);
  const membershipList = new Int32Array(facility.memberships.length);
  // From the last to the first, so that each cardholder's chain runs in the order of the document.
  for (let m = facility.memberships.length - 1; m >= 0; m--) {
    const membership = present(facility.memberships[m], "positions are valid");
    const holder = present(cardholderById.get(membership.cardholder), "references resolve");
    membershipList[m] = lists.membership(present(groupById.get(membership.group), "references resolve"), windowOf(membership, "outward"), windowOf(membership, "inward"));
    nextMembership[m] = firstMembership[holder] as number;
    firstMembership[holder] = m;
  }
  return { firstMembership, nextMembership, membershipList };
};

/** Lays people and cards out as columns. Cost: one pass over each list; a handful of numbers looked up for each of them. */
export function accessColumns(sources: Sources): AccessColumns {
  const { facility, zone, windowOf, lists, cardholderById, groupById, grantsToCardholder, grantsToCredential } = sources;
  const { cardholders, credentials } = facility;
  const { firstMembership, nextMembership, membershipList } = memberships(sources);
  const departmentList = new Int32Array(cardholders.length).fill(-1);
  const directList = new Int32Array(cardholders.length).fill(-1);
  const holderKey = new Int32Array(cardholders.length);
  const isPeculiar = new Uint8Array(cardholders.length);
  const holderFrom = new Float64Array(cardholders.length);
  const holderUntil = new Float64Array(cardholders.length);
  const listKeys = new PairNumbers();
  const profileKeys = new PairNumbers();
  const texts = new TextNumbers();
  const several: number[] = [];
  for (let i = 0; i < cardholders.length; i++) {
    const cardholder = cardholders[i] as Cardholder;
    const window = windowOf(cardholder, "outward");
    holderFrom[i] = window.from;
    holderUntil[i] = cardholder.status === "active" ? window.until : Math.min(window.until, inactiveFrom(cardholder));
    const { department } = cardholder;
    if (department !== undefined) departmentList[i] = lists.department(present(groupById.get(department), "references resolve"));
    const given = grantsToCardholder.get(i);
    if (given) directList[i] = lists.direct("cardholder", given);
    let key = departmentList[i] === -1 ? 0 : listKeys.number(0, departmentList[i] as number);
    if (given || firstMembership[i] !== -1) {
      several.length = 0;
      for (let m = firstMembership[i] as number; m !== -1; m = nextMembership[m] as number) several.push(membershipList[m] as number);
      if (given) several.push(directList[i] as number);
      several.sort((a, b) => a - b);
      for (let k = 0; k < several.length; k++) if (several[k] !== several[k - 1]) key = listKeys.number(key, several[k] as number);
    }
    const peculiar = peculiarities(cardholder);
    if (peculiar !== "") isPeculiar[i] = 1;
    holderKey[i] = profileKeys.number(key, peculiar === "" ? 0 : texts.number(peculiar));
  }

  const holderOf = new Int32Array(credentials.length).fill(-1);
  const carriedStart = new Int32Array(cardholders.length + 1);
  const liveFrom = new Float64Array(credentials.length);
  const liveUntil = new Float64Array(credentials.length);
  const profileOf = new Int32Array(credentials.length);
  const samples: Position[] = [];
  const ownList = new Map<Position, number>();
  const cardKeys = new PairNumbers();
  const numberOfKey: number[] = [];
  for (let i = 0; i < credentials.length; i++) {
    const credential = credentials[i] as Credential;
    const holder = credential.cardholder === undefined ? -1 : present(cardholderById.get(credential.cardholder), "references resolve");
    let from = unbounded.from as number;
    let until = unbounded.until as number;
    if (credential.status !== "active" || credential.from !== undefined || credential.until !== undefined || credential.expiry) {
      const life = credentialLife(credential, zone, windowOf);
      from = life.window.from;
      until = Math.min(life.window.until, life.inactiveFrom);
    }
    holderOf[i] = holder;
    if (holder !== -1) {
      from = Math.max(from, holderFrom[holder] as number);
      until = Math.min(until, holderUntil[holder] as number);
      carriedStart[holder + 1] = (carriedStart[holder + 1] as number) + 1;
    }
    liveFrom[i] = from;
    liveUntil[i] = until;
    const given = grantsToCredential.get(i);
    let means = meansOf(credential);
    if (given) {
      const list = lists.direct("credential", given);
      ownList.set(i, list);
      means += 3 * (list + 1);
    }
    const key = cardKeys.number(means, holder === -1 ? 0 : (holderKey[holder] as number));
    let profile = numberOfKey[key];
    if (profile === undefined) {
      profile = samples.push(i) - 1;
      numberOfKey[key] = profile;
    }
    profileOf[i] = profile;
  }

  for (let i = 0; i < cardholders.length; i++) carriedStart[i + 1] = (carriedStart[i + 1] as number) + (carriedStart[i] as number);
  const carried = new Int32Array(carriedStart[cardholders.length] as number);
  const next = carriedStart.slice();
  for (let i = 0; i < credentials.length; i++) {
    const holder = holderOf[i] as number;
    if (holder === -1) continue;
    carried[next[holder] as number] = i;
    next[holder] = (next[holder] as number) + 1;
  }
  return { holderOf, carriedStart, carried, liveFrom, liveUntil, profileOf, samples, isPeculiar, departmentList, directList, firstMembership, nextMembership, membershipList, ownList };
}
