import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { EventBook } from "@/core/events/event-book";
import type { ToldEvent } from "@/core/events/event-book";
import { keptEvidence, recountOutOfHours, singleDays } from "@/core/events/kept-evidence";
import type { KeptUse } from "@/core/events/kept-evidence";
import type { EventDates } from "@/core/events/coverage";
import { ownersIn } from "@/core/events/told-card";
import { instantOf } from "@/core/facility/time-rules";
import { ruleOf } from "@/core/findings/catalogue";
import { countedPlaces } from "@/core/findings/counted-places";
import { Judged } from "@/core/findings/judged";
import type { Decided, Earlier, PeopleSource, PublicHolidays } from "@/core/findings/judged";
import { Lives } from "@/core/findings/lives";
import type { HouseRule } from "@/core/findings/house-rule";
import type { RuleKey } from "@/core/findings/proofs";
import { knownSettings, own } from "@/core/findings/settings";
import type { RuleSettings } from "@/core/findings/settings";
import { Horizon, horizonOf } from "@/core/table/horizon";
import { aheadOf } from "@/core/facility/ahead";
import { minutesADay } from "@/core/time/civil-day";
import { minuteDown } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import type { UnitReport } from "@/core/units/unit-report";
import type { Snapshot } from "../ports/snapshots";
import type { PlaceOf } from "../ports/events";
import type { Services } from "../services";
import { houseRuleIn } from "./read-house-rule";

/** What rules judge a register with, beside the register: the settings, what is kept of events, what was before, and what was decided. */
export interface Judging {
  readonly settings: RuleSettings;
  readonly uses: readonly KeptUse[];
  readonly dates: ReadonlyMap<string, EventDates>;
  readonly single: readonly ToldEvent[];
  readonly earlier: readonly Earlier[];
  /** The snapshots that are looked back to. */
  readonly earlierIds: readonly number[];
  readonly decisions: readonly Decided[] | undefined;
  readonly publicHolidays: PublicHolidays;
  readonly peopleSources: readonly PeopleSource[];
  readonly houseRules: readonly HouseRule[];
  readonly unitReports: readonly UnitReport[] | undefined;
}

const sequences: readonly RuleKey[] = [
  "dead-card-tried",
  "tried-again",
  "unknown-tried",
  "two-places",
  "let-in",
  "opened-against-record",
  "refused-against-record",
];

const daysOf = (settings: RuleSettings, key: RuleKey): number => own(own(settings.parameters, key), "days") ?? ruleOf(key)?.parameters.days ?? 0;

/** So many credentials are asked for by name; of more, all events are read. */
const namedCards = 1500;

/**
 * Single events as far back as rules that look at single ones ask: all of the last days, and before these the ones of cards that are not to be used any more,
 * whose late uses are looked for further back.
 */
async function singleEvents({ events }: Services, compiled: CompiledFacility, settings: RuleSettings, asOf: EpochMinute): Promise<ToldEvent[]> {
  const days = Math.max(singleDays, ...sequences.map((key) => daysOf(settings, key)));
  const lostDays = daysOf(settings, "lost-in-use");
  const second = (daysBack: number): number => (asOf - daysBack * minutesADay) * 60;
  const found: ToldEvent[] = [];
  if (lostDays > days) {
    const lives = new Lives(compiled, asOf);
    const out = compiled.facility.credentials.flatMap((_, position) => (lives.isLive(position) ? [] : [position]));
    if (out.length > 0) {
      const owners = out.length <= namedCards ? ownersIn(compiled) : undefined;
      const filter = owners ? { cards: out.flatMap((position) => owners.keysOf(position)) } : {};
      for await (const event of events.between(second(lostDays), second(days), filter)) found.push(event);
    }
  }
  for await (const event of events.between(second(days), (asOf + 1) * 60)) found.push(event);
  return found;
}

/** Rules look back to so many earlier snapshots, of large registers to fewer: each of them is laid out. */
const snapshotsBack = 12;
const largeSnapshotsBack = 2;
const largeRegister = 30_000;

const minuteOfSnapshot = ({ asOf }: Pick<Snapshot, "asOf">): EpochMinute => minuteDown(instantOf(asOf));

/** The last of the snapshots before one, those of one minute once, in the order of their exports: as many as are looked back to from a register. */
export async function earlierSnapshots(services: Services, before: number | undefined, { facility }: CompiledFacility): Promise<Snapshot[]> {
  const asOf = minuteOfSnapshot(facility);
  const most = facility.credentials.length > largeRegister ? largeSnapshotsBack : snapshotsBack;
  const all = await services.snapshots.list();
  const byMinute = new Map<number, Snapshot["id"]>();
  for (const { id, asOf: at } of [...all].sort((a, b) => a.id - b.id)) {
    const minute = minuteOfSnapshot({ asOf: at });
    if (minute < asOf && (before === undefined || id < before)) byMinute.set(minute, id);
  }
  const last = [...byMinute].sort(([a], [b]) => a - b).slice(-most);
  const snapshots: Snapshot[] = [];
  for (const [, id] of last) {
    const snapshot = await services.snapshots.byId(id);
    if (snapshot) snapshots.push(snapshot);
  }
  return snapshots;
}

