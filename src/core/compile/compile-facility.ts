import { groupBy } from "../kernel/compare";
import { present } from "../kernel/invariant";
import { addSeconds, always, minuteUp, never, parseMoment } from "../time/instant";
import type { EpochMinute, Instant } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { openDuring } from "../time/schedule";
import { intersectWindows, unbounded } from "../time/window";
import type { Rounding, Window } from "../time/window";
import { firstMinuteFrom, zoneOf } from "../time/zone";
import type { Zone } from "../time/zone";
import type { Cardholder, Credential } from "../facility/draft";
import type { Facility } from "../facility/facility";
import { calendarOf, instantOf, objectWindow, scheduleOf } from "../facility/time-rules";
import type {
  CompiledCardholder,
  CompiledCredential,
  CompiledDoor,
  CompiledFacility,
  CompiledGrant,
  GivenRoutes,
  GrantRoute,
  Position,
  RouteList,
} from "./compiled-facility";
import { coverageOf, positionsById, targetKey } from "./coverage";

/** From when on a status other than `active` holds; never, where it is `active`. */
function inactiveFrom(object: Cardholder | Credential): EpochMinute {
  if (object.status === "active") return never;
  return object.statusSince === undefined ? always : minuteUp(instantOf(object.statusSince));
}

const secondsADay = 86400;

/** End by use: `days` × 24 h after the unrounded instant of the use, rounded up; never where nothing starts the count. */
function expiryEnd(credential: Credential, zone: Zone): EpochMinute {
  const { expiry } = credential;
  if (!expiry) return never;
  const use = expiry.after === "first-use" ? credential.firstUse : credential.lastUse;
  let start: Instant | undefined = use === undefined ? undefined : instantOf(use);
  if (!start && expiry.after === "last-use" && credential.from !== undefined) {
    const from = present(parseMoment(credential.from), "a well-formed document has possible moments");
    start = from.kind === "instant" ? from.instant : { seconds: firstMinuteFrom(zone, from.date) * 60, fraction: "" };
  }
  return start ? minuteUp(addSeconds(start, expiry.days * secondsADay)) : never;
}

