import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledCredential, CompiledFacility } from "../compile/compiled-facility";
import { minutesADay } from "../time/civil-day";
import { formatMinute, isWritable } from "../time/instant";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import { intersect, nextChange } from "../time/intervals";
import { openAt } from "../time/schedule";
import { windowHolds } from "../time/window";
import type { AccessPath, AskingMode } from "./paths";
import { calendarAt, calendarPosition, countsInLockdown, ordinary, overrideCovers, pathsBetween } from "./paths";
import type { Timeframe } from "./timeframe";
import { exactTimeframe } from "./timeframe";
import { pathOpenIn } from "./timetable";
import type { Reason } from "./verdict";
import { reasonAt, schedulesOpen } from "./verdict";

/** What a path does at the asked minute. */
export type PathState =
  | "open"
  | "blocks"
  | "not-yet-in-force"
  | "no-longer-in-force"
  | "closed-holiday"
  | "closed-schedule"
  | "cardholder-hours"
  | "not-in-lockdown";

/** One path as it is shown and printed; absent keys are left out. Ids are those of the document. */
export interface TracedPath {
  readonly effect: "allow" | "block" | "override";
  readonly state: PathState;
  readonly grant?: string;
  readonly by?: "credential" | "cardholder" | "department" | "membership";
  /** From the group that the cardholder is in up to the one that has the grant. */
  readonly groups?: readonly string[];
  readonly membership?: { readonly from?: string; readonly until?: string };
  readonly bundle?: string;
  readonly level?: string;
  /** Position in the level's rows, from 0. */
  readonly row?: number;
  readonly schedules?: readonly string[];
  /** The next instant at which this path's state changes between open and shut, within 400 days. */
  readonly changesAt?: string;
}

export interface Verdict {
  readonly verdict: "open" | "closed";
  readonly reason: Reason;
  readonly paths: readonly TracedPath[];
}

/** How far ahead the next change is looked for. */
const lookAhead = 400 * minutesADay;

function stateOf(
  compiled: CompiledFacility,
  credential: CompiledCredential,
  door: Position,
  path: AccessPath,
  minute: EpochMinute,
  mode: AskingMode,
): PathState {
  const at = required(compiled.doors[door], "positions are valid");
  if (minute >= path.window.until) return "no-longer-in-force";
  if (!windowHolds(path.window, minute)) return "not-yet-in-force";
  const calendar = calendarAt(compiled, calendarPosition(credential, at));
  if (!schedulesOpen(compiled, path, at, calendar, minute))
    return schedulesOpen(compiled, path, at, undefined, minute) ? "closed-holiday" : "closed-schedule";
  if (path.grant.blocks) return "blocks";
  const hours = credential.holder?.hours;
  if (hours !== undefined && !openAt(required(compiled.schedules[hours], "positions are valid"), calendar, at.zone, minute))
    return "cardholder-hours";
  return mode.lockdown && !countsInLockdown(credential, path) ? "not-in-lockdown" : "open";
}

/** Times of paths on one stretch of minutes that is long enough to look ahead from anywhere in its first half. */
interface Stretch {
  readonly from: number;
  readonly timeframe: Timeframe;
  readonly open: Map<string, IntervalSet>;
}

const stretches = new WeakMap<CompiledFacility, Stretch>();
const pathsKept = 20_000;

/** The stretch that a minute is asked in; questions asked one after another mostly share it. */
function stretchAt(compiled: CompiledFacility, minute: EpochMinute): Stretch {
  const from = Math.floor(minute / lookAhead) * lookAhead;
  let stretch = stretches.get(compiled);
  if (stretch?.from !== from || stretch.open.size > pathsKept) {
    stretch = { from, timeframe: exactTimeframe(compiled, from as EpochMinute, (from + 2 * lookAhead) as EpochMinute, ordinary), open: new Map() };
    stretches.set(compiled, stretch);
  }
  return stretch;
}

