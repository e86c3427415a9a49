import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import { hoursInWords } from "@/core/describe/hours-words";
import { businessHours } from "@/core/findings/business-hours";
import { minutesOfWhen } from "@/core/questions/minutes-of-when";
import { whenAtSite } from "@/core/questions/when";
import { calendarAt } from "@/core/paths/paths";
import type { Timeframe } from "@/core/paths/timeframe";
import type { AccessTable } from "@/core/table/access-table";
import { exactTimeframe, ordinaryWeekTimeframe } from "@/core/paths/timeframe";
import { openOf } from "@/core/table/table-questions";
import { freeIn, openIn } from "@/core/paths/timetable";
import type { Weekday } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import type { IntervalSet } from "@/core/time/intervals";
import { contentKey, intersect, nothing, union } from "@/core/time/intervals";
import { horizonOf } from "@/core/table/horizon";
import type { Services } from "../services";
import type { AnswerableInquiry, AskedHolder, AskedPlace, NamedHolder } from "./inquiry";
import { namedCredential, namedCardholder } from "./inquiry-names";

/** Who or what carries credentials: a cardholder, or a credential without one. Many are looked at and few are shown, so names wait. */
export class Holder {
  private shown: NamedHolder | undefined;

  constructor(
    private readonly compiled: CompiledFacility,
    readonly credentials: readonly CompiledCredential[],
    private readonly asCredential = false,
  ) {}

  get named(): NamedHolder {
    const first = required(this.credentials[0], "a holder has credentials");
    this.shown ??= first.holder && !this.asCredential ? namedCardholder(this.compiled, first.holder.position) : namedCredential(first);
    return this.shown;
  }
}

const usualWeekend: readonly Weekday[] = ["sat", "sun"];

/** What is being looked at: an answer's working place. */
export class InquiryContext {
  readonly asOf: EpochMinute;
  readonly until: EpochMinute;
  private readonly weeks: { readonly awake: Timeframe; readonly asleep: Timeframe };
  private readonly words = new Map<string, string>();
  private readonly meant = new Map<
    string,
    { readonly minutes: IntervalSet | undefined; readonly beyond: readonly [from: EpochMinute, to: EpochMinute] | undefined }
  >();
  /** Whether a timetable opens at any of the minutes that are meant; people share their timetables. */
  private readonly inMeant = new Map<IntervalSet, WeakMap<IntervalSet, boolean>>();

  constructor(
    readonly compiled: CompiledFacility,
    readonly now: EpochMinute,
    readonly inquiry: AnswerableInquiry,
  ) {
    ({ from: this.asOf, to: this.until } = horizonOf(compiled).ahead);
    const { lockdown } = inquiry;
    const week = (asIfLive: boolean) => ordinaryWeekTimeframe(compiled, this.weekOf(), { lockdown, asIfLive });
    this.weeks = { awake: week(false), asleep: week(true) };
  }

  private table(asIfLive: boolean): AccessTable {
    return horizonOf(this.compiled).table({ lockdown: this.inquiry.lockdown, asIfLive });
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
      const clock = { zone, calendar: calendarAt(this.compiled, calendar), weekend: usualWeekend, business: businessHours };
      const minutes = when ? minutesOfWhen(when, clock, this.now) : nothing;
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

  timetable(holder: Holder, door: Position, asIfLive: boolean): IntervalSet {
    const table = this.table(asIfLive);
    return holder.credentials.reduce<IntervalSet>((open, { position }) => union(open, openOf(table, position, door)), []);
  }

  week(holder: Holder, door: Position, asIfLive: boolean): IntervalSet {
    const timeframe = asIfLive ? this.weeks.asleep : this.weeks.awake;
    return holder.credentials.reduce<IntervalSet>((open, credential) => union(open, openIn(this.compiled, timeframe, credential, door)), []);
  }

  /** When a holder opens a door in the asked time, or at all where it is left open. */
  opening(holder: Holder, door: Position, asIfLive: boolean): IntervalSet {
    const { minutes, beyond } = this.meantAt(door);
    if (!beyond) return minutes ? intersect(this.timetable(holder, door, asIfLive), minutes) : this.timetable(holder, door, asIfLive);
    const timeframe = exactTimeframe(this.compiled, ...beyond, { lockdown: this.inquiry.lockdown, asIfLive });
    const open = holder.credentials.reduce<IntervalSet>((set, credential) => union(set, openIn(this.compiled, timeframe, credential, door)), []);
    return minutes ? intersect(open, minutes) : open;
  }

  /** Whether a holder opens a door at any minute of the asked time. */
  opens(holder: Holder, door: Position, asIfLive: boolean): boolean {
    const { minutes, beyond } = this.meantAt(door);
    const table = beyond ? horizonOf(this.compiled).span(...beyond, { lockdown: this.inquiry.lockdown, asIfLive }) : this.table(asIfLive);
    const open = holder.credentials.reduce<IntervalSet>((set, { position }) => union(set, openOf(table, position, door)), []);
    if (!minutes) return open.length > 0;
    const known = this.inMeant.get(minutes) ?? new WeakMap<IntervalSet, boolean>();
    this.inMeant.set(minutes, known);
    let opens = known.get(open);
    if (opens === undefined) {
      opens = intersect(open, minutes).length > 0;
      known.set(open, opens);
    }
    return opens;
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

  free(door: Position): { words: string; week: IntervalSet } | undefined {
    const at = required(this.compiled.doors[door], "positions are valid");
    const open = freeIn(this.table(false).timeframe, at);
    return open.length === 0 ? undefined : { words: this.describe(open, undefined, door), week: freeIn(this.weeks.awake, at) };
  }
}

export const doorsOf = (compiled: CompiledFacility, where: AskedPlace): Position[] => {
  if (where.kind === "door") {
    const door = compiled.doorById.get(where.id);
    return door === undefined ? [] : [door];
  }
  const area = compiled.facility.areas.findIndex(({ id }) => id === where.id);
  return compiled.doors.filter(({ areas }) => areas.includes(area)).map(({ position }) => position);
};

export const credentialsOf = (compiled: CompiledFacility, who: AskedHolder): CompiledCredential[] => {
  if (who.kind === "credential") {
    const position = compiled.credentialById.get(who.id);
    return position === undefined ? [] : [required(compiled.credentials.at(position), "positions are valid")];
  }
  const position = compiled.cardholderById.get(who.id);
  return position === undefined
    ? []
    : required(compiled.cardholders.at(position), "positions are valid").credentials.map((credential) =>
        required(compiled.credentials.at(credential), "positions are valid"),
      );
};

export const minuteNow = (services: Services): EpochMinute => Math.floor(Date.parse(services.now()) / 60_000) as EpochMinute;
