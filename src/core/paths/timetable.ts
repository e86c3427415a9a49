import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledCredential, CompiledDoor, CompiledFacility } from "../compile/compiled-facility";
import type { IntervalSet } from "../time/intervals";
import { intersect, nothing, subtract, union } from "../time/intervals";
import { meetsEntry } from "./entry";
import type { AccessPath } from "./paths";
import { calendarPosition, countsInLockdown, overrideCovers, pathsBetween, siteAllows } from "./paths";
import type { Timeframe } from "./timeframe";
import { livingWindow } from "./timeframe";

/** When a credential is live; everything where the question is asked as if live. */
export function liveIn(timeframe: Timeframe, credential: CompiledCredential): IntervalSet {
  if (timeframe.mode.asIfLive) return timeframe.span;
  const own = timeframe.window(livingWindow(credential.life));
  return credential.holder ? intersect(own, timeframe.window(livingWindow(credential.holder.life))) : own;
}

/** When a path's window holds and all its schedules are open; the cardholder's hours play no part. */
export function pathOpenIn(timeframe: Timeframe, credential: CompiledCredential, door: CompiledDoor, path: AccessPath): IntervalSet {
  const calendar = calendarPosition(credential, door);
  let open = timeframe.window(path.window);
  for (const schedule of path.schedules) {
    if (open.length === 0) break;
    open = intersect(open, timeframe.schedule(schedule, calendar, door.zone));
  }
  return open;
}

/** When a door stands open to anybody; never in a lockdown. */
export function freeIn(timeframe: Timeframe, door: CompiledDoor): IntervalSet {
  return door.unlock === undefined || timeframe.mode.lockdown ? nothing : timeframe.schedule(door.unlock, door.calendar, door.zone);
}

/** When the entry rule then in force is one that the credential meets. */
export function entryMetIn(timeframe: Timeframe, credential: CompiledCredential, door: CompiledDoor): IntervalSet {
  let rest = timeframe.span;
  let met = nothing;
  for (const { schedule, entry } of door.entryRows) {
    const inForce = intersect(rest, timeframe.schedule(schedule, door.calendar, door.zone));
    if (meetsEntry(credential, entry)) met = union(met, inForce);
    rest = subtract(rest, inForce);
  }
  return meetsEntry(credential, door.entry) ? union(met, rest) : met;
}

function grantedIn(timeframe: Timeframe, credential: CompiledCredential, door: CompiledDoor, paths: readonly AccessPath[]): IntervalSet {
  if (overrideCovers(credential, door)) return timeframe.span;
  let granted: IntervalSet = nothing;
  for (const path of paths) {
    if (path.grant.blocks || (timeframe.mode.lockdown && !countsInLockdown(credential, path))) continue;
    granted = union(granted, pathOpenIn(timeframe, credential, door, path));
  }
  const hours = credential.holder?.hours;
  return hours === undefined || granted.length === 0 ? granted : intersect(granted, timeframe.schedule(hours, calendarPosition(credential, door), door.zone));
}

/**
 * Everything that a timetable depends on, written out: equal keys have equal timetables. Windows are written as what they
 * hold of the reading, so that "since always" and "since last year" are the same in a reading of this year.
 */
function dependencies(
  compiled: CompiledFacility,
  timeframe: Timeframe,
  credential: CompiledCredential,
  door: CompiledDoor,
  paths: readonly AccessPath[],
): string {
  const counted = paths.filter(({ grant }) => grant.blocks || !overrideCovers(credential, door));
  const atoms = counted.map((path) => {
    const counts = path.grant.blocks || !timeframe.mode.lockdown || countsInLockdown(credential, path);
    return `${path.grant.blocks ? "b" : counts ? "a" : "n"}${path.schedules.join("&")}@${timeframe.window(path.window).join("-")}`;
  });
  const rules = [...door.entryRows.map(({ schedule, entry }) => `${schedule}${meetsEntry(credential, entry)}`), meetsEntry(credential, door.entry)];
  const via = door.via === undefined ? "" : viaDependencies(compiled, timeframe, credential, door.via);
  return [
    siteAllows(credential, door),
    liveIn(timeframe, credential).join("-"),
    overrideCovers(credential, door),
    [...new Set(atoms)].sort().join("|"),
    credential.holder?.hours ?? "",
    calendarPosition(credential, door) ?? "",
    door.calendar ?? "",
    door.zone.name,
    rules.join("|"),
    via,
  ].join(" ");
}

function viaDependencies(compiled: CompiledFacility, timeframe: Timeframe, credential: CompiledCredential, via: Position): string {
  const door = required(compiled.doors[via], "positions are valid");
  return `(${door.unlock ?? ""} ${dependencies(compiled, timeframe, credential, door, pathsBetween(compiled, credential, via))})`;
}

/**
 * When a credential opens a door (section 8 of the semantics), on the minutes of the reading. Equal timetables of one reading
 * are mostly one array. `paths` may be handed in to ask what would be left without some of them; they must be paths
 * between the two.
 */
export function openIn(
  compiled: CompiledFacility,
  timeframe: Timeframe,
  credential: CompiledCredential,
  door: Position,
  paths: readonly AccessPath[] = pathsBetween(compiled, credential, door),
): IntervalSet {
  const at = required(compiled.doors[door], "positions are valid");
  const key = dependencies(compiled, timeframe, credential, at, paths);
  let open = timeframe.known.get(key);
  if (!open) {
    open = workOut(compiled, timeframe, credential, at, paths);
    timeframe.known.set(key, open);
  }
  return open;
}

function allowedAt(timeframe: Timeframe, credential: CompiledCredential, at: CompiledDoor, paths: readonly AccessPath[]): IntervalSet {
  if (!siteAllows(credential, at)) return nothing;
  let open = liveIn(timeframe, credential);
  if (open.length > 0) open = intersect(open, grantedIn(timeframe, credential, at, paths));
  for (const path of paths) {
    if (open.length === 0) return nothing;
    if (path.grant.blocks) open = subtract(open, pathOpenIn(timeframe, credential, at, path));
  }
  return open;
}

/** When the first three conditions of section 8 hold: the credential is live, nothing shuts the door for it, and something opens it. */
export const allowedIn = (compiled: CompiledFacility, timeframe: Timeframe, credential: CompiledCredential, door: Position): IntervalSet =>
  allowedAt(timeframe, credential, required(compiled.doors[door], "positions are valid"), pathsBetween(compiled, credential, door));

function workOut(
  compiled: CompiledFacility,
  timeframe: Timeframe,
  credential: CompiledCredential,
  at: CompiledDoor,
  paths: readonly AccessPath[],
): IntervalSet {
  let open = allowedAt(timeframe, credential, at, paths);
  if (open.length > 0) open = intersect(open, entryMetIn(timeframe, credential, at));
  if (open.length > 0 && at.via !== undefined) {
    const via = required(compiled.doors[at.via], "positions are valid");
    open = intersect(open, union(openIn(compiled, timeframe, credential, at.via), freeIn(timeframe, via)));
  }
  return open;
}

/** When a cardholder opens a door with any of their credentials. */
export function cardholderOpenIn(compiled: CompiledFacility, timeframe: Timeframe, cardholder: Position, door: Position): IntervalSet {
  return required(compiled.cardholders.at(cardholder), "positions are valid").credentials.reduce<IntervalSet>(
    (open, credential) => union(open, openIn(compiled, timeframe, required(compiled.credentials.at(credential), "positions are valid"), door)),
    nothing,
  );
}
