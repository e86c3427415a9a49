import type { CompiledFacility } from "../compile/compiled-facility";
import type { HolderId } from "../facility/holder-id";
import { canonicalJson } from "../facility/canonical-json";
import { required } from "../kernel/invariant";
import { byText } from "../kernel/compare";
import type { Position } from "../compile/position-index";
import type { Membership } from "../facility/document";
import type { AccessPath } from "../paths/paths";
import { pathsBetween } from "../paths/paths";

export type CauseKind =
  "grant" | "membership" | "group" | "level" | "bundle" | "doorGroup" | "area" | "schedule" | "calendarEntry" | "site" | "door" | "credential" | "cardholder";

/** Something that plays a part in the access of a cardholder to a door and is not what it was. */
export interface Cause {
  readonly kind: CauseKind;
  /** Id in the document; of a membership the group's, of a calendar's entry the calendar's. */
  readonly id: string;
  readonly what: "added" | "gone" | "changed";
  /** Name of the entry, for an entry of a calendar. */
  readonly entry?: string;
}

interface CausePart {
  readonly kind: CauseKind;
  readonly id: string;
  readonly entry?: string;
  /** Its content in a facility as far as access goes; undefined where it is not there. */
  readonly contentIn: (compiled: CompiledFacility) => string | undefined;
}

type Identified = readonly { readonly id: string }[];
type ListOf = (compiled: CompiledFacility) => Identified;

const lists: Readonly<Partial<Record<CauseKind, ListOf>>> = {
  grant: ({ facility }) => facility.grants,
  level: ({ facility }) => facility.levels,
  bundle: ({ facility }) => facility.bundles,
  doorGroup: ({ facility }) => facility.doorGroups,
  schedule: ({ facility }) => facility.schedules,
  site: ({ facility }) => facility.sites,
  door: ({ facility }) => facility.doors,
  credential: ({ facility }) => facility.credentials,
};

const contentOf = (object: unknown): string | undefined => (object === undefined ? undefined : canonicalJson(object));

const byId = (kind: CauseKind, id: string): CausePart => ({
  kind,
  id,
  contentIn: (compiled) => contentOf(lists[kind]?.(compiled).find((object) => object.id === id)),
});

/** What of a cardholder plays a part in access. */
const person = (id: string): CausePart => ({
  kind: "cardholder",
  id,
  contentIn: ({ facility, cardholderById }) => {
    const found = facility.cardholders[cardholderById.get(id) ?? -1];
    if (!found) return undefined;
    const { status, statusSince, department, sites, from, until, calendar, hours, override, lockdownPass, pinExempt } = found;
    return canonicalJson({ status, statusSince, department, sites, from, until, calendar, hours, override, lockdownPass, pinExempt });
  },
});

const membership = ({ group, cardholder, from, until }: Membership): CausePart => ({
  kind: "membership",
  id: group,
  entry: `${from ?? "always"}–${until ?? "no end"}`,
  contentIn: ({ facility }) =>
    facility.memberships.some((one) => one.group === group && one.cardholder === cardholder && one.from === from && one.until === until) ? "there" : undefined,
});

const group = (id: string): CausePart => ({
  kind: "group",
  id,
  contentIn: ({ facility }) => {
    const found = facility.groups.find((one) => one.id === id);
    return found && (found.parent ?? "");
  },
});

/** Which areas a door lies in, from the nearest up. */
const areaOf = (area: string, door: string): CausePart => ({
  kind: "area",
  id: area,
  contentIn: ({ facility, doors, doorById }) => doors[doorById.get(door) ?? -1]?.areas.map((position) => facility.areas[position]?.id).join(" "),
});

/** The entries of a calendar one by one, so that the one which changed is named; equal names are told apart by their order. */
function calendarEntries(calendar: string, compiled: CompiledFacility): CausePart[] {
  const named = ({ facility }: CompiledFacility, name: string, copy: number) =>
    facility.calendars.find(({ id }) => id === calendar)?.days?.filter((day) => day.name === name)[copy];
  const copies = new Map<string, number>();
  return (compiled.facility.calendars.find(({ id }) => id === calendar)?.days ?? []).map(({ name }) => {
    const copy = copies.get(name) ?? 0;
    copies.set(name, copy + 1);
    return {
      kind: "calendarEntry",
      id: calendar,
      entry: copy === 0 ? name : `${name} (${copy + 1})`,
      contentIn: (other) => contentOf(named(other, name, copy)),
    };
  });
}

