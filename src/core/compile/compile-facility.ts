import { LazyList } from "../kernel/lazy-list";
import { present } from "../kernel/invariant";
import { PositionIndex } from "../kernel/position-index";
import type { IntervalSet } from "../time/intervals";
import { openDuring } from "../time/schedule";
import { zoneOf } from "../time/zone";
import type { Facility } from "../facility/facility";
import { calendarOf, scheduleOf } from "../facility/time-rules";
import { accessColumns } from "./access-columns";
import type { CompiledCardholder, CompiledCredential, CompiledDoor, CompiledFacility, CompiledGrant, GivenRoutes, Position } from "./compiled-facility";
import { coverageOf } from "./coverage";
import { givenGrants } from "./given-grants";
import { keptFrom, sameIds } from "./kept";
import { credentialLife, inactiveFrom, windowReader } from "./lives";
import { RouteLists } from "./route-lists";

function compileDoors(facility: Facility, calendarById: PositionIndex): CompiledDoor[] {
  const sites = new Map(facility.sites.map((site) => [site.id, site]));
  const areaById = new PositionIndex(facility.areas);
  const doorById = new PositionIndex(facility.doors);
  const schedules = new PositionIndex(facility.schedules);
  const scheduleAt = (id: string): Position => present(schedules.get(id), "references resolve");
  return facility.doors.map((door, position) => {
    const site = present(sites.get(door.site), "references resolve");
    const areas: Position[] = [];
    for (let area = areaById.get(door.area ?? ""); area !== undefined; area = areaById.get(facility.areas[area]?.parent ?? ""))
      areas.push(area);
    return {
      position,
      door,
      zone: zoneOf(site.timeZone),
      calendar: site.calendar === undefined ? undefined : calendarById.get(site.calendar),
      via: door.via === undefined ? undefined : doorById.get(door.via),
      areas: door.area === undefined ? [] : areas,
      entry: door.entry ?? "card",
      entryRows: (door.entryRows ?? []).map(({ schedule, entry }) => ({ schedule: scheduleAt(schedule), entry })),
      unlock: door.unlock === undefined ? undefined : scheduleAt(door.unlock),
    };
  });
}