/** Where the doors of a register are, as events are counted there. */
export async function placesOf(services: Pick<Services, "ruleSettings">, compiled: CompiledFacility): Promise<PlaceOf> {
  const { settings } = await services.ruleSettings.current();
  return countedPlaces(compiled, settings);
}

/** Uses as they would be counted by other business hours; only those that the rules ask for are looked at, and all before them are taken for none. */
async function usesByOtherHours(
  { events, ruleSettings }: Services,
  compiled: CompiledFacility,
  settings: RuleSettings,
  uses: readonly KeptUse[],
  asOf: EpochMinute,
) {
  const [countedPlace, placeOf] = [countedPlaces(compiled, (await ruleSettings.current()).settings), countedPlaces(compiled, settings)];
  const doors = compiled.facility.doors.flatMap(({ id }) => (countedPlace(id)?.hoursText === placeOf(id)?.hoursText ? [] : [id]));
  if (doors.length === 0) return uses;
  const from = (asOf - daysOf(settings, "out-of-hours") * minutesADay) * 60;
  return recountOutOfHours(uses, new Set(doors), events.between(from, (asOf + 1) * 60, { doors, granted: true }), placeOf);
}

/** What units told last that they hold; undefined where none was made known. Those that never told are not among them. */
async function unitReportsOf({ units }: Services): Promise<readonly UnitReport[] | undefined> {
  const known = await units.all();
  if (known.length === 0) return undefined;
  const reports: UnitReport[] = [];
  for (const { id, state } of known) {
    const memory = state.answeredAt === undefined ? undefined : await units.memoryOf(id);
    if (memory && state.answeredAt !== undefined) reports.push({ unit: id, at: minuteDown(instantOf(state.answeredAt)), memory });
  }
  return reports;
}

/** Whom each source that lists everybody named last, up to a snapshot; those whose list is not complete any more say nothing. */
async function peopleSourcesOf({ deliveries, sources }: Services, snapshot: number | undefined, named: PeopleSource | undefined): Promise<PeopleSource[]> {
  const before = (await deliveries.peopleSources(snapshot)).filter(({ source }) => source !== named?.source);
  const complete: PeopleSource[] = named ? [named] : [];
  for (const one of before) if ((await sources.owns(one.source)).cardholders?.complete !== false) complete.push(one);
  return complete;
}

/**
 * What rules judge a register with, of events up to its export. `snapshot` is its number where it has one: only earlier ones are looked back to. With
 * `settings` it is judged as if these were in force, with `named` as if a source had just named these people.
 */
export async function judgingOf(
  services: Services,
  compiled: CompiledFacility,
  snapshot?: number,
  settings?: RuleSettings,
  named?: PeopleSource,
): Promise<Judging> {
  const used = knownSettings(settings ?? (await services.ruleSettings.current()).settings, compiled.facility);
  const placeOf = countedPlaces(compiled, used);
  const asOf = minuteOfSnapshot(compiled.facility);
  const uses = await services.events.uses({ upTo: asOf * 60 + 59 }, placeOf);
  const earlier = await earlierSnapshots(services, snapshot, compiled);
  const laidOut: Earlier[] = [];
  for (const one of earlier) laidOut.push({ compiled: await services.compiled(one), asOf: minuteOfSnapshot(one) });
  return {
    settings: used,
    uses: settings ? await usesByOtherHours(services, compiled, used, uses, asOf) : uses,
    dates: await services.events.dates(),
    single: await singleEvents(services, compiled, used, asOf),
    earlier: laidOut,
    earlierIds: earlier.map(({ id }) => id),
    decisions: await services.rounds.decided(),
    peopleSources: await peopleSourcesOf(services, snapshot, named),
    houseRules: (await services.houseRules.inForce()).map((written) => houseRuleIn(compiled, written, asOf)),
    unitReports: await unitReportsOf(services),
    publicHolidays: await services.publicHolidays(Object.values(used.sites ?? {}).flatMap(({ country }) => country ?? [])),
  };
}

/** A register as rules look at it; changed ones are judged with the same, laid out beside. */
export function judged(
  horizon: Horizon,
  { settings, uses, dates, single, earlier, decisions, publicHolidays, peopleSources, houseRules, unitReports }: Judging,
): Judged {
  const { compiled, asOf } = horizon;
  return new Judged({
    horizon,
    settings,
    events: keptEvidence(compiled, { uses, dates, single }, asOf),
    earlier,
    decisions,
    publicHolidays,
    peopleSources,
    houseRules,
    unitReports,
  });
}

/** A register as rules look at it that ask for nothing but who opens what ahead: without events, and without what was before. */
export async function judgedAlone(
  { ruleSettings }: Pick<Services, "ruleSettings">,
  compiled: CompiledFacility,
  houseRules: readonly HouseRule[] = [],
): Promise<Judged> {
  const horizon = horizonOf(compiled);
  const { settings } = await ruleSettings.current();
  return new Judged({
    horizon,
    settings,
    events: new EventBook(compiled, [], horizon.asOf),
    earlier: [],
    decisions: undefined,
    publicHolidays: () => [],
    peopleSources: [],
    houseRules,
    unitReports: undefined,
  });
}

/** The minutes that are looked at of a register, by the settings. */
export const judgedHorizon = (compiled: CompiledFacility, { horizonDays }: RuleSettings): Horizon =>
  horizonDays === undefined ? horizonOf(compiled) : new Horizon(compiled, aheadOf(compiled.facility, horizonDays));
