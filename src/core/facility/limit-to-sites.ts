import type { Cardholder, Grant, LevelRow } from "./document";
import type { Facility } from "./facility";

/** Ids of those that are kept, with those that they lead to, and so on. */
function withAll(ids: Iterable<string>, next: (id: string) => readonly string[]): Set<string> {
  const found = new Set<string>();
  const waiting = [...ids];
  for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
    if (found.has(id)) continue;
    found.add(id);
    waiting.push(...next(id));
  }
  return found;
}

const one = (id: string | undefined): readonly string[] => (id === undefined ? [] : [id]);

/** `value` without a field whose id is not among those that are kept. */
function without<T extends object, K extends keyof T>(value: T, key: K, kept: ReadonlySet<string>): T {
  const id = value[key];
  if (id === undefined || kept.has(String(id))) return value;
  const { [key]: _, ...rest } = value;
  return rest as T;
}

/** Somebody who is named and opens nothing here: a manager, an owner, a sponsor. */
const named = ({ id, name, status, statusSince }: Cardholder): Cardholder => ({ id, name, status, ...(statusSince !== undefined && { statusSince }) });

/**
 * A facility as who is limited to some of its sites sees it: their areas and doors, with the doors on the way to them; what opens one of these; and whoever may
 * open one of these by some grant or override. Whoever is only named by them, as a manager is, is there by name alone. Of every door that is kept and every
 * credential it says of opening just what the whole facility says, and nobody else opens one of these doors.
 */
export function limitToSites(facility: Facility, sites: ReadonlySet<string>): Facility {
  const doorById = new Map(facility.doors.map((door) => [door.id, door]));
  const own = facility.doors.filter(({ site }) => sites.has(site)).map(({ id }) => id);
  const doorIds = withAll(own, (id) => one(doorById.get(id)?.via));
  const doors = facility.doors.filter(({ id }) => doorIds.has(id));
  const areaById = new Map(facility.areas.map((area) => [area.id, area]));
  const areaIds = withAll([...facility.areas.filter(({ site }) => sites.has(site)).map(({ id }) => id), ...doors.flatMap(({ area }) => area ?? [])], (id) =>
    one(areaById.get(id)?.parent),
  );
  // An area may have doors of another site than its own: what is kept is named by its site, too.
  const siteIds = new Set([...sites, ...doors.map(({ site }) => site), ...[...areaIds].flatMap((id) => areaById.get(id)?.site ?? [])]);
  const groupsOfDoors = new Map(facility.doorGroups.map((group) => [group.id, group]));
  const holds = new Map<string, boolean>();
  const holdsDoor = (id: string): boolean => {
    const known = holds.get(id);
    if (known !== undefined) return known;
    holds.set(id, false);
    const group = groupsOfDoors.get(id);
    const isHeld = !!group && ((group.doors ?? []).some((door) => doorIds.has(door)) || (group.groups ?? []).some(holdsDoor));
    holds.set(id, isHeld);
    return isHeld;
  };
  const opensDoor = ({ door, doorGroup, area }: Pick<LevelRow, "door" | "doorGroup" | "area">): boolean =>
    door !== undefined ? doorIds.has(door) : doorGroup !== undefined ? holdsDoor(doorGroup) : area !== undefined && areaIds.has(area);
  const levels = facility.levels.map((level) => ({ ...level, rows: (level.rows ?? []).filter(opensDoor) })).filter(({ rows }) => rows.length > 0);
  const levelIds = new Set(levels.map(({ id }) => id));
  const bundles = facility.bundles
    .map((bundle) => ({ ...bundle, levels: (bundle.levels ?? []).filter((id) => levelIds.has(id)) }))
    .filter((bundle) => bundle.levels.length > 0);
  const bundleIds = new Set(bundles.map(({ id }) => id));
  const grants = facility.grants.filter(({ open }: Grant) =>
    open.level !== undefined ? levelIds.has(open.level) : open.bundle !== undefined ? bundleIds.has(open.bundle) : opensDoor(open),
  );
  const people = peopleOf(facility, grants, siteIds);
  const cardholderById = new Map(facility.cardholders.map((one) => [one.id, one]));
  const schedules = new Set(facility.schedules.map(({ id }) => id));
  const groups = facility.groups.filter(({ id }) => people.groups.has(id));
  const areas = facility.areas.filter(({ id }) => areaIds.has(id)).map((area) => without(area, "parent", areaIds));
  const byNameAlone = new Set(
    [
      ...groups.flatMap(({ manager }) => manager ?? []),
      ...areas.flatMap(({ owner }) => owner ?? []),
      ...[...people.cardholders].flatMap((id) => [cardholderById.get(id)?.manager ?? [], cardholderById.get(id)?.sponsor ?? []].flat()),
    ].filter((id) => !people.cardholders.has(id)),
  );
  const limited: Omit<Facility, keyof { readonly [brand: symbol]: unknown }> = {
    ...facility,
    sites: facility.sites.filter(({ id }) => siteIds.has(id)),
    areas,
    doors: doors.map((door) => without(door, "from", areaIds)),
    doorGroups: facility.doorGroups
      .filter(({ id }) => holdsDoor(id))
      .map((group) => ({ ...group, doors: (group.doors ?? []).filter((id) => doorIds.has(id)), groups: (group.groups ?? []).filter(holdsDoor) })),
    levels,
    bundles,
    groups,
    memberships: facility.memberships.filter(({ group, cardholder }) => people.groups.has(group) && people.cardholders.has(cardholder)),
    cardholders: facility.cardholders.flatMap((one) => {
      if (byNameAlone.has(one.id)) return [named(one)];
      if (!people.cardholders.has(one.id)) return [];
      const { override, sites: own, ...rest } = without(one, "hours", schedules);
      return [
        {
          ...rest,
          ...(own && { sites: own.filter((id) => siteIds.has(id)) }),
          ...(override !== undefined && { override: override === true ? true : override.filter((id) => siteIds.has(id)) }),
        },
      ];
    }),
    credentials: facility.credentials.filter(({ id, cardholder }) =>
      cardholder === undefined ? people.credentials.has(id) : people.cardholders.has(cardholder),
    ),
    grants: grants.filter(({ to }) =>
      to.cardholder !== undefined
        ? people.cardholders.has(to.cardholder)
        : to.group !== undefined
          ? people.groups.has(to.group)
          : people.credentials.has(to.credential ?? ""),
    ),
  };
  return limited as Facility;
}