function compileDoors(facility: Facility, calendarById: ReadonlyMap<string, Position>): CompiledDoor[] {
  const sites = new Map(facility.sites.map((site) => [site.id, site]));
  const areaById = positionsById(facility.areas);
  const doorById = positionsById(facility.doors);
  const schedules = positionsById(facility.schedules);
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

const none: readonly Position[] = [];

/** Positions of objects by the position of the cardholder that they name; undefined for a cardholder with none. */
function positionsBy<T>(objects: readonly T[], cardholderById: ReadonlyMap<string, Position>, cardholderOf: (object: T) => string | undefined): (Position[] | undefined)[] {
  const lists: (Position[] | undefined)[] = new Array<Position[] | undefined>(cardholderById.size).fill(undefined);
  objects.forEach((object, position) => {
    const id = cardholderOf(object);
    const cardholder = id === undefined ? undefined : cardholderById.get(id);
    if (cardholder === undefined) return;
    const list = lists[cardholder];
    if (list) list.push(position);
    else lists[cardholder] = [position];
  });
  return lists;
}

/** Numbers texts from 0 in the order in which they first come; equal texts have equal numbers. */
function numbering(): (text: string) => number {
  const numbers = new Map<string, number>();
  return (text) => {
    const known = numbers.get(text) ?? numbers.size;
    numbers.set(text, known);
    return known;
  };
}

/** Windows by how they are written: a large register writes few different ones, and most write none. */
function rememberedWindows(zone: Zone): (object: { readonly from?: string; readonly until?: string }, rounding: Rounding) => Window {
  const known = new Map<string, Window>();
  return (object, rounding) => {
    if (object.from === undefined && object.until === undefined) return unbounded;
    const key = `${rounding} ${object.from ?? ""} ${object.until ?? ""}`;
    let window = known.get(key);
    if (!window) {
      window = objectWindow(object, zone, rounding);
      known.set(key, window);
    }
    return window;
  };
}

/** Every group's chain: itself, its parent, and so on up. */
function chainsOf(facility: Facility, groupById: ReadonlyMap<string, Position>): (group: Position) => readonly Position[] {
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

/** Lays a facility out for being asked. Cost: linear in the document; coverage and timelines are worked out when first needed. */
export function compileFacility(facility: Facility): CompiledFacility {
  const zone = zoneOf(facility.timeZone);
  const calendarById = positionsById(facility.calendars);
  const scheduleById = positionsById(facility.schedules);
  const groupById = positionsById(facility.groups);
  const cardholderById = positionsById(facility.cardholders);
  const credentialById = positionsById(facility.credentials);
  const calendars = facility.calendars.map(calendarOf);
  const schedules = facility.schedules.map(scheduleOf);
  const doors = compileDoors(facility, calendarById);
  const chainOf = chainsOf(facility, groupById);

  const windowOf = rememberedWindows(zone);
  const targets = numbering();
  const grants: CompiledGrant[] = facility.grants.map((grant, position) => ({
    position,
    grant,
    blocks: grant.effect === "block",
    window: windowOf(grant, grant.effect === "block" ? "inward" : "outward"),
    schedule: grant.schedule === undefined ? undefined : scheduleById.get(grant.schedule),
    target: targets(targetKey(grant.open)),
  }));
  const grantsTo = (receiver: "cardholder" | "group" | "credential") =>
    groupBy(
      grants.filter(({ grant }) => grant.to[receiver] !== undefined),
      ({ grant }) => grant.to[receiver] as string,
    );
  const grantsToCardholder = grantsTo("cardholder");
  const grantsToGroup = grantsTo("group");
  const grantsToCredential = grantsTo("credential");

  const contents = numbering();
  const listOf = (by: RouteList["by"], routes: readonly GrantRoute[]): RouteList => {
    const content = routes.map(({ grant, window }) => {
      const { target, schedule, blocks, grant: given } = present(grants[grant], "positions are valid");
      return `${target} ${schedule ?? ""} ${blocks} ${!!given.inLockdown} ${window.from} ${window.until}`;
    });
    return { by, routes, number: contents(content.join("|")) };
  };
  const direct = (given: readonly CompiledGrant[] | undefined, by: "cardholder" | "credential"): GivenRoutes[] =>
    given ? [{ list: listOf(by, given.map(({ position, window }) => ({ grant: position, groups: [], window }))), membership: undefined }] : [];

  const departmentLists: (RouteList | undefined)[] = [];
  /** Most people have their grants through their department: found by its position alone. */
  const throughDepartment = (group: Position): RouteList => (departmentLists[group] ??= throughGroup(group, "department", unbounded, unbounded));

  const groupLists = new Map<string, RouteList>();
  /** The grants of a group and those above it, for everybody who has them in the same windows. */
  const throughGroup = (group: Position, by: "department" | "membership", allow: Window, block: Window): RouteList => {
    const key = `${group} ${by} ${allow.from} ${allow.until} ${block.from} ${block.until}`;
    let list = groupLists.get(key);
    if (!list) {
      const chain = chainOf(group);
      const routes = chain.flatMap((above, distance) =>
        (grantsToGroup.get(facility.groups[above]?.id ?? "") ?? []).map((grant) => ({
          grant: grant.position,
          groups: chain.slice(0, distance + 1),
          window: intersectWindows(grant.window, grant.blocks ? block : allow),
        })),
      );
      list = listOf(by, routes);
      groupLists.set(key, list);
    }
    return list;
  };
  const groupAt = (id: string): Position => present(groupById.get(id), "references resolve");

  const membershipsOf = positionsBy(facility.memberships, cardholderById, ({ cardholder }) => cardholder);
  const credentialsOf = positionsBy(facility.credentials, cardholderById, ({ cardholder }) => cardholder);

  const cardholders: CompiledCardholder[] = facility.cardholders.map((cardholder, position) => ({
    position,
    cardholder,
    life: { inactiveFrom: inactiveFrom(cardholder), window: windowOf(cardholder, "outward") },
    calendar: cardholder.calendar === undefined ? undefined : calendarById.get(cardholder.calendar),
    hours: cardholder.hours === undefined ? undefined : scheduleById.get(cardholder.hours),
    sites: cardholder.sites && new Set(cardholder.sites),
    override: cardholder.override === true ? "everywhere" : cardholder.override && new Set(cardholder.override),
    credentials: credentialsOf[position] ?? none,
    routes: [
      ...direct(grantsToCardholder.get(cardholder.id), "cardholder"),
      ...(cardholder.department === undefined
        ? []
        : [{ list: throughDepartment(groupAt(cardholder.department)), membership: undefined }]),
      ...(membershipsOf[position] ?? none).map((at) => {
        const membership = present(facility.memberships[at], "positions are valid");
        return { list: throughGroup(groupAt(membership.group), "membership", windowOf(membership, "outward"), windowOf(membership, "inward")), membership: at };
      }),
    ],
  }));

  const credentials: CompiledCredential[] = facility.credentials.map((credential, position) => {
    const window = windowOf(credential, "outward");
    const holder = credential.cardholder === undefined ? undefined : cardholderById.get(credential.cardholder);
    return {
      position,
      credential,
      holder: holder === undefined ? undefined : cardholders[holder],
      life: {
        inactiveFrom: inactiveFrom(credential),
        window: credential.expiry ? { from: window.from, until: Math.min(window.until, expiryEnd(credential, zone)) as EpochMinute } : window,
      },
      hasPin: credential.kind === "pin" || !!credential.hasPin || !!credential.duressPin || credential.pinTag !== undefined,
      ownRoutes: direct(grantsToCredential.get(credential.id), "credential"),
    };
  });

  const cover = coverageOf(facility, doors);
  const waysOf = (grant: Position) => cover(present(facility.grants[grant], "positions are valid").open);
  return {
    facility,
    calendars,
    schedules,
    doors,
    cardholders,
    credentials,
    grants,
    doorById: positionsById(facility.doors),
    groupById,
    cardholderById,
    credentialById,
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
  groupById: ReadonlyMap<string, Position>,
  cardholderById: ReadonlyMap<string, Position>,
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
