import { required } from "@/core/kernel/invariant";
import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import type { Position } from "@/core/compile/position-index";
import type { Need } from "@/core/paths/needs";
import { needsFor } from "@/core/paths/needs";
import type { AskingMode } from "@/core/paths/paths";
import { exactTimeframe } from "@/core/paths/timeframe";
import { freeIn, openIn } from "@/core/paths/timetable";
import type { Verdict } from "@/core/paths/trace";
import { verdictAt } from "@/core/paths/trace";
import { minutesADay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { askedPeople } from "@/core/questions/asked-people";
import { whenAtSite } from "@/core/questions/when";
import { monthsAhead } from "@/core/time/horizon";
import { minuteAtWallClock } from "@/core/time/zone";
import { contains, nextChange, previousChange, union } from "@/core/time/intervals";
import type { IntervalSet } from "@/core/time/intervals";
import { findingsOf } from "../findings/findings-of";
import { decideAsHeld } from "../units/decide-as-held";
import { withNames } from "../findings/with-names";
import { areasOf } from "@/core/findings/about";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { StoredFinding } from "../ports/findings";
import { demand } from "../rights";
import type { Services } from "../services";
import { asPair } from "./inquiry";
import type { Inquiry, Trace } from "./inquiry";
import type { InquiryContext } from "./inquiry-context";
import { contextOf, credentialsOf, endsUnused, restsOnUses } from "./inquiry-context";
import { namedCredential, namedDoor, namedHolder } from "./inquiry-names";

/** Names of what a verdict's paths speak of. */
function namesIn(compiled: CompiledFacility, verdicts: readonly Verdict[], needs: readonly Need[]): Record<string, string> {
  const { facility } = compiled;
  const names: Record<string, string> = {};
  const add = (kind: string, list: readonly { readonly id: string; readonly name: string }[], ids: readonly (string | undefined)[]) => {
    const wanted = new Set(ids);
    for (const { id, name } of list) if (wanted.has(id)) names[`${kind} ${id}`] = name;
  };
  const paths = verdicts.flatMap((verdict) => verdict.paths);
  add(
    "group",
    facility.groups,
    paths.flatMap(({ groups }) => groups ?? []),
  );
  add(
    "level",
    facility.levels,
    paths.map(({ level }) => level),
  );
  add(
    "bundle",
    facility.bundles,
    paths.map(({ bundle }) => bundle),
  );
  const lacking = needs.flatMap((one) => (one.need === "door-before" ? [one, ...one.needs] : [one]));
  add("schedule", facility.schedules, [
    ...paths.flatMap(({ schedules }) => schedules ?? []),
    ...lacking.map((one) => ("schedule" in one ? one.schedule : undefined)),
  ]);
  add(
    "door",
    facility.doors,
    lacking.map((one) => (one.need === "door-before" ? one.door : undefined)),
  );
  add(
    "site",
    facility.sites,
    lacking.map((one) => (one.need === "known-at-site" ? one.site : undefined)),
  );
  const grantIds = new Set(paths.map(({ grant }) => grant));
  const nameOfTarget = (open: (typeof facility.grants)[number]["open"]): string => {
    const of = (list: readonly { readonly id: string; readonly name: string }[], id: string) => list.find((object) => object.id === id)?.name ?? id;
    if (open.level !== undefined) return of(facility.levels, open.level);
    if (open.bundle !== undefined) return of(facility.bundles, open.bundle);
    if (open.door !== undefined) return of(facility.doors, open.door);
    if (open.doorGroup !== undefined) return of(facility.doorGroups, open.doorGroup);
    return of(facility.areas, open.area ?? "");
  };
  for (const { id, open } of facility.grants) if (grantIds.has(id)) names[`grant ${id}`] = nameOfTarget(open);
  return names;
}

/** How far back a change is looked for: as far as ahead, some 13 months. */
const minutesBack = 396 * minutesADay;

/**
 * The last minute before `at` and the first one after it at which a door begins to open with one of these cards, or no longer does, within 13 months;
 * undefined for none.
 */
function changesAround(
  compiled: CompiledFacility,
  credentials: readonly CompiledCredential[],
  door: Position,
  at: EpochMinute,
  mode: AskingMode,
): { readonly before: EpochMinute | undefined; readonly after: EpochMinute | undefined } {
  // Looked at around the asked moment, which may lie before or after what is laid out from the export on; and the ends of the look are no changes.
  const [from, until] = [(at - minutesBack) as EpochMinute, monthsAhead(at, compiled.vocabulary.zone)];
  const reading = exactTimeframe(compiled, from, until, mode);
  const open = credentials.reduce<IntervalSet>((set, credential) => union(set, openIn(compiled, reading, credential, door)), []);
  const [before, after] = [previousChange(open, at), nextChange(open, at)];
  return { before: before === from ? undefined : before, after: after === until ? undefined : after };
}

/** The minute after a time that the clock of a door's site skips; undefined where a moment was not asked for. */
function skippedTime({ compiled, inquiry: { when } }: InquiryContext, door: Position): EpochMinute | undefined {
  const {
    zone,
    door: { site },
  } = required(compiled.doors[door], "positions are valid");
  const meant = whenAtSite(when, site);
  return meant?.kind === "moment" ? minuteAtWallClock(zone, meant.at.date, meant.at.minuteOfDay) : undefined;
}

/** Whether a finding is about a person or a card as such, or about one of some areas. */
const concernsArea = (finding: StoredFinding, areas: ReadonlySet<string | undefined>): boolean =>
  areasOf(finding).length === 0 || areasOf(finding).some((area) => areas.has(area));

/** Why a holder opens a door at the asked time, or does not: every path of the credential that tells most, and what must go. */
export async function traceInquiry(services: Services, account: Account, register: OpenRegister, asked: Inquiry, doorId?: string): Promise<Trace | undefined> {
  demand(account, "ask");
  const { compiled } = register;
  const inquiry = asPair(asked);
  if (!inquiry) return undefined;
  const context = await contextOf(services, compiled, inquiry);
  const door = (doorId === undefined ? undefined : compiled.doorById.get(doorId)) ?? (inquiry.where && context.doors?.[0]);
  const [own] = askedPeople(compiled, inquiry.who, context.since);
  if (door === undefined || own === undefined) return undefined;
  const credentials = credentialsOf(compiled, own);
  const mode: AskingMode = { lockdown: inquiry.lockdown, asIfLive: inquiry.asIfLive === true };
  // Of a span, the first minute at which it opens tells more than its beginning.
  const first = (context.minutesAt(door) ? context.opening(own, door, mode.asIfLive)[0] : undefined) as EpochMinute | undefined;
  const comes = context.minutesAt(door)?.length !== 0;
  const at = first ?? context.instantAt(door) ?? skippedTime(context, door) ?? context.now;
  const holder = namedHolder(compiled, own);
  const verdicts = credentials.map((credential) => ({ credential, verdict: verdictAt(compiled, credential, door, at, mode) }));
  const told = verdicts.find(({ verdict }) => verdict.verdict === "open") ?? verdicts[0];
  const open = context.timetable([own], [door], mode.asIfLive);
  const changes = changesAround(compiled, credentials, door, at, mode);
  const needs = told ? needsFor(compiled, told.credential, door, at, mode) : [];
  const against = (await findingsOf(services, register, [holder]))(holder);
  const areas = new Set(required(compiled.doors[door], "positions are valid").areas.map((area) => compiled.facility.areas[area]?.id));
  return {
    holder,
    door: namedDoor(compiled, door),
    at,
    comes,
    credential: told && namedCredential(told.credential),
    verdict: told?.verdict ?? { verdict: "closed", reason: "unknown-credential", paths: [] },
    others: verdicts.filter((one) => one !== told).map(({ credential, verdict }) => ({ credential: namedCredential(credential), reason: verdict.reason })),
    week: context.drawnWeek([own], [door], mode.asIfLive),
    words: context.describe(open, credentials[0], door),
    fullWords: context.describe(open, credentials[0], door, true),
    previousChange: changes.before,
    nextChange: changes.after,
    free: contains(freeIn(exactTimeframe(compiled, at, (at + 1) as EpochMinute, mode), required(compiled.doors[door], "positions are valid")), at),
    everOpens: open.length > 0,
    needs,
    findings: withNames(
      register,
      against.filter((finding) => concernsArea(finding, areas)),
    ),
    timeZone: compiled.facility.timeZone,
    names: namesIn(
      compiled,
      verdicts.map(({ verdict }) => verdict),
      needs,
    ),
    endsUnused: credentials
      .filter((credential) => endsUnused(compiled, credential))
      .map((credential) => ({ credential: namedCredential(credential), at: credential.life.window.until })),
    uses: restsOnUses(register, [own]),
    atUnit: await decideAsHeld(services, register, required(compiled.doors[door], "positions are valid"), credentials, at, mode),
  };
}
