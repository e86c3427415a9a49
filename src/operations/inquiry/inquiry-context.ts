import { groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import { hoursInWords } from "@/core/describe/hours-words";
import { BusinessWeeks, businessHoursOf } from "@/core/findings/business-hours";
import { minutesOfWhen } from "@/core/questions/minutes-of-when";
import { whenAtSite } from "@/core/questions/when";
import { calendarAt } from "@/core/paths/paths";
import type { Timeframe } from "@/core/paths/timeframe";
import type { AccessTable } from "@/core/table/access-table";
import { exactTimeframe, ordinaryWeekTimeframe } from "@/core/paths/timeframe";
import type { AskingMode } from "@/core/paths/paths";
import { askedDoors } from "@/core/questions/asked-doors";
import type { HolderNumber } from "@/core/questions/asked-people";
import { bearerOf, cardByItself } from "@/core/questions/asked-people";
import { Openings } from "@/core/questions/openings";
import { freeIn, openIn } from "@/core/paths/timetable";
import type { Weekday } from "@/core/time/civil-day";
import type { Schedule } from "@/core/time/schedule";
import type { EpochMinute } from "@/core/time/instant";
import type { IntervalSet } from "@/core/time/intervals";
import { clip, contentKey, intersect, nothing, union } from "@/core/time/intervals";
import { horizonOf } from "@/core/table/horizon";
import type { Services } from "../services";
import type { OpenRegister } from "../register/open-register";
import type { DrawnWeek, Inquiry, RestsOnUses } from "./inquiry";

/** With so few pairs of a holder and a door each is looked at by itself; with more, everybody's week is laid out. */
const fewPairs = 64;

/** The credentials that a holder carries. */
export function credentialsOf(compiled: CompiledFacility, holder: HolderNumber): CompiledCredential[] {
  const bearer = bearerOf(holder);
  const positions = "card" in bearer ? [bearer.card] : required(compiled.cardholders.at(bearer.cardholder), "positions are valid").credentials;
  return positions.map((position) => required(compiled.credentials.at(position), "positions are valid"));
}

/** Whether a card ends when it is not used for some time, and not by then anyway. */
export const endsUnused = ({ vocabulary: { windows } }: CompiledFacility, { credential, life }: CompiledCredential): boolean =>
  credential.expiry?.after === "last-use" && life.window.until < windows.of(credential).outward.until;

/**
 * What of an answer about some holders rests on uses: how many of their cards last longer by those since the export,
 * and whether any ends without further ones.
 */
export function restsOnUses({ compiled, prolonged }: OpenRegister, holders: readonly HolderNumber[]): RestsOnUses {
  const { facility, objects } = compiled;
  const byUse = facility.credentials.flatMap(({ expiry }, position) => (expiry?.after === "last-use" ? [position] : []));
  if (byUse.length === 0) return { prolonged: 0, endsUnused: false };
  const asked = new Set(holders);
  const concerned = byUse.filter((position) => {
    const holder = objects.cards.holderOf[position] as number;
    return asked.has(cardByItself(position)) || (holder !== -1 && asked.has(holder));
  });
  return {
    prolonged: concerned.filter((position) => prolonged?.has(position)).length,
    endsUnused: concerned.some((position) => endsUnused(compiled, required(compiled.credentials.at(position), "positions are valid"))),
  };
}

const usualWeekend: readonly Weekday[] = ["sat", "sun"];

/** What is being looked at: an answer's working place. */
export class InquiryContext {
  readonly asOf: EpochMinute;
  readonly until: EpochMinute;
  /** The minute whose ordinary week is drawn. */
  private readonly weekAt: EpochMinute;
  private readonly weeks: { readonly awake: Timeframe; readonly asleep: Timeframe };
  /** Business hours in the drawn week. */
  readonly businessWeeks: BusinessWeeks;
  /** The doors that are asked about; undefined for all. */
  readonly doors: readonly Position[] | undefined;
  /** The first and last minute that are meant at any of the doors. */
  readonly bounds: readonly [from: EpochMinute, to: EpochMinute];
  private readonly readings = new Map<string, Openings>();
  private readonly words = new Map<string, string>();
  private readonly meant = new Map<
    string,
    { readonly minutes: IntervalSet | undefined; readonly beyond: readonly [from: EpochMinute, to: EpochMinute] | undefined }
  >();

  constructor(
    readonly compiled: CompiledFacility,
    readonly now: EpochMinute,
    readonly inquiry: Inquiry,
    /** The business hours of each site. */
    readonly businessOf: (site: string) => Schedule,
    /** The part of the asked time that is looked at: minutes, the last one not included. Without one, all of it. */
    private readonly part?: readonly [from: EpochMinute, to: EpochMinute],
  ) {
    ({ from: this.asOf, to: this.until } = horizonOf(compiled).ahead);
    const { lockdown } = inquiry;
    this.doors = askedDoors(compiled, inquiry.where);
    this.weekAt = this.weekOf();
    const week = (asIfLive: boolean) => ordinaryWeekTimeframe(compiled, this.weekAt, { lockdown, asIfLive });
    this.businessWeeks = new BusinessWeeks(compiled, businessOf, this.weekAt);
    this.weeks = { awake: week(false), asleep: week(true) };
    this.bounds = this.askedBounds();
  }

  /** From the first to the last minute that is meant at any of the asked doors: of those ahead where all are, or none is. */
  private askedBounds(): readonly [from: EpochMinute, to: EpochMinute] {
    let [from, to] = [Infinity, -Infinity];
    for (const door of this.doors ?? this.compiled.doors.map(({ position }) => position)) {
      const minutes = this.minutesAt(door);
      from = Math.min(from, minutes ? (minutes[0] ?? from) : this.asOf);
      to = Math.max(to, minutes ? (minutes[minutes.length - 1] ?? to) : this.until);
    }
    return from < to ? [from as EpochMinute, to as EpochMinute] : [this.asOf, this.until];
  }

  /** The minute from which on whoever is asked about belongs to them: that of the export, or one before it that is asked about. */
  get since(): EpochMinute {
    return Math.min(this.asOf, this.bounds[0]) as EpochMinute;
  }

  /** Which of the asked doors open at the asked time. */
  openings(asIfLive: boolean): Openings {
    const [from, to] = this.bounds;
    const isBeyond = from < this.asOf || to > this.until;
    return this.reading(isBeyond ? "beyond" : "ahead", asIfLive, (mode) =>
      isBeyond ? horizonOf(this.compiled).span(from, to, mode) : horizonOf(this.compiled).table(mode),
    );
  }

  private reading(name: "ahead" | "beyond" | "week", asIfLive: boolean, tableOf: (mode: AskingMode) => AccessTable): Openings {
    const key = `${name} ${asIfLive}`;
    let openings = this.readings.get(key);
    if (!openings) {
      const table = tableOf({ lockdown: this.inquiry.lockdown, asIfLive });
      this.readings.set(key, (openings = new Openings(table, this.doors, (door) => this.minutesAt(door))));
    }
    return openings;
  }

  /** The instant whose ordinary week is drawn: the asked one, or the beginning of the asked time, else that of the export. */
  private weekOf(): EpochMinute {
    const { when } = this.inquiry;
    if (when.kind === "any" || when.kind === "recurring") return this.asOf;
    const [door] = this.compiled.doors;
    return (door && this.instantAt(door.position)) ?? this.now;
  }

  /** The minutes that are meant at a door, undefined for all; and how to read access there if they lie beyond the 13 months from the export. */
  private meantAt(door: Position) {
    const {
      door: { site },
      zone,
      calendar,
    } = required(this.compiled.doors[door], "positions are valid");
    let meant = this.meant.get(site);
    if (!meant) {
      const when = whenAtSite(this.inquiry.when, site);
      const clock = { zone, calendar: calendarAt(this.compiled, calendar), weekend: usualWeekend, business: this.businessOf(site) };
      const all = when ? minutesOfWhen(when, clock, this.now) : nothing;
      const minutes = all && this.part ? clip(all, ...this.part) : all;
      const [from, to] = [minutes?.[0] ?? this.asOf, minutes?.[minutes.length - 1] ?? this.until];
      meant = { minutes, beyond: from < this.asOf || to > this.until ? [from as EpochMinute, to as EpochMinute] : undefined };
      this.meant.set(site, meant);
    }
    return meant;
  }

  /** The minutes that are meant on the clock of a door's site; undefined for all. */
  minutesAt(door: Position): IntervalSet | undefined {
    return this.meantAt(door).minutes;
  }

  /** The first minute that is meant on the clock of a door's site; undefined where all are, or where the clock skips them. */
  instantAt(door: Position): EpochMinute | undefined {
    return this.minutesAt(door)?.[0] as EpochMinute | undefined;
  }

  /** When any of some holders opens any of some doors, in the 13 months from the export on. */
  timetable(holders: readonly HolderNumber[], doors: readonly Position[], asIfLive: boolean): IntervalSet {
    return this.reading("ahead", asIfLive, (mode) => horizonOf(this.compiled).table(mode)).timesOf(holders, doors);
  }

  /** Everybody's ordinary week at the asked time. */
  weekReading(asIfLive: boolean): Openings {
    return this.reading("week", asIfLive, (mode) => horizonOf(this.compiled).week(mode, this.weekAt));
  }

  /** When any of some holders opens any of some doors, in an ordinary week at the asked time. */
  week(holders: readonly HolderNumber[], doors: readonly Position[], asIfLive: boolean): IntervalSet {
    if (holders.length * doors.length > fewPairs) return this.weekReading(asIfLive).timesOf(holders, doors);
    const timeframe = asIfLive ? this.weeks.asleep : this.weeks.awake;
    let week: IntervalSet = nothing;
    for (const holder of holders)
      for (const credential of credentialsOf(this.compiled, holder))
        for (const door of doors) week = union(week, openIn(this.compiled, timeframe, credential, door));
    return week;
  }

  /** The same, with what of it lies outside the business hours of the sites at which it opens then. */
  drawnWeek(holders: readonly HolderNumber[], doors: readonly Position[], asIfLive: boolean): DrawnWeek {
    let [open, outside] = [nothing, nothing];
    for (const atSite of groupBy(doors, (door) => required(this.compiled.doors[door], "positions are valid").door.site).values()) {
      const week = this.week(holders, atSite, asIfLive);
      open = union(open, week);
      outside = union(outside, this.businessWeeks.outside(atSite, week));
    }
    return { open, outside };
  }

  /** When a holder opens a door in the asked time, or at all where it is left open. */
  opening(holder: HolderNumber, door: Position, asIfLive: boolean): IntervalSet {
    const { minutes, beyond } = this.meantAt(door);
    if (!beyond) return minutes ? intersect(this.timetable([holder], [door], asIfLive), minutes) : this.timetable([holder], [door], asIfLive);
    const timeframe = exactTimeframe(this.compiled, ...beyond, { lockdown: this.inquiry.lockdown, asIfLive });
    const open = credentialsOf(this.compiled, holder).reduce<IntervalSet>(
      (set, credential) => union(set, openIn(this.compiled, timeframe, credential, door)),
      [],
    );
    return minutes ? intersect(open, minutes) : open;
  }

  /** Hours in words of a timetable at a door, read by the holder's calendar or the site's. */
  describe(open: IntervalSet, credential: CompiledCredential | undefined, door: Position, full = false): string {
    const { zone, calendar } = required(this.compiled.doors[door], "positions are valid");
    const position = credential?.holder?.calendar ?? calendar;
    const key = `${full} ${zone.name} ${position} ${contentKey(open)}`;
    const known = this.words.get(key);
    if (known !== undefined) return known;
    const days = calendarAt(this.compiled, position);
    const { words } = hoursInWords(open, { zone, from: this.asOf, to: this.until, dayTypeOn: (date) => days?.read(date)?.winner.dayType }, full);
    this.words.set(key, words);
    return words;
  }

  /** When a door stands free at the asked time, for anybody; of the 13 months where any time is asked about. */
  freeAtAsked(door: Position): IntervalSet {
    const { minutes, beyond } = this.meantAt(door);
    const mode = { lockdown: this.inquiry.lockdown, asIfLive: false };
    const timeframe = beyond ? exactTimeframe(this.compiled, ...beyond, mode) : horizonOf(this.compiled).timeframe(mode);
    const free = freeIn(timeframe, required(this.compiled.doors[door], "positions are valid"));
    return minutes ? intersect(free, minutes) : free;
  }

  free(door: Position): { words: string; week: IntervalSet } | undefined {
    const at = required(this.compiled.doors[door], "positions are valid");
    const open = freeIn(horizonOf(this.compiled).timeframe({ lockdown: this.inquiry.lockdown, asIfLive: false }), at);
    return open.length === 0 ? undefined : { words: this.describe(open, undefined, door), week: freeIn(this.weeks.awake, at) };
  }
}

/** What is being looked at by the clock, with the business hours that are set. */
export async function contextOf(
  services: Pick<Services, "now" | "ruleSettings">,
  compiled: CompiledFacility,
  inquiry: Inquiry,
  part?: readonly [from: EpochMinute, to: EpochMinute],
): Promise<InquiryContext> {
  const { settings } = await services.ruleSettings.current();
  return new InquiryContext(compiled, minuteNow(services), inquiry, businessHoursOf(settings), part);
}

export const minuteNow = (services: Pick<Services, "now">): EpochMinute => Math.floor(Date.parse(services.now()) / 60_000) as EpochMinute;
