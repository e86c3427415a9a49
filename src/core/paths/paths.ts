import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledCredential, CompiledDoor, CompiledFacility, CompiledGrant, DoorWay, GivenRoutes } from "../compile/compiled-facility";
import type { GrantRoute, RouteList } from "../compile/route-lists";
import type { HolidayCalendar } from "../time/calendar";
import type { Window } from "../time/window";

/** How a question is to be read: the same data in a lockdown, or with every credential awake. */
export interface AskingMode {
  readonly lockdown: boolean;
  /** Passes over status, windows and expiry of credential and cardholder. */
  readonly asIfLive: boolean;
}

export const ordinary: AskingMode = { lockdown: false, asIfLive: false };
export const inLockdown: AskingMode = { lockdown: true, asIfLive: false };
export const asIfLive: AskingMode = { lockdown: false, asIfLive: true };

/** One way from a credential to a door. */
export interface AccessPath {
  readonly grant: CompiledGrant;
  readonly by: RouteList["by"];
  readonly membership: Position | undefined;
  readonly route: GrantRoute;
  readonly way: DoorWay;
  readonly window: Window;
  /** Schedules that must all be open; none for a block without one. */
  readonly schedules: readonly Position[];
}

const isPosition = (value: Position | undefined): value is Position => value !== undefined;

function pathsThrough(compiled: CompiledFacility, { list, membership }: GivenRoutes, door: Position): AccessPath[] {
  return list.routes.flatMap((route) => {
    const grant = required(compiled.grants.at(route.grant), "positions are valid");
    const ways = compiled.waysOf(route.grant).get(door) ?? [];
    // A block takes no notice of the rows of a level: one way stands for all of them.
    const counted = grant.blocks ? ways.slice(0, 1) : ways;
    return counted.map((way) => ({
      grant,
      by: list.by,
      membership,
      route,
      way,
      window: route.window,
      schedules: (grant.blocks ? [grant.schedule] : [way.schedule, grant.schedule]).filter(isPosition),
    }));
  });
}

/** Everything by which grants come to a credential: its own, then its holder's. */
export const routesOf = ({ ownRoutes, holder }: CompiledCredential): readonly GivenRoutes[] =>
  ownRoutes.length === 0 ? (holder?.routes ?? []) : holder ? [...ownRoutes, ...holder.routes] : ownRoutes;

/** All paths from a credential to a door, allows and blocks, whatever their state. */
export const pathsBetween = (compiled: CompiledFacility, credential: CompiledCredential, door: Position): AccessPath[] =>
  routesOf(credential).flatMap((given) => pathsThrough(compiled, given, door));

/** Calendar by which a credential's schedules are read at a door: the cardholder's own, else the site's, else none. */
export const calendarPosition = (credential: Pick<CompiledCredential, "holder">, door: CompiledDoor): Position | undefined =>
  credential.holder?.calendar ?? door.calendar;

export const calendarAt = (compiled: CompiledFacility, position: Position | undefined): HolidayCalendar | undefined =>
  position === undefined ? undefined : compiled.calendars[position];

/** Whether the cardholder's standing override covers the site of a door. */
export function overrideCovers(credential: Pick<CompiledCredential, "holder">, door: CompiledDoor): boolean {
  const override = credential.holder?.override;
  return override === "everywhere" || (override?.has(door.door.site) ?? false);
}

/** Whether the cardholder is known at the site of a door at all. */
export const siteAllows = (credential: Pick<CompiledCredential, "holder">, door: CompiledDoor): boolean =>
  credential.holder?.sites?.has(door.door.site) ?? true;

/** Whether a path counts in a lockdown. */
export const countsInLockdown = (credential: CompiledCredential, path: AccessPath): boolean =>
  !!path.grant.grant.inLockdown || !!credential.holder?.cardholder.lockdownPass;