/** The next minute at which a path opens or shuts, its windows, schedules and the cardholder's hours taken together. */
function changeOf(
  compiled: CompiledFacility,
  credential: CompiledCredential,
  door: Position,
  path: AccessPath,
  minute: EpochMinute,
): EpochMinute | undefined {
  const at = required(compiled.doors[door], "positions are valid");
  const { timeframe, open: known } = stretchAt(compiled, minute);
  const calendar = calendarPosition(credential, at);
  const hours = path.grant.blocks ? undefined : credential.holder?.hours;
  const key = `${path.window.from} ${path.window.until} ${path.schedules.join(",")} ${hours ?? ""} ${calendar ?? ""} ${at.zone.name}`;
  let open = known.get(key);
  if (!open) {
    open = pathOpenIn(timeframe, credential, at, path);
    if (hours !== undefined) open = intersect(open, timeframe.schedule(hours, calendar, at.zone));
    known.set(key, open);
  }
  const change = nextChange(open, minute);
  return change !== undefined && change < minute + lookAhead ? change : undefined;
}

const idsAt = (objects: readonly { readonly id: string }[], positions: readonly Position[]): string[] =>
  positions.map((position) => required(objects[position], "positions are valid").id);

function traced(
  compiled: CompiledFacility,
  credential: CompiledCredential,
  door: Position,
  path: AccessPath,
  minute: EpochMinute,
  mode: AskingMode,
): TracedPath {
  const { facility } = compiled;
  const { route, way, grant } = path;
  const membership = path.membership === undefined ? undefined : facility.memberships[path.membership];
  const change = changeOf(compiled, credential, door, path, minute);
  return {
    effect: grant.blocks ? "block" : "allow",
    state: stateOf(compiled, credential, door, path, minute, mode),
    grant: grant.grant.id,
    by: path.by,
    ...(route.groups.length > 0 && { groups: idsAt(facility.groups, route.groups) }),
    ...(membership && {
      membership: {
        ...(membership.from !== undefined && { from: membership.from }),
        ...(membership.until !== undefined && { until: membership.until }),
      },
    }),
    ...(way.bundle !== undefined && { bundle: facility.bundles[way.bundle]?.id }),
    ...(way.level !== undefined && { level: facility.levels[way.level]?.id }),
    ...(way.row !== undefined && { row: way.row }),
    schedules: idsAt(facility.schedules, path.schedules),
    ...(change !== undefined && isWritable(change) && { changesAt: formatMinute(change) }),
  };
}

/** The verdict on a credential at a door at a minute, by position, with every path and its own state. */
export function verdictAt(
  compiled: CompiledFacility,
  credential: CompiledCredential,
  door: Position,
  minute: EpochMinute,
  mode: AskingMode,
): Verdict {
  const paths = pathsBetween(compiled, credential, door);
  const reason = reasonAt(compiled, credential, door, minute, mode, paths);
  const at = required(compiled.doors[door], "positions are valid");
  return {
    verdict: reason === "open" ? "open" : "closed",
    reason,
    paths: [
      ...(overrideCovers(credential, at) ? [{ effect: "override", state: "open" } as const] : []),
      ...paths.map((path) => traced(compiled, credential, door, path, minute, mode)),
    ],
  };
}

/** The verdict on ids that may be unknown to the register. */
export function askVerdict(
  compiled: CompiledFacility,
  question: { readonly credential: string; readonly door: string; readonly at: EpochMinute; readonly mode: AskingMode },
): Verdict {
  const credential = compiled.credentialById.get(question.credential);
  if (credential === undefined) return { verdict: "closed", reason: "unknown-credential", paths: [] };
  const door = compiled.doorById.get(question.door);
  if (door === undefined) return { verdict: "closed", reason: "unknown-door", paths: [] };
  return verdictAt(compiled, required(compiled.credentials.at(credential), "positions are valid"), door, question.at, question.mode);
}
