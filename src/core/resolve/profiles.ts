import type { CompiledCredential, CompiledFacility, GivenRoutes, Position } from "../compile/compiled-facility";
import { routesOf } from "./paths";

/**
 * All that decides what a credential opens, but for when it is live: people and cards fall into far fewer profiles than there
 * are of them. `sample` stands for all credentials of a profile.
 */
export interface Profile {
  readonly sample: CompiledCredential;
  readonly routes: readonly GivenRoutes[];
}

export interface Profiles {
  readonly profiles: readonly Profile[];
  /** Index i: number of the profile of credential i. */
  readonly ofCredential: Int32Array;
}

const setKey = (set: "everywhere" | ReadonlySet<string> | undefined): string =>
  set === undefined ? "" : set === "everywhere" ? "*" : JSON.stringify([...set].sort());

const noHolder = "-";

/** Sorts credentials into profiles. Cost: one short text for each cardholder and for each credential with grants of its own. */
export function profilesOf(compiled: CompiledFacility): Profiles {
  const holderKeys: (string | undefined)[] = [];
  const holderKey = (position: Position): string => {
    let key = holderKeys[position];
    if (key === undefined) {
      const holder = compiled.cardholders[position];
      if (!holder) return noHolder;
      const { cardholder, calendar, hours, sites, override, routes } = holder;
      const lists = routes.length === 1 ? String(routes[0]?.list.number) : [...new Set(routes.map(({ list }) => list.number))].sort((a, b) => a - b).join();
      key = `${lists} ${calendar ?? ""} ${hours ?? ""} ${setKey(sites)} ${setKey(override)} ${cardholder.lockdownPass ? 1 : 0}${cardholder.pinExempt ? 1 : 0}`;
      holderKeys[position] = key;
    }
    return key;
  };
  const numbers = new Map<string, number>();
  const profiles: Profile[] = [];
  const ofCredential = new Int32Array(compiled.credentials.length);
  compiled.credentials.forEach((credential, i) => {
    const own = credential.ownRoutes.map(({ list }) => list.number).join();
    const means = credential.credential.kind === "pin" ? "p" : credential.hasPin ? "b" : "c";
    const key = `${means}${own} ${credential.holder ? holderKey(credential.holder.position) : noHolder}`;
    let number = numbers.get(key);
    if (number === undefined) {
      number = profiles.push({ sample: credential, routes: routesOf(credential) }) - 1;
      numbers.set(key, number);
    }
    ofCredential[i] = number;
  });
  return { profiles, ofCredential };
}
