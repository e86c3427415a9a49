import type { CompiledCredential, CompiledDoor, CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { coveredDatesBefore, coversPeriod } from "../events/coverage";
import type { Evidence } from "../events/event-book";
import type { Area } from "../facility/document";
import type { Facility } from "../facility/facility";
import { required } from "../kernel/invariant";
import { asIfLive, calendarAt, ordinary } from "../paths/paths";
import type { Timeframe } from "../paths/timeframe";
import { freeIn } from "../paths/timetable";
import { doorsOfRow, timelineAt } from "../table/access-rows";
import type { RowNumber } from "../table/access-rows";
import type { AccessTable } from "../table/access-table";
import type { Horizon } from "../table/horizon";
import type { CivilDay } from "../time/civil-day";
import { minutesADay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import type { IntervalSet } from "../time/intervals";
import type { UnitReport } from "../units/unit-report";
import { UnitSources } from "../units/unit-sources";
import { openAt, openDuring } from "../time/schedule";
import type { Schedule } from "../time/schedule";
import { zoneOf } from "../time/zone";
import type { Zone } from "../time/zone";
import { businessHoursOf } from "./business-hours";
import { Lives, minuteOf } from "./lives";
import type { Untold } from "./flag";
import type { HouseRule } from "./house-rule";
import { remembered } from "../kernel/remembered";
import { eventParameters, own } from "./settings";
import type { RuleSettings } from "./settings";
import { Weeks } from "./weeks";
import { localDate } from "./written";

/** Who is looked at as one: a cardholder with their credentials, or a credential without one. */
export interface Holder {
  readonly kind: "cardholder" | "credential";
  readonly id: string;
  /** Undefined for a credential without a cardholder. */
  readonly cardholder: Position | undefined;
  readonly credentials: readonly Position[];
}

/** An earlier document, laid out. */
export interface Earlier {
  readonly compiled: CompiledFacility;
  readonly asOf: EpochMinute;
}

/** A decision of an earlier certification, by minute. */
export interface Decided {
  readonly at: EpochMinute;
  readonly holder: { readonly kind: Holder["kind"]; readonly id: string };
  readonly area: string;
  readonly decision: string;
}

/** Public holidays of a whole country in a year: local dates, and what they are called. From a library outside of the core. */
export type PublicHolidays = (country: string, year: number) => readonly { readonly date: CivilDay; readonly name: string }[];

/** A source that lists everybody, and whom it listed last, by the ids of the register. */
export interface PeopleSource {
  readonly source: string;
  readonly people: ReadonlySet<string>;
}

export interface JudgedInput {
  readonly horizon: Horizon;
  readonly settings: RuleSettings;
  readonly events: Evidence;
  /** In the order of their exports, all before this one's. */
  readonly earlier: readonly Earlier[];
  /** Undefined where none were given. */
  readonly decisions: readonly Decided[] | undefined;
  readonly publicHolidays: PublicHolidays;
  /** None where a register came without sources. */
  readonly peopleSources: readonly PeopleSource[];
  /** What the house has written down; none where a register is judged by itself. */
  readonly houseRules: readonly HouseRule[];
  /** What units at the doors told last that they hold; undefined where nothing is known of units at all. */
  readonly unitReports: readonly UnitReport[] | undefined;
}

/** Whether positions in order hold one. Cost: a search. */
export function holds(positions: Int32Array, wanted: Position): boolean {
  let [low, high] = [0, positions.length - 1];
  while (low <= high) {
    const middle = (low + high) >> 1;
    const at = positions[middle] as number;
    if (at === wanted) return true;
    if (at < wanted) low = middle + 1;
    else high = middle - 1;
  }
  return false;
}

/** A register as rules look at it: who opens what ahead, what the events say, and the terms that rules share. Source: `findings.md`, 1 and 2. */
export class Judged {
  readonly compiled: CompiledFacility;
  readonly facility: Facility;
  /** A: the minute of the export. */
  readonly asOf: EpochMinute;
  /** E: the end of what is looked at. */
  readonly end: EpochMinute;
  readonly zone: Zone;
  readonly lives: Lives;
  readonly settings: RuleSettings;
  readonly events: Evidence;
  readonly earlier: readonly Earlier[];
  readonly decisions: readonly Decided[] | undefined;
  readonly publicHolidays: PublicHolidays;
  readonly peopleSources: readonly PeopleSource[];
  readonly houseRules: readonly HouseRule[];
  readonly unitReports: readonly UnitReport[] | undefined;
  readonly ahead: AccessTable;
  private readonly horizon: Horizon;

  constructor({ horizon, settings, events, earlier, decisions, publicHolidays, peopleSources, houseRules, unitReports }: JudgedInput) {
    this.horizon = horizon;
    this.compiled = horizon.compiled;
    this.facility = horizon.compiled.facility;
    this.asOf = horizon.ahead.from;
    this.end = horizon.ahead.to;
    this.zone = zoneOf(this.facility.timeZone);
    this.lives = new Lives(this.compiled, this.asOf);
    this.settings = settings;
    this.businessOf = businessHoursOf(settings);
    this.events = events;
    this.earlier = earlier;
    this.decisions = decisions;
    this.publicHolidays = publicHolidays;
    this.peopleSources = peopleSources;
    this.houseRules = houseRules;
    this.unitReports = unitReports;
    this.ahead = horizon.table(ordinary);
    this.seenAreas = new Uint8Array(this.facility.areas.length);
  }

  /** Who opens what ahead as if every credential were live. */
  get awake(): AccessTable {
    return this.horizon.table(asIfLive);
  }

  /** Who opens what in an ordinary week as if every credential were live. */
  get week(): AccessTable {
    return this.horizon.week(asIfLive);
  }

  private madeUnitSources: UnitSources | undefined;

  /** The register made ready for what its units are to hold. */
  get unitSources(): UnitSources {
    return (this.madeUnitSources ??= new UnitSources(this.horizon));
  }

  get timeframe(): Timeframe {
    return this.ahead.timeframe;
  }

  /** The minute so many days of 1440 minutes before the export. */
  daysBefore(days: number): EpochMinute {
    return (this.asOf - days * minutesADay) as EpochMinute;
  }

  // — Holders

  private allHolders: readonly Holder[] | undefined;

  /** Cardholders, then credentials without one, in the order of the document. */
  get holders(): readonly Holder[] {
    return (this.allHolders ??= [
      ...this.facility.cardholders.map(({ id }, i): Holder => ({ kind: "cardholder", id, cardholder: i, credentials: this.lives.credentialsOf(i) })),
      ...this.facility.credentials.flatMap(({ id }, i): Holder[] =>
        this.lives.holderOf(i) === undefined ? [{ kind: "credential", id, cardholder: undefined, credentials: [i] }] : [],
      ),
    ]);
  }

  private readonly holdersByKey = remembered((_: "all") => new Map(this.holders.map((holder) => [`${holder.kind} ${holder.id}`, holder])));

  /** The holder of a credential. */
  holderOfCredential(credential: Position): Holder {
    const cardholder = this.lives.holderOf(credential);
    const key = cardholder === undefined ? `credential ${this.credential(credential).credential.id}` : `cardholder ${this.lives.cardholder(cardholder).id}`;
    return required(this.holdersByKey("all").get(key), "every credential has a holder");
  }

  credential(position: Position): CompiledCredential {
    return required(this.compiled.credentials.at(position), "positions are valid");
  }

  credentialIds(positions: Iterable<Position>): string[] {
    return Array.from(positions, (position) => this.lives.credential(position).id);
  }

  // — Who opens what

  readonly rowOf = remembered((holder: Holder): RowNumber =>
    holder.cardholder === undefined ? this.ahead.liveRow(required(holder.credentials[0], "it is its own")) : this.ahead.rowOfCardholder(holder.cardholder),
  );

  readonly liveRow = remembered((credential: Position): RowNumber => this.ahead.liveRow(credential));

  /** The doors that a holder opens, in order of position. */
  doorsOf(holder: Holder): readonly Position[] {
    return this.doorsInRow(this.rowOf(holder));
  }

  readonly doorsInRow = remembered((row: RowNumber): readonly Position[] => Array.from(doorsOfRow(this.ahead.rows, row)));

  opensAnything(holder: Holder): boolean {
    return this.rowOf(holder) !== 0;
  }

  /** When a holder opens a door. */
  openFor(holder: Holder, door: Position): IntervalSet {
    return this.ahead.timelines.set(timelineAt(this.ahead.rows, this.rowOf(holder), door));
  }

  /** When a credential opens a door. */
  openWith(credential: Position, door: Position): IntervalSet {
    return this.ahead.timelines.set(timelineAt(this.ahead.rows, this.liveRow(credential), door));
  }

  /** How many holders have each row. */
  readonly holdersByRow = remembered((_: "all"): ReadonlyMap<RowNumber, number> => {
    const counts = new Map<RowNumber, number>();
    for (const holder of this.holders) counts.set(this.rowOf(holder), (counts.get(this.rowOf(holder)) ?? 0) + 1);
    return counts;
  });

  /** The areas that each row reaches, in order of position: of its doors, their areas and those above. */
  readonly areasInRow = remembered((row: RowNumber): Int32Array => {
    const { seenAreas } = this;
    const found: Position[] = [];
    for (const door of doorsOfRow(this.ahead.rows, row))
      for (const area of this.door(door).areas) {
        if (seenAreas[area] === 1) continue;
        seenAreas[area] = 1;
        found.push(area);
      }
    for (const area of found) seenAreas[area] = 0;
    return Int32Array.from(found).sort();
  });

  private readonly seenAreas: Uint8Array;

  reaches(holder: Holder, area: Position): boolean {
    return holds(this.areasInRow(this.rowOf(holder)), area);
  }

  /** How many holders reach each area that any does. */
  readonly reachCounts = remembered((_: "all"): ReadonlyMap<Position, number> => {
    const counts = new Map<Position, number>();
    for (const [row, holders] of this.holdersByRow("all")) for (const area of this.areasInRow(row)) counts.set(area, (counts.get(area) ?? 0) + holders);
    return counts;
  });

  // — Doors and areas

  door(position: Position): CompiledDoor {
    return required(this.compiled.doors[position], "positions are valid");
  }

  doorIds(positions: Iterable<Position>): string[] {
    return Array.from(positions, (position) => this.door(position).door.id);
  }

  area(position: Position): Area {
    return required(this.facility.areas[position], "positions are valid");
  }

  isInto(door: Position, area: Position): boolean {
    return this.door(door).areas.includes(area);
  }

  readonly sensitivityOf = remembered((door: Position): number => Math.max(0, ...this.door(door).areas.map((area) => this.area(area).sensitivity ?? 0)));

  isSensitive(door: Position, least: number): boolean {
    return this.sensitivityOf(door) >= least;
  }

  isSensitiveArea(area: Position, least: number): boolean {
    return (this.area(area).sensitivity ?? 0) >= least;
  }

  /** Ids of the sensitive areas at or above some doors. */
  sensitiveAreasOf(doors: readonly Position[], least: number): string[] {
    const areas = new Set(doors.flatMap((door) => this.door(door).areas).filter((area) => this.isSensitiveArea(area, least)));
    return [...areas].map((area) => this.area(area).id);
  }

  /** When a door stands open to anybody ahead. */
  readonly freeAhead = remembered((door: Position): IntervalSet => freeIn(this.timeframe, this.door(door)));

  siteOf(door: Position): string {
    return this.door(door).door.site;
  }

  /** An area and those above it, the nearest first. */
  readonly chainOfArea = remembered((area: Position): readonly Position[] => {
    const chain: Position[] = [];
    for (let at: Position | undefined = area; at !== undefined;) {
      chain.push(at);
      const { parent } = this.area(at);
      at = parent === undefined ? undefined : this.compiled.indexes.of("areas").get(parent);
    }
    return chain;
  });

  readonly zoneOfSite = remembered((site: string): Zone => zoneOf(required(this.site(site), "references resolve").timeZone));

  site(id: string) {
    return this.facility.sites[this.compiled.indexes.of("sites").get(id) ?? -1];
  }

  private readonly weeksByZone = remembered((zone: Zone) => new Weeks(zone, this.asOf, this.end));

  weeksOf(zone: Zone): Weeks {
    return this.weeksByZone(zone);
  }

  // — Business hours

  readonly businessOf: (site: string) => Schedule;

  calendarOfSite(site: string) {
    const calendar = this.site(site)?.calendar;
    return calendar === undefined ? undefined : calendarAt(this.compiled, this.compiled.indexes.of("calendars").get(calendar));
  }

  /** When the business hours of a site are open ahead. */
  readonly businessAhead = remembered((site: string): IntervalSet =>
    openDuring(this.businessOf(site), this.calendarOfSite(site), this.zoneOfSite(site), this.asOf, this.end),
  );

  isBusinessAt(site: string, minute: EpochMinute): boolean {
    return openAt(this.businessOf(site), this.calendarOfSite(site), this.zoneOfSite(site), minute);
  }

  // — Events and what they cover

  parameterOfEvents(name: keyof typeof eventParameters): number {
    return own(own(this.settings.parameters, "events"), name) ?? eventParameters[name];
  }

  private readonly coveredAt = remembered((site: string) =>
    remembered((days: number): number => {
      const today = localDate(this.zoneOfSite(site), this.asOf);
      return coveredDatesBefore(this.events.datesAt(site), today, days, this.parameterOfEvents("gapDays"));
    }),
  );

  /** How many of the last so many dates before today events cover at a site. */
  coveredDates(site: string, days: number): number {
    return this.coveredAt(site)(days);
  }

  isCovered(site: string, days: number): boolean {
    return coversPeriod(this.coveredDates(site, days), days, this.parameterOfEvents("coveredPercent"));
  }

  private readonly sitesWithDoors = remembered((_: "all"): readonly string[] => [...new Set(this.compiled.doors.map(({ door }) => door.site))]);

  /** The sites of doors; those of all doors where there are none. One list for the same sites. */
  sitesConcerned(doors: Iterable<Position>): readonly string[] {
    const { siteOfDoor, lists, seen } = this.siteLists("all");
    const found: number[] = [];
    for (const door of doors) {
      const site = siteOfDoor[door] as number;
      if (seen[site] === 1) continue;
      seen[site] = 1;
      found.push(site);
    }
    for (const site of found) seen[site] = 0;
    return lists(found.sort((a, b) => a - b).join(" "));
  }

  /** The same of the doors of a row. */
  sitesOfRow(row: RowNumber): readonly string[] {
    return this.sitesConcerned(doorsOfRow(this.ahead.rows, row));
  }

  /** Lists of sites, of which there are few, by the places of the sites among those with doors; and the place of each door's. */
  private readonly siteLists = remembered((_: "all") => {
    const sites = this.sitesWithDoors("all");
    const places = new Map(sites.map((site, i) => [site, i]));
    return {
      siteOfDoor: Int32Array.from(this.compiled.doors, ({ door }) => places.get(door.site) ?? 0),
      seen: new Uint8Array(sites.length),
      lists: remembered((key: string): readonly string[] => (key === "" ? sites : key.split(" ").map((place) => sites[Number(place)] ?? ""))),
    };
  });

  /** Undefined where events cover all of some sites for so many days, by site; else what cannot be told for want of which. */
  untoldAt(id: string, sites: readonly string[], days: (site: string) => number): Untold | undefined {
    const wanting = sites.filter((site) => !this.isCovered(site, days(site)));
    return wanting.length === 0 ? undefined : { id, sites: wanting.map((site) => [site, days(site)] as const) };
  }

  /** The last granted uses of a credential outside the business hours of the doors' sites, by door. */
  readonly lastUsesOutOfHours = remembered((credential: Position) =>
    this.events.lastOutOfHoursByDoor(credential, (door, minute) => !this.isBusinessAt(this.siteOf(door), minute)),
  );

  /** Of sites concerned, those of which events do not cover so many days, with these days; undefined where they cover all. One list for the same sites. */
  readonly wantingFor = remembered((days: number) => remembered((sites: readonly string[]) => this.untoldAt("", sites, () => days)?.sites));

  /** The latest use of a credential that the events or its source tell. */
  lastUse(credential: Position): EpochMinute | undefined {
    const seen = this.events.lastGrantedOf(credential);
    const stated = this.statedLastUse(credential);
    return seen === undefined || (stated ?? -Infinity) > seen ? stated : seen;
  }

  readonly statedLastUse = remembered((credential: Position): EpochMinute | undefined => minuteOf(this.lives.credential(credential).lastUse));
}
