import { LazyList } from "./lazy-list";
import { required } from "../kernel/invariant";
import type { Position, PositionIndex } from "./position-index";
import type { Facility } from "../facility/facility";
import { calendarOf, scheduleOf } from "../facility/time-rules";
import type { IntervalSet } from "../time/intervals";
import { openDuring } from "../time/schedule";
import { zoneOf } from "../time/zone";
import { compileDoors } from "./compile-doors";
import type { CompiledCardholder, CompiledCredential, CompiledFacility, CompiledGrant, GivenRoutes } from "./compiled-facility";
import type { GrantFacts, ObjectColumns } from "./object-facts";
import { coverageOf } from "./coverage";
import { grantChains } from "./grant-chains";
import type { GrantKinds } from "./grant-kinds";
import { sharedWith } from "./alignment";
import { credentialLife, inactiveFrom } from "./lives";
import { objectColumns } from "./object-columns";
import { PositionIndexes, sameIds } from "./position-indexes";
import { credentialsByHolder, credentialsOf, membershipChains } from "./holdings";
import { RouteLists } from "./route-lists";
import type { RouteList } from "./route-lists";
import { Vocabulary } from "./vocabulary";

/** Every group's chain: itself, its parent, and so on up. */
function chainsOf(facility: Facility, groupById: PositionIndex): (group: Position) => readonly Position[] {
  const chains = new Map<Position, readonly Position[]>();
  return (group) => {
    let chain = chains.get(group);
    if (!chain) {
      const groups = [group];
      for (let parent = facility.groups[group]?.parent; parent !== undefined;) {
        const position = required(groupById.get(parent), "references resolve");
        groups.push(position);
        parent = facility.groups[position]?.parent;
      }
      chain = groups;
      chains.set(group, chain);
    }
    return chain;
  };
}

/**
 * Lays a facility out for being asked. Cost: linear in the document; coverage and timelines are worked out when first needed.
 * Objects that it shares with a facility compiled before, as a draft does with the register, are not read again.
 */
export function compileFacility(facility: Facility, before?: CompiledFacility): CompiledFacility {
  const zone = zoneOf(facility.timeZone);
  const shared = sharedWith(before, facility);
  const vocabulary = before && shared ? before.vocabulary : new Vocabulary(zone);
  const { windows, grantKinds } = vocabulary;
  const indexes = new PositionIndexes(facility, before?.indexes);
  const calendarById = indexes.of("calendars");
  const scheduleById = indexes.of("schedules");
  const groupById = indexes.of("groups");
  const calendars = facility.calendars === before?.facility.calendars ? before.calendars : facility.calendars.map(calendarOf);
  const schedules = facility.schedules.map(scheduleOf);
  const doors = compileDoors(facility, indexes, before);
  const chainOf = chainsOf(facility, groupById);

  const objects = objectColumns({ facility, vocabulary, indexes, shared });
  const chains = grantChains(objects.grants, {
    cardholders: facility.cardholders.length,
    groups: facility.groups.length,
    credentials: facility.credentials.length,
  });
  const holdings = { grants: chains, memberships: membershipChains(objects), credentials: credentialsByHolder(objects, shared) };
  const lists = new RouteLists({ chainOf, grants: objects.grants, chains, vocabulary });
  const grants = new LazyList<CompiledGrant>(facility.grants.length, (position) => {
    const { blocks, window, schedule } = grantKinds.at(objects.grants.kind[position] as number);
    return {
      position,
      grant: required(facility.grants[position], "positions are valid"),
      blocks,
      window,
      schedule: schedule === undefined ? undefined : scheduleById.get(schedule),
    };
  });

  const through = (list: RouteList, membership?: Position): GivenRoutes => ({ list, membership });
  const directly = (first: Position): GivenRoutes[] => (first === -1 ? [] : [through(lists.directly(first))]);
  const cardholders = new LazyList<CompiledCardholder>(facility.cardholders.length, (position) => {
    const cardholder = required(facility.cardholders[position], "positions are valid");
    const routes = directly(chains.ofCardholder[position] as Position);
    const department = objects.holders.department[position] as Position;
    if (department !== -1) routes.push(through(lists.byDepartment(department)));
    const { memberships } = holdings;
    for (let m = memberships.ofCardholder[position] as Position; m !== -1; m = memberships.next[m] as Position)
      routes.push(through(lists.byMembership(objects.memberships.groupOf[m] as Position, objects.memberships.window[m] as number), m));
    return {
      position,
      cardholder,
      life: { inactiveFrom: inactiveFrom(cardholder), window: windows.of(cardholder).outward },
      calendar: cardholder.calendar === undefined ? undefined : calendarById.get(cardholder.calendar),
      hours: cardholder.hours === undefined ? undefined : scheduleById.get(cardholder.hours),
      sites: cardholder.sites && new Set(cardholder.sites),
      override: cardholder.override === true ? "everywhere" : cardholder.override && new Set(cardholder.override),
      credentials: Array.from(credentialsOf(holdings, position), (credential) => credential),
      routes,
    };
  });
  const credentials = new LazyList<CompiledCredential>(facility.credentials.length, (position) => {
    const credential = required(facility.credentials[position], "positions are valid");
    return {
      position,
      credential,
      holder: cardholders.at(objects.cards.holderOf[position] as number),
      life: credentialLife(credential, vocabulary),
      hasPin: objects.cards.presents[position] !== 0,
      ownRoutes: directly(chains.ofCredential[position] as Position),
    };
  });

  const cover = before && isCoveredAlike(before.facility, facility) ? before.cover : coverageOf(facility, doors, indexes);
  const ways: ReturnType<typeof cover>[] = [];
  const waysOf = (grant: Position) => (ways[grant] ??= cover(required(facility.grants[grant], "positions are valid").open));
  return {
    facility,
    calendars,
    schedules,
    doors,
    cardholders,
    credentials,
    grants,
    objects,
    holdings,
    shared,
    vocabulary,
    indexes,
    chainOf,
    doorById: indexes.of("doors"),
    groupById,
    get cardholderById() {
      return indexes.of("cardholders");
    },
    get credentialById() {
      return indexes.of("credentials");
    },
    cover,
    waysOf,
    grantsCovering: grantsByDoor(objects.grants, grantKinds, cover),
    cardholdersIn: cardholdersByGroup(objects, chainOf),
    timeline: timelines(schedules, calendars),
  };
}

