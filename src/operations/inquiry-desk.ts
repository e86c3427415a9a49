import { present } from "@/core/kernel/invariant";
import type { Position } from "@/core/kernel/position-index";
import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import { hoursInWords } from "@/core/describe/hours-words";
import { calendarAt } from "@/core/resolve/paths";
import type { Reading } from "@/core/resolve/reading";
import type { AccessTable } from "@/core/resolve/access-table";
import { ordinaryWeekReading } from "@/core/resolve/reading";
import { openOf } from "@/core/resolve/table-questions";
import { freeIn, openIn } from "@/core/resolve/timetable";
import { reasonAt } from "@/core/resolve/verdict";
import { aheadOf } from "@/core/facility/ahead";
import type { EpochMinute } from "@/core/time/instant";
import type { IntervalSet } from "@/core/time/intervals";
import { contains, contentKey, intersect, union } from "@/core/time/intervals";
import { openDuring, weeklySchedule } from "@/core/time/schedule";
import type { ClockInterval } from "@/core/time/schedule";
import { minuteAtWallClock, zoneOf } from "@/core/time/zone";
import { horizonTable } from "./access-tables";
import type { Services } from "./services";
import type { TimeBand, Inquiry, NamedHolder } from "./inquiry";
import { namedCredential, namedCardholder } from "./inquiry-names";

const whole: readonly ClockInterval[] = [[0, 1440]];
const everyDay = (row: readonly ClockInterval[]) => Array.from({ length: 7 }, () => row);
const bandSchedules = {
  nights: weeklySchedule({ week: everyDay([[20 * 60, 6 * 60]]), holidays: new Map(), onHoliday: "weekday", from: undefined, until: undefined }),
  weekends: weeklySchedule({ week: [[], [], [], [], [], whole, whole], holidays: new Map(), onHoliday: "weekday", from: undefined, until: undefined }),
  // A public holiday counts as out of hours.
  "out-of-hours": weeklySchedule({
    week: [...Array.from({ length: 5 }, (): readonly ClockInterval[] => [[0, 7 * 60], [19 * 60, 1440]]), whole, whole],
    holidays: new Map([["public", whole]]),
    onHoliday: "weekday",
    from: undefined,
    until: undefined,
  }),
} as const;

/** Who or what carries credentials: a cardholder, or a credential without one. Many are looked at and few are shown, so names wait. */
export class Holder {
  private shown: NamedHolder | undefined;

  constructor(
    private readonly compiled: CompiledFacility,
    readonly credentials: readonly CompiledCredential[],
    private readonly asCredential = false,
  ) {}

  get named(): NamedHolder {
    const first = present(this.credentials[0], "a holder has credentials");
    this.shown ??= first.holder && !this.asCredential ? namedCardholder(this.compiled, first.holder.position) : namedCredential(first);
    return this.shown;
  }
}

/** What is being looked at: an answer's working place. */
export class Desk {
  readonly asOf: EpochMinute;
  readonly until: EpochMinute;
  private readonly weeks: { readonly awake: Reading; readonly asleep: Reading };
  private readonly words = new Map<string, string>();
  private readonly bands = new Map<string, IntervalSet>();
  /** Whether a timetable opens at any minute of the band; people share their timetables. */
  private readonly inBand = new Map<IntervalSet, WeakMap<IntervalSet, boolean>>();

  constructor(
    readonly compiled: CompiledFacility,
    readonly now: EpochMinute,
    readonly inquiry: Inquiry,
  ) {
    ({ from: this.asOf, to: this.until } = aheadOf(compiled.facility));
    const { lockdown } = inquiry;
    const week = (asIfLive: boolean) => ordinaryWeekReading(compiled, this.weekOf(), { lockdown, asIfLive });
    this.weeks = { awake: week(false), asleep: week(true) };
  }

  private table(asIfLive: boolean): AccessTable {
    return horizonTable(this.compiled, { lockdown: this.inquiry.lockdown, asIfLive });
  }

  /** The instant whose ordinary week is drawn: the asked one, else that of the export. */
  private weekOf(): EpochMinute {
    const { when } = this.inquiry;
    if (when.kind === "now") return this.now;
    if (when.kind === "moment") return minuteAtWallClock(zoneOf(this.compiled.facility.timeZone), when.date, when.minuteOfDay);
    return this.asOf;
  }

