import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledCredential, CompiledDoor, CompiledFacility } from "../compile/compiled-facility";
import type { HolidayCalendar } from "../time/calendar";
import type { EpochMinute } from "../time/instant";
import { openAt } from "../time/schedule";
import { windowHolds } from "../time/window";
import { entryRuleAt, meetsEntry } from "./entry";
import type { AccessPath, AskingMode } from "./paths";
import { calendarAt, calendarPosition, countsInLockdown, overrideCovers, pathsBetween, siteAllows } from "./paths";

/** Why a door does not open, in the order in which the reasons are looked for. */
export const reasons = [
  "unknown-credential",
  "unknown-door",
  "credential-inactive",
  "cardholder-inactive",
  "not-yet-valid",
  "expired",
  "site-excluded",
  "blocked",
  "no-grant",
  "grant-not-in-force",
  "closed-holiday",
  "closed-schedule",
  "cardholder-hours",
  "lockdown",
  "entry-unmet",
  "via-closed",
] as const;
export type ClosedReason = (typeof reasons)[number];
export type Reason = "open" | ClosedReason;

export const isReason = (text: string): text is Reason => text === "open" || (reasons as readonly string[]).includes(text);

/** Whether all schedules of a path are open at a minute, read with a calendar or, without one, as on ordinary dates. */
export function schedulesOpen(
  compiled: CompiledFacility,
  path: AccessPath,
  door: CompiledDoor,
  calendar: HolidayCalendar | undefined,
  minute: EpochMinute,
): boolean {
  return path.schedules.every((schedule) =>
    openAt(required(compiled.schedules[schedule], "positions are valid"), calendar, door.zone, minute),
  );
}

/** Whether a door stands open to anybody at a minute. */
export function isFree(compiled: CompiledFacility, door: CompiledDoor, minute: EpochMinute, mode: AskingMode): boolean {
  if (mode.lockdown || door.unlock === undefined) return false;
  const schedule = required(compiled.schedules[door.unlock], "positions are valid");
  return openAt(schedule, calendarAt(compiled, door.calendar), door.zone, minute);
}

function lifeReason(credential: CompiledCredential, minute: EpochMinute): ClosedReason | undefined {
  const holder = credential.holder?.life;
  if (minute >= credential.life.inactiveFrom) return "credential-inactive";
  if (holder && minute >= holder.inactiveFrom) return "cardholder-inactive";
  if (minute < credential.life.window.from || (holder && minute < holder.window.from)) return "not-yet-valid";
  if (minute >= credential.life.window.until || (holder && minute >= holder.window.until)) return "expired";
  return undefined;
}

function grantReason(
  compiled: CompiledFacility,
  credential: CompiledCredential,
  door: CompiledDoor,
  allows: readonly AccessPath[],
  minute: EpochMinute,
  mode: AskingMode,
): ClosedReason | undefined {
  if (allows.length === 0) return "no-grant";
  const inForce = allows.filter(({ window }) => windowHolds(window, minute));
  if (inForce.length === 0) return "grant-not-in-force";
  const calendar = calendarAt(compiled, calendarPosition(credential, door));
  const open = inForce.filter((path) => schedulesOpen(compiled, path, door, calendar, minute));
  if (open.length === 0)
    return inForce.some((path) => schedulesOpen(compiled, path, door, undefined, minute)) ? "closed-holiday" : "closed-schedule";
  const hours = credential.holder?.hours;
  if (hours !== undefined && !openAt(required(compiled.schedules[hours], "positions are valid"), calendar, door.zone, minute))
    return "cardholder-hours";
  if (mode.lockdown && !open.some((path) => countsInLockdown(credential, path))) return "lockdown";
  return undefined;
}

/**
 * Why a credential opens a door at a minute, or the first reason why it does not (section 9 of the semantics).
 * Worked out point by point; `openDuringBetween` gives the same as a set.
 */
export function reasonAt(
  compiled: CompiledFacility,
  credential: CompiledCredential,
  door: Position,
  minute: EpochMinute,
  mode: AskingMode,
  paths: readonly AccessPath[] = pathsBetween(compiled, credential, door),
): Reason {
  const at = required(compiled.doors[door], "positions are valid");
  const life = mode.asIfLive ? undefined : lifeReason(credential, minute);
  if (life) return life;
  if (!siteAllows(credential, at)) return "site-excluded";
  const calendar = calendarAt(compiled, calendarPosition(credential, at));
  const blocked = paths.some(
    (path) => path.grant.blocks && windowHolds(path.window, minute) && schedulesOpen(compiled, path, at, calendar, minute),
  );
  if (blocked) return "blocked";
  if (!overrideCovers(credential, at)) {
    const allows = paths.filter(({ grant }) => !grant.blocks);
    const refused = grantReason(compiled, credential, at, allows, minute, mode);
    if (refused) return refused;
  }
  if (!meetsEntry(credential, entryRuleAt(compiled, at, minute))) return "entry-unmet";
  if (at.via === undefined) return "open";
  const via = required(compiled.doors[at.via], "positions are valid");
  const passes = isFree(compiled, via, minute, mode) || reasonAt(compiled, credential, at.via, minute, mode) === "open";
  return passes ? "open" : "via-closed";
}
