import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import type { Cardholder, Credential, Door, Grant } from "@/core/facility/document";
import type { Where, Who } from "@/core/questions/question";
import type { When } from "@/core/questions/when";
import { calendarEntryOf, instantOf, objectWindow, scheduleOf } from "@/core/facility/time-rules";
import type { HouseRule } from "@/core/findings/house-rule";
import type { RuleSettings } from "@/core/findings/settings";
import { pathsBetween } from "@/core/paths/paths";
import type { AccessPath, AskingMode } from "@/core/paths/paths";
import { exactTimeframe, ordinaryWeekTimeframe } from "@/core/paths/timeframe";
import type { Timeframe } from "@/core/paths/timeframe";
import { entryMetIn, freeIn, openIn, pathOpenIn } from "@/core/paths/timetable";
import { reasonAt, isFree } from "@/core/paths/verdict";
import { formatCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { formatMinute, minuteDown, minuteUp, parseInstant } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import type { IntervalSet } from "@/core/time/intervals";
import { holidayCalendar } from "@/core/time/calendar";
import { openAt, openOnDate } from "@/core/time/schedule";
import { localTime, zoneOf } from "@/core/time/zone";

/** The terms of the catalogue, minute by minute and pair by pair: who opens what, what events tell, and what a line weighs. */

export interface RawEvent {
  readonly at: string;
  readonly door: string;
  readonly credential?: string;
  readonly number?: string;
  readonly facilityCode?: string;
  readonly result: "granted" | "refused";
  readonly reason?: string;
  readonly id?: string;
}

export interface RawDecision {
  readonly at: string;
  readonly cardholder?: string;
  readonly credential?: string;
  readonly area: string;
  readonly decision: string;
}

/** A source that lists everybody, and whom. */
export interface RawPeopleSource {
  readonly source: string;
  readonly people: readonly string[];
}

export interface Line {
  readonly rule: string;
  readonly subject: { readonly kind: string; readonly id: string };
  readonly distinct: readonly string[];
  readonly proof: Readonly<Record<string, unknown>>;
}

export type Event = RawEvent & { readonly second: number; readonly minute: number; readonly of: string | undefined; readonly unknown: boolean };
export type Holder = { readonly kind: "cardholder" | "credential"; readonly id: string; readonly cards: readonly Credential[] };

const ordinary: AskingMode = { lockdown: false, asIfLive: false };
export const there = (text: string | undefined): text is string => text !== undefined && text !== "";
export const ascii = (text: string): string => [...text].map((c) => (c >= "A" && c <= "Z" ? c.toLowerCase() : c)).join("");
export const sorted = (texts: Iterable<string>): string[] =>
  [...new Set(texts)].sort((a, b) => {
    const [x, y] = [[...a].map((c) => c.codePointAt(0) ?? 0), [...b].map((c) => c.codePointAt(0) ?? 0)];
    for (let i = 0; i < Math.min(x.length, y.length); i++) if (x[i] !== y[i]) return (x[i] as number) - (y[i] as number);
    return x.length - y.length;
  });
export const written = (minute: number): string => {
  if (minute < Date.parse("0002-01-01T00:00Z") / 60_000) return "0001-01-01T00:00Z";
  return minute >= Date.parse("9999-01-01T00:00Z") / 60_000 ? "9999-12-31T23:59Z" : formatMinute(minute as EpochMinute);
};
export const second = (at: number): string => new Date(at * 1000).toISOString().replace(".000Z", "Z");
export const minuteOf = (text: string | undefined): number | undefined => (text === undefined ? undefined : minuteDown(instantOf(text)));

export class FindingsTerms {
  readonly A: number;
  readonly E: number;
  readonly frame: Timeframe;
  readonly events: readonly Event[];
  readonly opened = new Map<string, Uint8Array>();

  constructor(
    readonly compiled: CompiledFacility,
    readonly settings: RuleSettings & { readonly horizonDays: number },
    raw: readonly RawEvent[],
    readonly earlier: readonly CompiledFacility[],
    readonly decisions: readonly RawDecision[] | undefined,
    readonly peopleSources: readonly RawPeopleSource[] = [],
    readonly houseRules: readonly HouseRule[] = [],
  ) {
    this.A = minuteDown(instantOf(compiled.facility.asOf));
    this.E = this.A + settings.horizonDays * 1440;
    this.frame = exactTimeframe(compiled, this.A as EpochMinute, this.E as EpochMinute, ordinary);
    const kept: Event[] = [];
    const seen: string[] = [];
    for (const event of raw) {
      const at = parseInstant(event.at)?.seconds ?? 0;
      const same = there(event.id)
        ? `id ${event.id}`
        : JSON.stringify(
            [at, event.door, event.credential, event.number, event.facilityCode, event.result, event.reason].map((x) =>
              x === "" || x === undefined ? null : x,
            ),
          );
      if (seen.includes(same)) continue;
      seen.push(same);
      const minute = Math.floor(at / 60);
      if (minute > this.A) continue;
      const cards = this.cards();
      let of: string | undefined;
      let unknown: boolean;
      if (there(event.credential)) {
        of = cards.some(({ id }) => id === event.credential) ? event.credential : undefined;
        unknown = of === undefined;
      } else {
        const fitting = cards.filter(
          (card) =>
            card.number === event.number &&
            (there(card.facilityCode) ? card.facilityCode : undefined) === (there(event.facilityCode) ? event.facilityCode : undefined),
        );
        of = fitting.length === 1 ? fitting[0]?.id : undefined;
        unknown = fitting.length === 0;
      }
      kept.push({ ...event, second: at, minute, of, unknown });
    }
    this.events = kept;
  }

  // — the terms

  f() {
    return this.compiled.facility;
  }
  cards(): readonly Credential[] {
    return this.f().credentials;
  }
  p(rule: string, name: string, usual: number): number {
    return this.settings.parameters?.[rule]?.[name] ?? usual;
  }
  zone() {
    return zoneOf(this.f().timeZone);
  }
  zoneOfSite(site: string) {
    return zoneOf(this.f().sites.find(({ id }) => id === site)?.timeZone ?? "UTC");
  }
  date(zone: ReturnType<typeof zoneOf>, minute: number): number {
    return localTime(zone, minute as EpochMinute).date;
  }
  bits(set: IntervalSet, from = this.A, to = this.E): Uint8Array {
    const bits = new Uint8Array(to - from);
    for (let i = 0; i < set.length; i += 2) bits.fill(1, Math.max(0, (set[i] as number) - from), Math.max(0, (set[i + 1] as number) - from));
    return bits;
  }
  compiledCard(id: string): CompiledCredential {
    return this.compiled.credentials.at(this.compiled.credentialById.get(id) ?? -1) as CompiledCredential;
  }
  O(card: Credential, door: Door): Uint8Array {
    const key = `${card.id} ${door.id}`;
    let bits = this.opened.get(key);
    if (!bits) {
      bits = this.bits(openIn(this.compiled, this.frame, this.compiledCard(card.id), this.compiled.doorById.get(door.id) ?? -1));
      this.opened.set(key, bits);
    }
    return bits;
  }
  any(bits: Uint8Array): boolean {
    return bits.includes(1);
  }
  or(all: readonly Uint8Array[]): Uint8Array {
    const bits = new Uint8Array(this.E - this.A);
    for (const one of all) one.forEach((bit, i) => bit && (bits[i] = 1));
    return bits;
  }
  and(a: Uint8Array, b: Uint8Array): Uint8Array {
    return a.map((bit, i) => bit & (b[i] as number));
  }
  opensDoor(s: Holder, door: Door): boolean {
    return s.cards.some((card) => this.any(this.O(card, door)));
  }
  doorsOf(s: Holder): Door[] {
    return this.f().doors.filter((door) => this.opensDoor(s, door));
  }
  holders(): Holder[] {
    return [
      ...this.f().cardholders.map((h): Holder => ({ kind: "cardholder", id: h.id, cards: this.cards().filter(({ cardholder }) => cardholder === h.id) })),
      ...this.cards()
        .filter(({ cardholder }) => cardholder === undefined)
        .map((c): Holder => ({ kind: "credential", id: c.id, cards: [c] })),
    ];
  }
  people(): { readonly h: Cardholder; readonly s: Holder }[] {
    return this.f().cardholders.map((h) => ({ h, s: this.holders().find(({ kind, id }) => kind === "cardholder" && id === h.id) as Holder }));
  }
  holderOf(card: string): Holder {
    return this.holders().find(({ cards }) => cards.some(({ id }) => id === card)) as Holder;
  }
  areaOf(id: string | undefined) {
    return this.f().areas.find((area) => area.id === id);
  }
  chain(area: string | undefined): string[] {
    const found = this.areaOf(area);
    return found ? [found.id, ...this.chain(found.parent)] : [];
  }
  isInto(door: Door, area: string): boolean {
    return this.chain(door.area).includes(area);
  }
  sens(door: Door): number {
    return Math.max(0, ...this.chain(door.area).map((id) => this.areaOf(id)?.sensitivity ?? 0));
  }
  reaches(s: Holder, area: string): boolean {
    return this.f().doors.some((door) => this.isInto(door, area) && this.opensDoor(s, door));
  }
  sensitiveAreas(doors: readonly Door[], least: number): string[] {
    return sorted(doors.flatMap((door) => this.chain(door.area)).filter((id) => (this.areaOf(id)?.sensitivity ?? 0) >= least));
  }
  free(door: Door): Uint8Array {
    return this.bits(freeIn(this.frame, this.compiled.doors[this.compiled.doorById.get(door.id) ?? -1] as never));
  }
  window(object: { readonly from?: string; readonly until?: string }, inward = false) {
    return objectWindow(object, this.zone(), inward ? "inward" : "outward");
  }
  endOf(card: Credential): number {
    return this.compiledCard(card.id).life.window.until;
  }
  startOf(object: { readonly from?: string }): number {
    return this.window(object).from;
  }
  holderEnd(h: Cardholder): number {
    return this.window(h).until;
  }
  grantOver(grant: Grant): boolean {
    return this.window(grant, grant.effect === "block").until <= this.A;
  }
  activeAt(object: { readonly status: string; readonly statusSince?: string }, minute: number): boolean {
    return object.status === "active" || (object.statusSince !== undefined && minute < minuteUp(instantOf(object.statusSince)));
  }
  marked(object: { readonly status: string; readonly statusSince?: string }): boolean {
    return this.activeAt(object, this.A);
  }
  person(id: string | undefined): Cardholder | undefined {
    return this.f().cardholders.find((h) => h.id === id);
  }
  left(h: Cardholder): boolean {
    return (h.status === "left" && !this.marked(h)) || this.holderEnd(h) <= this.A;
  }
  leftMinute(h: Cardholder): number | undefined {
    const isLeft = h.status === "left" && !this.marked(h);
    if (isLeft && h.statusSince === undefined) return undefined;
    const all = [isLeft ? minuteUp(instantOf(h.statusSince ?? "")) : Infinity, this.holderEnd(h) <= this.A ? this.holderEnd(h) : Infinity];
    return Math.min(...all);
  }
  live(card: Credential, minute: number): boolean {
    const h = this.person(card.cardholder);
    const own = this.activeAt(card, minute) && this.startOf(card) <= minute && minute < this.endOf(card);
    return own && (!h || (this.activeAt(h, minute) && this.startOf(h) <= minute && minute < this.holderEnd(h)));
  }
  liveAhead(card: Credential): Uint8Array {
    return this.kept(`live ${card.id}`, () => Uint8Array.from({ length: this.E - this.A }, (_, i) => (this.live(card, this.A + i) ? 1 : 0)));
  }
  kept(key: string, make: () => Uint8Array): Uint8Array {
    const known = this.opened.get(key) ?? make();
    this.opened.set(key, known);
    return known;
  }
  paths(card: Credential, door: Door): AccessPath[] {
    return pathsBetween(this.compiled, this.compiledCard(card.id), this.compiled.doorById.get(door.id) ?? -1).filter(({ grant }) => !grant.blocks);
  }
  carrying(card: Credential, door: Door): AccessPath[] {
    const at = this.compiled.doors[this.compiled.doorById.get(door.id) ?? -1];
    return this.paths(card, door).filter(
      (path) => at && this.any(this.and(this.O(card, door), this.bits(pathOpenIn(this.frame, this.compiledCard(card.id), at, path)))),
    );
  }
  membershipsOf(h: string) {
    return this.f().memberships.filter(({ cardholder }) => cardholder === h);
  }
  groupsAbove(id: string | undefined): string[] {
    const group = this.f().groups.find((one) => one.id === id);
    return group ? [group.id, ...this.groupsAbove(group.parent)] : [];
  }
  /** Some minute ahead at which a credential is live and a window holds. */
  everLiveWithin(card: Credential, ...windows: readonly { readonly from: number; readonly until: number }[]): boolean {
    return this.liveAhead(card).some((bit, i) => bit === 1 && windows.every(({ from, until }) => from <= this.A + i && this.A + i < until));
  }
  holdsWhere(s: Holder, isIt: (grant: Grant) => boolean): boolean {
    return this.f().grants.some(
      (grant) =>
        grant.effect !== "block" &&
        isIt(grant) &&
        s.cards.some((card) => {
          const { to } = grant;
          const own = this.window(grant);
          if (to.credential !== undefined) return to.credential === card.id && this.everLiveWithin(card, own);
          if (card.cardholder === undefined) return false;
          if (to.cardholder !== undefined) return to.cardholder === card.cardholder && this.everLiveWithin(card, own);
          const group = to.group ?? "";
          if (this.groupsAbove(this.person(card.cardholder)?.department).includes(group) && this.everLiveWithin(card, own)) return true;
          return this.membershipsOf(card.cardholder).some((m) => this.groupsAbove(m.group).includes(group) && this.everLiveWithin(card, own, this.window(m)));
        }),
    );
  }
  holdsLevel(s: Holder, level: string): boolean {
    const bundles = this.f().bundles.filter(({ levels = [] }) => levels.includes(level));
    return this.holdsWhere(s, ({ open }) => open.level === level || bundles.some(({ id }) => id === open.bundle));
  }
  holdsGroup(h: Cardholder, s: Holder, group: string): boolean {
    return s.cards.some(
      (card) =>
        (this.groupsAbove(h.department).includes(group) && this.everLiveWithin(card)) ||
        this.membershipsOf(h.id).some((m) => this.groupsAbove(m.group).includes(group) && this.everLiveWithin(card, this.window(m))),
    );
  }

  // — house rules

  private readonly listOf: Readonly<
    Record<string, "areas" | "doors" | "doorGroups" | "levels" | "sites" | "cardholders" | "credentials" | "groups" | "bundles">
  > = {
    area: "areas",
    door: "doors",
    doorGroup: "doorGroups",
    level: "levels",
    site: "sites",
    cardholder: "cardholders",
    credential: "credentials",
    group: "groups",
    bundle: "bundles",
  };
  isThere({ kind, id }: { readonly kind: string; readonly id: string }): boolean {
    const list = this.listOf[kind];
    return list !== undefined && this.f()[list].some((one) => one.id === id);
  }
  doorsAt(where: Where): Door[] {
    return this.f().doors.filter((door) => {
      switch (where.kind) {
        case "anywhere":
          return true;
        case "door":
          return door.id === where.id;
        case "area":
          return this.isInto(door, where.id);
        case "site":
          return door.site === where.id;
        case "sensitivity":
          return this.sens(door) >= where.from;
        case "doorGroup":
        case "level":
          return this.compiled.cover(where.kind === "level" ? { level: where.id } : { doorGroup: where.id }).has(this.compiled.doorById.get(door.id) ?? -1);
      }
    });
  }
  peopleOf(who: Who | undefined): Holder[] {
    const card = who?.kind === "credential" ? this.cards().find(({ id }) => id === who.id) : undefined;
    if (card) return [{ kind: "credential", id: card.id, cards: [card] }];
    const isIn = (id: string, group: string): boolean =>
      this.groupsAbove(this.person(id)?.department).includes(group) ||
      this.membershipsOf(id).some((m) => this.window(m).until > this.A && this.groupsAbove(m.group).includes(group));
    return this.holders().filter(({ kind, id, cards }) => {
      if (!who || who.kind === "everybody") return true;
      if (who.kind === "cardholder") return kind === "cardholder" && id === who.id;
      if (who.kind === "type") return kind === "cardholder" && (this.person(id)?.type ?? "employee") === who.type;
      if (who.kind === "group") return kind === "cardholder" && isIn(id, who.id);
      const bundles =
        who.kind === "level"
          ? this.f()
              .bundles.filter(({ levels = [] }) => levels.includes(who.id))
              .map((one) => one.id)
          : [who.id];
      return this.f().grants.some(
        ({ to, open, effect, ...window }) =>
          effect !== "block" &&
          this.window(window).until > this.A &&
          ((who.kind === "level" && open.level === who.id) || bundles.includes(open.bundle ?? "")) &&
          (to.credential !== undefined
            ? cards.some((one) => one.id === to.credential)
            : kind === "cardholder" && (to.cardholder !== undefined ? to.cardholder === id : isIn(id, to.group ?? ""))),
      );
    });
  }
  /** A minute on the clock of a site. */
  there(site: string, minute: number): string {
    const { date, minuteOfDay } = localTime(this.zoneOfSite(site), minute as EpochMinute);
    return `${formatCivilDay(date)}T${String(Math.floor(minuteOfDay / 60)).padStart(2, "0")}:${String(minuteOfDay % 60).padStart(2, "0")}`;
  }
  /** Whether a minute is meant by a time on the clock of a site. */
  isMeant(when: When, site: string, minute: number): boolean {
    if (when.kind === "any") return true;
    if (when.kind !== "recurring") throw new Error("only times that recur are drawn");
    const { days, hours, within } = when;
    const zone = this.zoneOfSite(site);
    const { date, minuteOfDay } = localTime(zone, minute as EpochMinute);
    const isOver = hours.kind === "between" && hours.end <= hours.start;
    // What runs over midnight belongs to the date on which it begins.
    const begins = isOver && minuteOfDay < hours.end ? date - 1 : date;
    const inTime = within.kind === "dates" ? within.from <= begins && begins <= within.to : true;
    if (!inTime) return false;
    const calendar = this.f().calendars.find(({ id }) => id === this.f().sites.find((one) => one.id === site)?.calendar);
    const entry = calendar && holidayCalendar((calendar.days ?? []).map(calendarEntryOf)).read(begins as CivilDay)?.winner;
    const weekday = (((begins + 3) % 7) + 7) % 7;
    const isDay =
      days.kind === "every-day" ||
      (days.kind === "weekend" && weekday >= 5) ||
      (days.kind === "weekdays" && days.weekdays.includes((["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const)[weekday] ?? "mon")) ||
      (days.kind === "day-type" && entry?.dayType === days.dayType) ||
      (days.kind === "holiday" && entry?.name === days.name);
    if (!isDay) return false;
    if (hours.kind === "clock") return minuteOfDay === hours.minuteOfDay;
    if (hours.kind === "between") return isOver ? minuteOfDay >= hours.start || minuteOfDay < hours.end : hours.start <= minuteOfDay && minuteOfDay < hours.end;
    return hours.kind === "all-day" || (hours.kind === "business") === this.businessAt(site, minute);
  }

  weeks(zone: ReturnType<typeof zoneOf>): { from: number; to: number; name: string }[] {
    const name = (minute: number): string => formatCivilDay(this.date(zone, minute) as CivilDay);
    const starts: number[] = [];
    const isMonday = (date: number): boolean => (((date + 3) % 7) + 7) % 7 === 0;
    for (let monday = this.date(zone, this.A) - 14; monday < this.date(zone, this.E) + 14; monday++) {
      if (!isMonday(monday)) continue;
      let minute = (monday - 2) * 1440;
      while (this.date(zone, minute) < monday) minute++;
      starts.push(minute);
    }
    const weeks = starts.slice(0, -1).map((from, i) => ({ from, to: starts[i + 1] as number, name: name(from) }));
    const within = weeks.filter(({ from, to }) => from >= this.A && to <= this.E);
    return within.length > 0 ? within : [{ from: this.A, to: this.E, name: name(this.A) }];
  }
  fullest(bits: Uint8Array, zone: ReturnType<typeof zoneOf>): { minutes: number; week: string } {
    let best = { minutes: -1, week: "" };
    for (const { from, to, name } of this.weeks(zone)) {
      const minutes = bits.slice(from - this.A, to - this.A).reduce((sum, bit) => sum + bit, 0);
      if (minutes > best.minutes) best = { minutes, week: name };
    }
    return best;
  }
  businessAt(site: string, minute: number): boolean {
    const own = this.settings.sites?.[site]?.business;
    const calendarId = this.f().sites.find(({ id }) => id === site)?.calendar;
    const days = this.f().calendars.find(({ id }) => id === calendarId)?.days ?? [];
    const calendar = holidayCalendar(days.map(calendarEntryOf));
    if (own) return openAt(scheduleOf({ ...own, id: "b", name: "b" }), calendar, this.zoneOfSite(site), minute as EpochMinute);
    const { date, minuteOfDay } = localTime(this.zoneOfSite(site), minute as EpochMinute);
    const weekday = (((date + 3) % 7) + 7) % 7;
    return weekday < 5 && minuteOfDay >= 420 && minuteOfDay < 1140 && calendar.read(date)?.winner.dayType !== "public";
  }

  businessAhead(site: string): Uint8Array {
    return this.kept(`business ${site}`, () => Uint8Array.from({ length: this.E - this.A }, (_, i) => (this.businessAt(site, this.A + i) ? 1 : 0)));
  }

  // — events

  eventsOf(card: string): Event[] {
    return this.events.filter(({ of }) => of === card);
  }
  ago(days: number): number {
    return this.A - days * 1440;
  }
  lastUse(card: Credential): number | undefined {
    const uses = this.eventsOf(card.id)
      .filter(({ result }) => result === "granted")
      .map(({ minute }) => minute);
    const stated = minuteOf(card.lastUse);
    const all = stated === undefined ? uses : [...uses, stated];
    return all.length === 0 ? undefined : Math.max(...all);
  }
  coveredDates(site: string, days: number): number {
    const zone = this.zoneOfSite(site);
    const gap = this.p("events", "gapDays", 7);
    const dates = new Set(
      this.events.filter(({ door }) => this.f().doors.find(({ id }) => id === door)?.site === site).map(({ minute }) => this.date(zone, minute)),
    );
    const today = this.date(zone, this.A);
    const own = [...dates].sort((a, b) => a - b);
    let covered = 0;
    for (let date = today - days; date < today; date++) {
      const before = own.filter((one) => one <= date).at(-1);
      const after = own.find((one) => one >= date);
      if (dates.has(date) || (before !== undefined && after !== undefined && after - before <= gap)) covered++;
    }
    return covered;
  }
  isCovered(site: string, days: number): boolean {
    return this.coveredDates(site, days) * 100 >= this.p("events", "coveredPercent", 90) * days;
  }
  concerned(doors: readonly Door[]): string[] {
    return sorted((doors.length > 0 ? doors : this.f().doors).map(({ site }) => site));
  }

  lines: Line[] = [];
  untold: { id: string; sites: (readonly [string, number])[] }[] = [];
  rule = "";

  flag(kind: string, id: string, distinct: readonly string[], proof: Readonly<Record<string, unknown>>): void {
    const clean = Object.fromEntries(
      Object.entries(proof).flatMap(([key, value]) => (value === undefined ? [] : [[key, Array.isArray(value) ? sorted(value as string[]) : value]])),
    );
    this.lines.push({ rule: this.rule, subject: { kind, id }, distinct, proof: clean });
  }
  /** Whether it can be told of a subject; else it is noted that it cannot. */
  tell(id: string, sites: readonly string[], days: (site: string) => number): boolean {
    const wanting = sites.filter((site) => !this.isCovered(site, days(site)));
    if (wanting.length > 0) this.untold.push({ id, sites: wanting.map((site) => [site, days(site)] as const) });
    return wanting.length === 0;
  }

  /** The same as `live`, in another document at its own export. */
  static liveThen(document: CompiledFacility, h: string): string[] {
    const judge = new FindingsTerms(document, { format: "nomade.rules/1", horizonDays: 1 }, [], [], undefined);
    return document.facility.credentials.filter((card) => card.cardholder === h && judge.live(card, judge.A)).map(({ id }) => id);
  }

  departmentDoors(document: CompiledFacility, h: string): string[] {
    const judge = document === this.compiled ? this : new FindingsTerms(document, { format: "nomade.rules/1", horizonDays: 1 }, [], [], undefined);
    return document.facility.doors
      .filter((door) =>
        judge
          .cards()
          .filter(({ cardholder }) => cardholder === h)
          .some((card) => judge.paths(card, door).some(({ by }) => by === "department")),
      )
      .map(({ id }) => id);
  }

  certified(h: Cardholder): boolean {
    const managers = [h.manager, ...this.groupsAbove(h.department).map((id) => this.f().groups.find((group) => group.id === id)?.manager)];
    return managers.some((id) => id !== h.id && this.person(id) !== undefined && !this.left(this.person(id) as Cardholder));
  }

  schedulesNamed(): Set<string | undefined> {
    const { doors, levels, grants, cardholders } = this.f();
    return new Set([
      ...doors.flatMap(({ unlock, entryRows = [] }) => [unlock, ...entryRows.map(({ schedule }) => schedule)]),
      ...levels.flatMap(({ rows = [] }) => rows.map(({ schedule }) => schedule)),
      ...grants.map(({ schedule }) => schedule),
      ...cardholders.map(({ hours }) => hours),
    ]);
  }

  entryAt(door: Door, minute: number): string {
    const at = this.compiled.doors[this.compiled.doorById.get(door.id) ?? -1];
    const calendar = at?.calendar === undefined ? undefined : this.compiled.calendars[at.calendar];
    for (const { schedule, entry } of door.entryRows ?? []) {
      const rule = this.f().schedules.find(({ id }) => id === schedule);
      if (rule && openAt(scheduleOf(rule), calendar, this.zoneOfSite(door.site), minute as EpochMinute)) return entry;
    }
    return door.entry ?? "card";
  }
  readonly entries = new Map<string, string[]>();
  entryAhead(door: Door): string[] {
    const known = this.entries.get(door.id) ?? Array.from({ length: this.E - this.A }, (_, i) => this.entryAt(door, this.A + i));
    this.entries.set(door.id, known);
    return known;
  }
  entryMet(card: Credential, door: Door): Uint8Array {
    return this.bits(entryMetIn(this.frame, this.compiledCard(card.id), this.compiled.doors[this.compiled.doorById.get(door.id) ?? -1] as never));
  }
  /** Minutes ahead at which the first three conditions of `opens` hold: its reason is none of those that they give. */
  *oneToThree(card: Credential, door: Door): Generator<number> {
    const passing = ["open", "entry-unmet", "via-closed"];
    const position = this.compiled.doorById.get(door.id) ?? -1;
    for (let t = this.A; t < this.E; t++)
      if (passing.includes(reasonAt(this.compiled, this.compiledCard(card.id), position, t as EpochMinute, ordinary))) yield t;
  }
  ofHolder(s: Holder, days: number): { readonly e: Event; readonly door: Door }[] {
    return this.events
      .flatMap((e) => {
        const door = this.f().doors.find(({ id }) => id === e.door);
        return door && e.minute >= this.ago(days) && s.cards.some(({ id }) => id === e.of) ? [{ e, door }] : [];
      })
      .sort(
        (a, b) =>
          a.e.second - b.e.second ||
          (a.door.id === b.door.id ? ((a.e.of ?? "") < (b.e.of ?? "") ? -1 : (a.e.of ?? "") > (b.e.of ?? "") ? 1 : 0) : a.door.id < b.door.id ? -1 : 1),
      );
  }
  againstRecord(rule: string, result: "granted" | "refused"): void {
    const documents = [...this.earlier, this.compiled];
    const asOf = (document: CompiledFacility): number => minuteDown(instantOf(document.facility.asOf));
    const found: Record<string, { second: number; before: string; after: string }[]> = {};
    for (const e of this.events) {
      const credential = there(e.credential) ? e.credential : e.of;
      if (credential === undefined || e.result !== result || e.minute < this.ago(this.p(rule, "days", 30))) continue;
      if (!this.f().doors.some(({ id }) => id === e.door)) continue;
      const two = [documents.filter((d) => asOf(d) <= e.minute).at(-1), documents.find((d) => asOf(d) >= e.minute)].map((document) => {
        const at = document?.doors[document.doorById.get(e.door) ?? -1];
        if (!document || !at) return undefined;
        const card = document.credentials.at(document.credentialById.get(credential) ?? -1);
        const minute = e.minute as EpochMinute;
        return {
          reason: card ? reasonAt(document, card, at.position, minute, ordinary) : "unknown-credential",
          free: isFree(document, at, minute, ordinary),
        };
      });
      const [before, after] = two;
      if (!before || !after) {
        this.untold.push({ id: e.door, sites: [] });
        continue;
      }
      if (result === "granted" && (before.free || after.free)) continue;
      const open = [before, after].filter(({ reason }) => reason === "open").length;
      if (open === 1) this.untold.push({ id: e.door, sites: [] });
      if (open === (result === "granted" ? 0 : 2))
        (found[JSON.stringify([e.door, credential])] ??= []).push({ second: e.second, before: before.reason, after: after.reason });
    }
    for (const [key, all] of Object.entries(found)) {
      const [door = "", credential = ""] = JSON.parse(key) as string[];
      const last = all.find((one) => one.second === Math.max(...all.map((other) => other.second)));
      this.flag("door", door, [credential], {
        events: all.length,
        last: second(last?.second ?? 0),
        ...(result === "granted" && { before: last?.before, after: last?.after }),
      });
    }
  }

  /** The risk of a line, minute by minute of an ordinary week. */
  risk({ rule, subject, proof }: Line, base: number): Record<string, number> {
    const frame = ordinaryWeekTimeframe(this.compiled, this.A as EpochMinute, { lockdown: false, asIfLive: true });
    const own = this.cards().filter((card) =>
      subject.kind === "credential" ? card.id === subject.id : subject.kind === "cardholder" && card.cardholder === subject.id,
    );
    const concerned = subject.kind === "cardholder" && own.some((card) => this.marked(card)) ? own.filter((card) => this.marked(card)) : own;
    const [W, X] = [new Uint8Array(10080), new Uint8Array(10080)];
    let S = 0;
    for (const door of this.f().doors) {
      const zone = this.zoneOfSite(door.site);
      const { date } = localTime(zone, this.A as EpochMinute);
      const business = this.settings.sites?.[door.site]?.business;
      const monday = date - ((((date + 3) % 7) + 7) % 7);
      const isBusiness = (minute: number): boolean => {
        if (!business) return minute < 5 * 1440 && minute % 1440 >= 420 && minute % 1440 < 1140;
        const day = openOnDate(scheduleOf({ ...business, id: "b", name: "b" }), undefined, (monday + Math.floor(minute / 1440)) as CivilDay);
        return day.some((from, i) => i % 2 === 0 && from <= minute % 1440 && minute % 1440 < (day[i + 1] as number));
      };
      for (const card of concerned) {
        const open = this.bits(openIn(this.compiled, frame, this.compiledCard(card.id), this.compiled.doorById.get(door.id) ?? -1), 0, 10080);
        if (!this.any(open)) continue;
        S = Math.max(S, this.sens(door));
        open.forEach((bit, minute) => {
          if (bit === 0) return;
          W[minute] = 1;
          if (!isBusiness(minute)) X[minute] = 1;
        });
      }
    }
    if (subject.kind === "door") S = this.sens(this.f().doors.find(({ id }) => id === subject.id) as Door);
    if (subject.kind === "area") S = Math.max(0, ...this.chain(subject.id).map((id) => this.areaOf(id)?.sensitivity ?? 0));
    if (subject.kind === "level") S = Math.max(0, ...this.coveredBy({ level: subject.id }).map((door) => this.sens(door)));
    if (subject.kind === "bundle") S = Math.max(0, ...this.coveredBy({ bundle: subject.id }).map((door) => this.sens(door)));
    if (subject.kind === "group")
      S = Math.max(
        0,
        ...this.f()
          .grants.filter((grant) => grant.effect !== "block" && !this.grantOver(grant) && this.groupsAbove(subject.id).includes(grant.to.group ?? ""))
          .flatMap(({ open }) => this.coveredBy(open).map((door) => this.sens(door))),
      );
    const read = (text: unknown): number | undefined => (typeof text === "string" ? minuteOf(text) : undefined);
    let since = read(proof.left) ?? read(proof.moved) ?? read(proof.ended) ?? read(proof.since) ?? read(proof.given);
    if (rule === "expired-active") since = read(proof.end);
    if (rule === "unused") {
      const card = this.cards().find(({ id }) => id === subject.id);
      since =
        read(proof.lastUse) ??
        minuteOf(card?.issuedAt) ??
        (card?.from === undefined ? undefined : this.startOf(card)) ??
        this.ago(this.p("unused", "days", 90));
    }
    const T = since === undefined ? 0 : Math.max(0, this.A - since);
    const count = (bits: Uint8Array): number => bits.reduce((sum, bit) => sum + bit, 0);
    const round = (x: number): number => Math.floor(x + 0.5);
    const weights = { sensitivity: 24, outOfHours: 10, weeklyHours: 8, standing: 12, ...this.settings.weights };
    const terms = {
      base: this.settings.weights?.base?.[rule] ?? base,
      sensitivity: round((weights.sensitivity * S) / 3),
      outOfHours: count(W) === 0 ? 0 : round((weights.outOfHours * count(X)) / count(W)),
      weeklyHours: round((weights.weeklyHours * count(W)) / 10080),
      standing: round((weights.standing * Math.min(T, 525_600)) / 525_600),
    };
    return {
      sum: Math.min(
        100,
        Object.values(terms).reduce((sum, n) => sum + n, 0),
      ),
      ...terms,
    };
  }

  coveredBy(open: Grant["open"]): Door[] {
    return this.f().doors.filter((door) => this.compiled.cover(open).has(this.compiled.doorById.get(door.id) ?? -1));
  }
}