  /** The asked instant on the wall clock of a door; undefined for no moment. */
  instantAt(door: Position): EpochMinute | undefined {
    const { when } = this.inquiry;
    if (when.kind === "now") return this.now;
    return when.kind === "moment" ? minuteAtWallClock(present(this.compiled.doors[door], "positions are valid").zone, when.date, when.minuteOfDay) : undefined;
  }

  timetable(holder: Holder, door: Position, asIfLive: boolean): IntervalSet {
    const table = this.table(asIfLive);
    return holder.credentials.reduce<IntervalSet>((open, { position }) => union(open, openOf(table, position, door)), []);
  }

  week(holder: Holder, door: Position, asIfLive: boolean): IntervalSet {
    const reading = asIfLive ? this.weeks.asleep : this.weeks.awake;
    return holder.credentials.reduce<IntervalSet>((open, credential) => union(open, openIn(this.compiled, reading, credential, door)), []);
  }

  /** Whether a holder opens a door at the asked time. */
  opens(holder: Holder, door: Position, asIfLive: boolean): boolean {
    const { when, lockdown } = this.inquiry;
    const at = this.instantAt(door);
    if (at !== undefined && this.asOf <= at && at < this.until) return contains(this.timetable(holder, door, asIfLive), at);
    if (at !== undefined) return holder.credentials.some((credential) => reasonAt(this.compiled, credential, door, at, { lockdown, asIfLive }) === "open");
    const open = this.timetable(holder, door, asIfLive);
    if (when.kind !== "band" || open.length === 0) return open.length > 0;
    return this.opensInBand(open, this.band(door, when.band));
  }

  private opensInBand(open: IntervalSet, band: IntervalSet): boolean {
    const known = this.inBand.get(band) ?? new WeakMap<IntervalSet, boolean>();
    this.inBand.set(band, known);
    let opens = known.get(open);
    if (opens === undefined) {
      opens = intersect(open, band).length > 0;
      known.set(open, opens);
    }
    return opens;
  }

  private band(door: Position, band: TimeBand): IntervalSet {
    const { zone, calendar } = present(this.compiled.doors[door], "positions are valid");
    const key = `${zone.name} ${calendar ?? ""} ${band}`;
    let set = this.bands.get(key);
    if (!set) {
      set = openDuring(bandSchedules[band], calendarAt(this.compiled, calendar), zone, this.asOf, this.until);
      this.bands.set(key, set);
    }
    return set;
  }

  /** Hours in words of a timetable at a door, read by the holder's calendar or the site's. */
  describe(open: IntervalSet, credential: CompiledCredential | undefined, door: Position, full = false): string {
    const { zone, calendar } = present(this.compiled.doors[door], "positions are valid");
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
    const at = present(this.compiled.doors[door], "positions are valid");
    const open = freeIn(this.table(false).reading, at);
    return open.length === 0 ? undefined : { words: this.describe(open, undefined, door), week: freeIn(this.weeks.awake, at) };
  }
}

export const doorsOf = (compiled: CompiledFacility, where: NonNullable<Inquiry["where"]>): Position[] => {
  if (where.kind === "door") {
    const door = compiled.doorById.get(where.id);
    return door === undefined ? [] : [door];
  }
  const area = compiled.facility.areas.findIndex(({ id }) => id === where.id);
  return compiled.doors.filter(({ areas }) => areas.includes(area)).map(({ position }) => position);
};

export const credentialsOf = (compiled: CompiledFacility, who: NonNullable<Inquiry["who"]>): CompiledCredential[] => {
  if (who.kind === "credential") {
    const position = compiled.credentialById.get(who.id);
    return position === undefined ? [] : [present(compiled.credentials.at(position), "positions are valid")];
  }
  const position = compiled.cardholderById.get(who.id);
  return position === undefined
    ? []
    : present(compiled.cardholders.at(position), "positions are valid").credentials.map((credential) => present(compiled.credentials.at(credential), "positions are valid"));
};

export const minuteNow = (services: Services): EpochMinute => Math.floor(Date.parse(services.now()) / 60_000) as EpochMinute;