/** Every group's chain: itself, its parent, and so on up. */
function chainsOf(facility: Facility, groupById: PositionIndex): (group: Position) => readonly Position[] {
  const chains = new Map<Position, readonly Position[]>();
  return (group) => {
    let chain = chains.get(group);
    if (!chain) {
      const groups = [group];
      for (let parent = facility.groups[group]?.parent; parent !== undefined; ) {
        const position = present(groupById.get(parent), "references resolve");
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
  const calendarById = new PositionIndex(facility.calendars);
  const scheduleById = new PositionIndex(facility.schedules);
  const groupById = new PositionIndex(facility.groups);
  const cardholderById = before && sameIds(before.facility.cardholders, facility.cardholders) ? before.cardholderById : new PositionIndex(facility.cardholders);
  const calendars = facility.calendars.map(calendarOf);
  const schedules = facility.schedules.map(scheduleOf);
  const doors = compileDoors(facility, calendarById);
  const chainOf = chainsOf(facility, groupById);

  const windowOf = windowReader(zone);
  const grants: CompiledGrant[] = facility.grants.map((grant, position) => ({
    position,
    grant,
    blocks: grant.effect === "block",
    window: windowOf(grant, grant.effect === "block" ? "inward" : "outward"),
    schedule: grant.schedule === undefined ? undefined : scheduleById.get(grant.schedule),
  }));
  let credentialIndex: PositionIndex | undefined;
  // Only single questions need it.
  const credentialById = (): PositionIndex => (credentialIndex ??= new PositionIndex(facility.credentials));
  const given = givenGrants(facility, cardholderById, groupById);
  const lists = new RouteLists(chainOf, grants, given);
  const columns = accessColumns({ facility, zone, windowOf, lists, cardholderById, groupById, given, kept: keptFrom(before, facility) });

  const throughList = (list: number, membership: Position | undefined): GivenRoutes => ({ list: lists.at(list), membership });
  const cardholders = new LazyList<CompiledCardholder>(facility.cardholders.length, (position) => {
    const cardholder = present(facility.cardholders[position], "positions are valid");
    const routes: GivenRoutes[] = [];
    for (const list of [columns.directList[position] as number, columns.departmentList[position] as number]) if (list !== -1) routes.push(throughList(list, undefined));
    for (let m = columns.firstMembership[position] as number; m !== -1; m = columns.nextMembership[m] as number) routes.push(throughList(columns.membershipList[m] as number, m));
    return {
      position,
      cardholder,
      life: { inactiveFrom: inactiveFrom(cardholder), window: windowOf(cardholder, "outward") },
      calendar: cardholder.calendar === undefined ? undefined : calendarById.get(cardholder.calendar),
      hours: cardholder.hours === undefined ? undefined : scheduleById.get(cardholder.hours),
      sites: cardholder.sites && new Set(cardholder.sites),
      override: cardholder.override === true ? "everywhere" : cardholder.override && new Set(cardholder.override),
      credentials: [...columns.carried.subarray(columns.carriedStart[position], columns.carriedStart[position + 1])],
      routes,
    };
  });
  const credentials = new LazyList<CompiledCredential>(facility.credentials.length, (position) => {
    const credential = present(facility.credentials[position], "positions are valid");
    const ownList = columns.ownList.get(position);
    return {
      position,
      credential,
      holder: cardholders.at(columns.holderOf[position] as number),
      life: credentialLife(credential, zone, windowOf),
      hasPin: columns.means[position] !== 0,
      ownRoutes: ownList === undefined ? [] : [throughList(ownList, undefined)],
    };
  });

  const cover = coverageOf(facility, doors);
  const ways: ReturnType<typeof cover>[] = [];
  const waysOf = (grant: Position) => (ways[grant] ??= cover(present(facility.grants[grant], "positions are valid").open));
  return {
    facility,
    calendars,
    schedules,
    doors,
    cardholders,
    credentials,
    columns,
    eachRoute: (list, visit) => lists.each(list, visit),
    grants,
    doorById: new PositionIndex(facility.doors),
    groupById,
    cardholderById,
    get credentialById() {
      return credentialById();
    },
    waysOf,
    grantsCovering: grantsByDoor(grants, waysOf),
    cardholdersIn: cardholdersByGroup(facility, groupById, cardholderById, chainOf),
    timeline: timelines(schedules, calendars),
  };
}

function grantsByDoor(grants: readonly CompiledGrant[], waysOf: CompiledFacility["waysOf"]): CompiledFacility["grantsCovering"] {
  let byDoor: Map<Position, Position[]> | undefined;
  return (door) => {
    if (!byDoor) {
      byDoor = new Map();
      for (const { position } of grants)
        for (const covered of waysOf(position).keys()) {
          const list = byDoor.get(covered);
          if (list) list.push(position);
          else byDoor.set(covered, [position]);
        }
    }
    return byDoor.get(door) ?? [];
  };
}

function cardholdersByGroup(
  facility: Facility,
  groupById: PositionIndex,
  cardholderById: PositionIndex,
  chainOf: (group: Position) => readonly Position[],
): CompiledFacility["cardholdersIn"] {
  let members: Map<Position, Set<Position>> | undefined;
  const none: ReadonlySet<Position> = new Set();
  return (group) => {
    if (!members) {
      members = new Map();
      const add = (groupId: string, cardholder: Position): void => {
        for (const above of chainOf(present(groupById.get(groupId), "references resolve"))) {
          const set = members?.get(above);
          if (set) set.add(cardholder);
          else members?.set(above, new Set([cardholder]));
        }
      };
      facility.cardholders.forEach(({ department }, position) => {
        if (department !== undefined) add(department, position);
      });
      for (const { group: id, cardholder } of facility.memberships)
        add(id, present(cardholderById.get(cardholder), "references resolve"));
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
      const rule = present(schedules[schedule], "positions are valid");
      set = openDuring(rule, calendar === undefined ? undefined : calendars[calendar], zone, from, to);
      known.set(key, set);
    }
    return set;
  };
}