/** Whoever may open something by the grants that are left or by an override of these sites; the groups that they are in, and those above. */
function peopleOf({ groups, memberships, cardholders, credentials }: Facility, grants: readonly Grant[], sites: ReadonlySet<string>) {
  const groupById = new Map(groups.map((group) => [group.id, group]));
  const above = (id: string): readonly string[] => one(groupById.get(id)?.parent);
  const receiving = new Set(grants.flatMap(({ to }) => to.group ?? []));
  const below = new Map<string, string[]>();
  for (const { id, parent } of groups) if (parent !== undefined) below.set(parent, [...(below.get(parent) ?? []), id]);
  const reached = withAll(receiving, (id) => below.get(id) ?? []);
  const holderOf = new Map(credentials.map(({ id, cardholder }) => [id, cardholder]));
  const kept = new Set([
    ...grants.flatMap(({ to }) => to.cardholder ?? []),
    ...grants.flatMap(({ to }) => (to.credential === undefined ? [] : (holderOf.get(to.credential) ?? []))),
    ...memberships.filter(({ group }) => reached.has(group)).map(({ cardholder }) => cardholder),
    ...cardholders
      .filter(({ department, override }) => (department !== undefined && reached.has(department)) || overridesAny(override, sites))
      .map(({ id }) => id),
  ]);
  const departments = cardholders.filter(({ id }) => kept.has(id)).flatMap(({ department }) => department ?? []);
  const inGroups = memberships.filter(({ cardholder }) => kept.has(cardholder)).map(({ group }) => group);
  return {
    cardholders: kept,
    credentials: new Set(grants.flatMap(({ to }) => to.credential ?? [])),
    groups: withAll([...receiving, ...departments, ...inGroups], above),
  };
}

const overridesAny = (override: Cardholder["override"], sites: ReadonlySet<string>): boolean =>
  override === true || (override ?? []).some((id) => sites.has(id));