function* partsOfDoor(compiled: CompiledFacility, position: Position): Generator<CausePart> {
  const { door, calendar } = required(compiled.doors[position], "positions are valid");
  yield byId("door", door.id);
  yield byId("site", door.site);
  if (calendar !== undefined) yield* calendarEntries(compiled.facility.calendars[calendar]?.id ?? "", compiled);
  for (const { schedule } of door.entryRows ?? []) yield byId("schedule", schedule);
  if (door.unlock !== undefined) yield byId("schedule", door.unlock);
}

function* partsOfPath({ facility }: CompiledFacility, path: AccessPath, door: string): Generator<CausePart> {
  yield byId("grant", path.grant.grant.id);
  const through = path.membership === undefined ? undefined : facility.memberships[path.membership];
  if (through) yield membership(through);
  for (const position of path.route.groups) yield group(required(facility.groups[position], "positions are valid").id);
  if (path.way.bundle !== undefined) yield byId("bundle", required(facility.bundles[path.way.bundle], "positions are valid").id);
  const level = path.way.level === undefined ? undefined : facility.levels[path.way.level];
  if (level) yield byId("level", level.id);
  for (const position of path.schedules) yield byId("schedule", required(facility.schedules[position], "positions are valid").id);
  const { doorGroup, area } = path.way.row === undefined ? path.grant.grant.open : (level?.rows?.[path.way.row] ?? {});
  if (doorGroup !== undefined) yield byId("doorGroup", doorGroup);
  if (area !== undefined) yield areaOf(area, door);
}

/** Everything that plays a part in what a holder opens at a door. */
function* partsOf(compiled: CompiledFacility, { kind, id }: HolderId, doorId: string): Generator<CausePart> {
  const holder = kind === "cardholder" ? compiled.cardholders.at(compiled.cardholderById.get(id) ?? -1) : undefined;
  const ownerless = kind === "credential" ? compiled.credentialById.get(id) : undefined;
  const credentials = ownerless === undefined ? (holder?.credentials ?? []) : [ownerless];
  if (kind === "cardholder") yield person(id);
  if (holder?.calendar !== undefined) yield* calendarEntries(holder.cardholder.calendar ?? "", compiled);
  if (holder?.cardholder.hours !== undefined) yield byId("schedule", holder.cardholder.hours);
  for (let at = compiled.doorById.get(doorId); at !== undefined; at = compiled.doors[at]?.via) {
    yield* partsOfDoor(compiled, at);
    for (const position of credentials) {
      const credential = required(compiled.credentials.at(position), "positions are valid");
      yield byId("credential", credential.credential.id);
      for (const path of pathsBetween(compiled, credential, at))
        yield* partsOfPath(compiled, path, required(compiled.doors[at], "positions are valid").door.id);
    }
  }
}

/**
 * What brought a change of access of one holder at one door about: everything that plays a part in it in either facility and is
 * not there, or not the same, in the other. Sorted by kind and id.
 */
export function causesOf(before: CompiledFacility, after: CompiledFacility, holder: HolderId, door: string): Cause[] {
  const causes = new Map<string, Cause>();
  for (const compiled of [before, after])
    for (const { kind, id, entry, contentIn } of partsOf(compiled, holder, door)) {
      const [was, is] = [contentIn(before), contentIn(after)];
      if (was === is) continue;
      causes.set(`${kind} ${id} ${entry ?? ""}`, {
        kind,
        id,
        what: was === undefined ? "added" : is === undefined ? "gone" : "changed",
        ...(entry !== undefined && { entry }),
      });
    }
  return [...causes].sort(byText(([key]) => key)).map(([, cause]) => cause);
}
