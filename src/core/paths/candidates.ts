import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledCredential, CompiledFacility } from "../compile/compiled-facility";
import { routesOf } from "./paths";

/** Doors, of those that are asked about, that a credential could open at some time as far as grants and overrides go, in order of position. */
export function candidateDoors(compiled: CompiledFacility, credential: CompiledCredential, isAsked: (door: Position) => boolean = () => true): Position[] {
  if (credential.holder?.override) return compiled.doors.map(({ position }) => position).filter(isAsked);
  const doors = new Set<Position>();
  for (const { list } of routesOf(credential))
    for (const { grant } of list.routes) {
      if (compiled.grants.at(grant)?.blocks) continue;
      for (const door of compiled.waysOf(grant).keys()) if (isAsked(door)) doors.add(door);
    }
  return [...doors].sort((a, b) => a - b);
}

/**
 * Credentials that could open a door at some time as far as grants and overrides go, in order of position: found from the
 * grants that cover the door, so that nobody else is looked at.
 */
export function candidateCredentials(compiled: CompiledFacility, door: Position): CompiledCredential[] {
  const found = new Set<Position>();
  const addHolder = (cardholder: Position): void => {
    for (const credential of required(compiled.cardholders.at(cardholder), "positions are valid").credentials) found.add(credential);
  };
  for (const grant of compiled.grantsCovering(door)) {
    const { blocks, grant: given } = required(compiled.grants.at(grant), "positions are valid");
    if (blocks) continue;
    if (given.to.credential !== undefined) found.add(required(compiled.credentialById.get(given.to.credential), "references resolve"));
    else if (given.to.cardholder !== undefined) addHolder(required(compiled.cardholderById.get(given.to.cardholder), "references resolve"));
    else for (const cardholder of compiled.cardholdersIn(required(compiled.groupById.get(given.to.group), "references resolve"))) addHolder(cardholder);
  }
  // An override is a rule of their own: of hardly anybody more is looked at than that they have none.
  const { personalRules } = compiled.objects.holders;
  for (let cardholder = 0; cardholder < personalRules.length; cardholder++)
    if (personalRules[cardholder] !== 0 && compiled.cardholders.at(cardholder)?.override) addHolder(cardholder);
  return [...found].sort((a, b) => a - b).map((position) => required(compiled.credentials.at(position), "positions are valid"));
}