/** Whether targets cover the same doors by the same ways. */
const isCoveredAlike = (a: Facility, b: Facility): boolean =>
  a.doors === b.doors &&
  a.areas === b.areas &&
  a.doorGroups === b.doorGroups &&
  a.levels === b.levels &&
  a.bundles === b.bundles &&
  sameIds(a.schedules, b.schedules);

function grantsByDoor({ kind }: GrantFacts, kinds: GrantKinds, cover: CompiledFacility["cover"]): CompiledFacility["grantsCovering"] {
  let byDoor: Map<Position, Position[]> | undefined;
  return (door) => {
    if (!byDoor) {
      byDoor = new Map();
      for (let grant = 0; grant < kind.length; grant++)
        for (const covered of cover(kinds.at(kind[grant] as number).open).keys()) {
          const list = byDoor.get(covered);
          if (list) list.push(grant);
          else byDoor.set(covered, [grant]);
        }
    }
    return byDoor.get(door) ?? [];
  };
}

function cardholdersByGroup(
  { holders: { department }, memberships: { memberOf, groupOf } }: ObjectColumns,
  chainOf: (group: Position) => readonly Position[],
): CompiledFacility["cardholdersIn"] {
  let members: Map<Position, Set<Position>> | undefined;
  const none: ReadonlySet<Position> = new Set();
  return (group) => {
    if (!members) {
      members = new Map();
      const add = (below: Position, cardholder: Position): void => {
        for (const above of chainOf(below)) {
          const set = members?.get(above);
          if (set) set.add(cardholder);
          else members?.set(above, new Set([cardholder]));
        }
      };
      department.forEach((below, cardholder) => {
        if (below !== -1) add(below, cardholder);
      });
      memberOf.forEach((cardholder, m) => add(groupOf[m] as number, cardholder));
    }
    return members.get(group) ?? none;
  };
}

/** More ranges than this in memory and the timelines are forgotten; each is cheap to lay out again. */
const rememberedRanges = 16;

function timelines(schedules: CompiledFacility["schedules"], calendars: CompiledFacility["calendars"]): CompiledFacility["timeline"] {
  const ranges = new Map<string, Map<string, IntervalSet>>();
  return (schedule, calendar, zone, from, to) => {
    const rangeKey = `${from} ${to}`;
    let known = ranges.get(rangeKey);
    if (!known) {
      if (ranges.size >= rememberedRanges) ranges.clear();
      known = new Map();
      ranges.set(rangeKey, known);
    }
    const key = `${schedule} ${calendar ?? ""} ${zone.name}`;
    let set = known.get(key);
    if (!set) {
      const rule = required(schedules[schedule], "positions are valid");
      set = openDuring(rule, calendar === undefined ? undefined : calendars[calendar], zone, from, to);
      known.set(key, set);
    }
    return set;
  };
}
