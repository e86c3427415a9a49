import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledCredential, CompiledFacility } from "../compile/compiled-facility";
import { formatMinute } from "../time/instant";
import type { EpochMinute } from "../time/instant";
import { openAt } from "../time/schedule";
import { windowHolds } from "../time/window";
import { entryRuleAt, meetsEntry } from "./entry";
import type { AccessPath, AskingMode } from "./paths";
import { calendarAt, calendarPosition, countsInLockdown, overrideCovers, pathsBetween, siteAllows } from "./paths";
import { isFree, reasonAt, schedulesOpen } from "./verdict";

/** Something that would have to be otherwise for a door to open. Ids are those of the document. */
export type Need =
  | { readonly need: "credential-active" | "cardholder-active" | "a-grant" | "lockdown-pass" | "a-card" | "a-pin" }
  | { readonly need: "valid-earlier" | "valid-longer"; readonly bound: string }
  | { readonly need: "known-at-site"; readonly site: string }
  | { readonly need: "without-block"; readonly grant: string }
  | { readonly need: "grant-in-force"; readonly grant: string }
  | { readonly need: "schedule-open"; readonly schedule: string; readonly holiday: boolean }
  | { readonly need: "hours-open"; readonly schedule: string }
  | { readonly need: "door-before"; readonly door: string; readonly needs: readonly Need[] };

function lifeNeeds({ life, holder }: CompiledCredential, minute: EpochMinute): Need[] {
  const needs: Need[] = [];
  if (minute >= life.inactiveFrom) needs.push({ need: "credential-active" });
  if (holder && minute >= holder.life.inactiveFrom) needs.push({ need: "cardholder-active" });
  for (const { window } of holder ? [life, holder.life] : [life]) {
    if (minute < window.from) needs.push({ need: "valid-earlier", bound: formatMinute(window.from) });
    if (minute >= window.until) needs.push({ need: "valid-longer", bound: formatMinute(window.until) });
  }
  return needs;
}

function pathNeeds(
  compiled: CompiledFacility,
  credential: CompiledCredential,
  door: Position,
  path: AccessPath,
  minute: EpochMinute,
  mode: AskingMode,
): Need[] {
  const at = required(compiled.doors[door], "positions are valid");
  const calendar = calendarAt(compiled, calendarPosition(credential, at));
  const needs: Need[] = [];
  const idOf = (schedule: Position) => required(compiled.facility.schedules[schedule], "positions are valid").id;
  if (!windowHolds(path.window, minute)) needs.push({ need: "grant-in-force", grant: path.grant.grant.id });
  for (const schedule of path.schedules) {
    const rule = required(compiled.schedules[schedule], "positions are valid");
    if (!openAt(rule, calendar, at.zone, minute))
      needs.push({ need: "schedule-open", schedule: idOf(schedule), holiday: openAt(rule, undefined, at.zone, minute) });
  }
  const hours = credential.holder?.hours;
  if (hours !== undefined && !openAt(required(compiled.schedules[hours], "positions are valid"), calendar, at.zone, minute))
    needs.push({ need: "hours-open", schedule: idOf(hours) });
  if (mode.lockdown && !countsInLockdown(credential, path)) needs.push({ need: "lockdown-pass" });
  return needs;
}

/**
 * What would have to be otherwise for a credential to open a door at a minute; empty just where it opens. Of several paths the one
 * that lacks least is told, on a tie the first.
 */
export function needsFor(compiled: CompiledFacility, credential: CompiledCredential, door: Position, minute: EpochMinute, mode: AskingMode): Need[] {
  const at = required(compiled.doors[door], "positions are valid");
  const paths = pathsBetween(compiled, credential, door);
  const needs: Need[] = mode.asIfLive ? [] : lifeNeeds(credential, minute);
  if (!siteAllows(credential, at)) needs.push({ need: "known-at-site", site: at.door.site });
  const calendar = calendarAt(compiled, calendarPosition(credential, at));
  const blocks = paths.filter((path) => path.grant.blocks && windowHolds(path.window, minute) && schedulesOpen(compiled, path, at, calendar, minute));
  for (const grant of new Set(blocks.map((path) => path.grant.grant.id))) needs.push({ need: "without-block", grant });
  if (!overrideCovers(credential, at)) {
    const allows = paths.filter(({ grant }) => !grant.blocks).map((path) => pathNeeds(compiled, credential, door, path, minute, mode));
    needs.push(...(allows.length === 0 ? [{ need: "a-grant" } as const] : allows.reduce((least, one) => (one.length < least.length ? one : least))));
  }
  const rule = entryRuleAt(compiled, at, minute);
  if (!meetsEntry(credential, rule)) needs.push({ need: rule === "card" || credential.credential.kind === "pin" ? "a-card" : "a-pin" });
  if (at.via !== undefined) {
    const via = required(compiled.doors[at.via], "positions are valid");
    if (!isFree(compiled, via, minute, mode) && reasonAt(compiled, credential, at.via, minute, mode) !== "open")
      needs.push({ need: "door-before", door: via.door.id, needs: needsFor(compiled, credential, at.via, minute, mode) });
  }
  return needs;
}
