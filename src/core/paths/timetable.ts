import { present } from "../kernel/invariant";
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
export function liveIn(reading: Timeframe, credential: CompiledCredential): IntervalSet {
  if (reading.mode.asIfLive) return reading.whole;
  const own = reading.window(livingWindow(credential.life));
  return credential.holder ? intersect(own, reading.window(livingWindow(credential.holder.life))) : own;
}

/** When a path's window holds and all its schedules are open; the cardholder's hours play no part. */
export function pathOpenIn(reading: Timeframe, credential: CompiledCredential, door: CompiledDoor, path: AccessPath): IntervalSet {
  const calendar = calendarPosition(credential, door);
  let open = reading.window(path.window);
  for (const schedule of path.schedules) {
    if (open.length === 0) break;
    open = intersect(open, reading.schedule(schedule, calendar, door.zone));
  }
  return open;
}

/** When a door stands open to anybody; never in a lockdown. */
export function freeIn(reading: Timeframe, door: CompiledDoor): IntervalSet {
  return door.unlock === undefined || reading.mode.lockdown ? nothing : reading.schedule(door.unlock, door.calendar, door.zone);
}

/** When the entry rule then in force is one that the credential meets. */
export function entryMetIn(reading: Timeframe, credential: CompiledCredential, door: CompiledDoor): IntervalSet {
  let rest = reading.whole;
  let met = nothing;
  for (const { schedule, entry } of door.entryRows) {
    const inForce = intersect(rest, reading.schedule(schedule, door.calendar, door.zone));
    if (meetsEntry(credential, entry)) met = union(met, inForce);
    rest = subtract(rest, inForce);
  }
  return meetsEntry(credential, door.entry) ? union(met, rest) : met;
}

function grantedIn(reading: Timeframe, credential: CompiledCredential, door: CompiledDoor, paths: readonly AccessPath[]): IntervalSet {
  if (overrideCovers(credential, door)) return reading.whole;
  let granted: IntervalSet = nothing;
  for (const path of paths) {
    if (path.grant.blocks || (reading.mode.lockdown && !countsInLockdown(credential, path))) continue;
    granted = union(granted, pathOpenIn(reading, credential, door, path));
  }
  const hours = credential.holder?.hours;
  return hours === undefined || granted.length === 0
    ? granted
    : intersect(granted, reading.schedule(hours, calendarPosition(credential, door), door.zone));
}

/**
 * Everything that a timetable depends on, written out: equal keys have equal timetables. Windows are written as what they
 * hold of the reading, so that "since always" and "since last year" are the same in a reading of this year.
 */
function dependencies(compiled: CompiledFacility, reading: Timeframe, credential: CompiledCredential, door: CompiledDoor, paths: readonly AccessPath[]): string {
  const counted = paths.filter(({ grant }) => grant.blocks || !overrideCovers(credential, door));
  const atoms = counted.map((path) => {
    const counts = path.grant.blocks || !reading.mode.lockdown || countsInLockdown(credential, path);
    return `${path.grant.blocks ? "b" : counts ? "a" : "n"}${path.schedules.join("&")}@${reading.window(path.window).join("-")}`;
  });
  const rules = [...door.entryRows.map(({ schedule, entry }) => `${schedule}${meetsEntry(credential, entry)}`), meetsEntry(credential, door.entry)];
  const via = door.via === undefined ? "" : viaDependencies(compiled, reading, credential, door.via);
  return [
    siteAllows(credential, door),
    liveIn(reading, credential).join("-"),
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

function viaDependencies(compiled: CompiledFacility, reading: Timeframe, credential: CompiledCredential, via: Position): string {
  const door = present(compiled.doors[via], "positions are valid");
  return `(${door.unlock ?? ""} ${dependencies(compiled, reading, credential, door, pathsBetween(compiled, credential, via))})`;
}

/**
 * When a credential opens a door (section 8 of the semantics), on the minutes of the reading. Equal timetables of one reading
 * are mostly one array. `paths` may be handed in to ask what would be left without some of them; they must be paths
 * between the two.
 */
export function openIn(
  compiled: CompiledFacility,
  reading: Timeframe,
  credential: CompiledCredential,
  door: Position,
  paths: readonly AccessPath[] = pathsBetween(compiled, credential, door),
): IntervalSet {
  const at = present(compiled.doors[door], "positions are valid");
  const key = dependencies(compiled, reading, credential, at, paths);
  let open = reading.known.get(key);
  if (!open) {
    open = workOut(compiled, reading, credential, at, paths);
    reading.known.set(key, open);
  }
  return open;
}

function workOut(compiled: CompiledFacility, reading: Timeframe, credential: CompiledCredential, at: CompiledDoor, paths: readonly AccessPath[]): IntervalSet {
  if (!siteAllows(credential, at)) return nothing;
  let open = liveIn(reading, credential);
  if (open.length > 0) open = intersect(open, grantedIn(reading, credential, at, paths));
  for (const path of paths) {
    if (open.length === 0) return nothing;
    if (path.grant.blocks) open = subtract(open, pathOpenIn(reading, credential, at, path));
  }
  if (open.length > 0) open = intersect(open, entryMetIn(reading, credential, at));
  if (open.length > 0 && at.via !== undefined) {
    const via = present(compiled.doors[at.via], "positions are valid");
    open = intersect(open, union(openIn(compiled, reading, credential, at.via), freeIn(reading, via)));
  }
  return open;
}

/** When a cardholder opens a door with any of their credentials. */
export function cardholderOpenIn(compiled: CompiledFacility, reading: Timeframe, cardholder: Position, door: Position): IntervalSet {
  return present(compiled.cardholders.at(cardholder), "positions are valid").credentials.reduce<IntervalSet>(
    (open, credential) => union(open, openIn(compiled, reading, present(compiled.credentials.at(credential), "positions are valid"), door)),
    nothing,
  );
}
