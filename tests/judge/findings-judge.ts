import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import type { Cardholder, Credential, Door, Grant } from "@/core/facility/document";
import { calendarEntryOf, instantOf, objectWindow, scheduleOf } from "@/core/facility/time-rules";
import type { RuleSettings } from "@/core/findings/settings";
import { pathsBetween } from "@/core/paths/paths";
import type { AccessPath, AskingMode } from "@/core/paths/paths";
import { exactTimeframe, ordinaryWeekTimeframe } from "@/core/paths/timeframe";
import type { Timeframe } from "@/core/paths/timeframe";
import { entryMetIn, freeIn, openIn, pathOpenIn } from "@/core/paths/timetable";
import { reasonAt, isFree } from "@/core/paths/verdict";
import { covers } from "@/core/time/calendar";
import { formatCivilDay, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { formatMinute, minuteDown, minuteUp, parseInstant } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import type { IntervalSet } from "@/core/time/intervals";
import { holidayCalendar } from "@/core/time/calendar";
import { openAt, openOnDate } from "@/core/time/schedule";
import { localTime, zoneOf } from "@/core/time/zone";

/**
 * The catalogue read aloud, a rule a function: minute by minute and pair by pair, with nothing laid out for everybody and nothing remembered but what a
 * pair opens. It judges the rules; who opens what it takes from the resolver of single pairs, which has a judge of its own.
 */

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

export interface Line {
  readonly rule: string;
  readonly subject: { readonly kind: string; readonly id: string };
  readonly distinct: readonly string[];
  readonly proof: Readonly<Record<string, unknown>>;
}

export interface Verdict {
  readonly lines: readonly Line[];
  readonly cannotTell: readonly string[];
  readonly covered: Readonly<Record<string, unknown>>;
}

type Event = RawEvent & { readonly second: number; readonly minute: number; readonly of: string | undefined; readonly unknown: boolean };
type Holder = { readonly kind: "cardholder" | "credential"; readonly id: string; readonly cards: readonly Credential[] };

const ordinary: AskingMode = { lockdown: false, asIfLive: false };
const there = (text: string | undefined): text is string => text !== undefined && text !== "";
const ascii = (text: string): string => [...text].map((c) => (c >= "A" && c <= "Z" ? c.toLowerCase() : c)).join("");
const sorted = (texts: Iterable<string>): string[] =>
  [...new Set(texts)].sort((a, b) => {
    const [x, y] = [[...a].map((c) => c.codePointAt(0) ?? 0), [...b].map((c) => c.codePointAt(0) ?? 0)];
    for (let i = 0; i < Math.min(x.length, y.length); i++) if (x[i] !== y[i]) return (x[i] as number) - (y[i] as number);
    return x.length - y.length;
  });
const written = (minute: number): string => {
  if (minute < Date.parse("0002-01-01T00:00Z") / 60_000) return "0001-01-01T00:00Z";
  return minute >= Date.parse("9999-01-01T00:00Z") / 60_000 ? "9999-12-31T23:59Z" : formatMinute(minute as EpochMinute);
};
const second = (at: number): string => new Date(at * 1000).toISOString().replace(".000Z", "Z");
const minuteOf = (text: string | undefined): number | undefined => (text === undefined ? undefined : minuteDown(instantOf(text)));

export class FindingsJudge {
  readonly A: number;
  readonly E: number;
  private readonly frame: Timeframe;
  private readonly events: readonly Event[];
  private readonly opened = new Map<string, Uint8Array>();

  constructor(
    readonly compiled: CompiledFacility,
    readonly settings: RuleSettings & { readonly horizonDays: number },
    raw: readonly RawEvent[],
    readonly earlier: readonly CompiledFacility[],
    readonly decisions: readonly RawDecision[] | undefined,
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

  private f() {
    return this.compiled.facility;
  }
  private cards(): readonly Credential[] {
    return this.f().credentials;
  }
  private p(rule: string, name: string, usual: number): number {
    return this.settings.parameters?.[rule]?.[name] ?? usual;
  }
  private zone() {
    return zoneOf(this.f().timeZone);
  }
  private zoneOfSite(site: string) {
    return zoneOf(this.f().sites.find(({ id }) => id === site)?.timeZone ?? "UTC");
  }
  private date(zone: ReturnType<typeof zoneOf>, minute: number): number {
    return localTime(zone, minute as EpochMinute).date;
  }
  private bits(set: IntervalSet, from = this.A, to = this.E): Uint8Array {
    const bits = new Uint8Array(to - from);
    for (let i = 0; i < set.length; i += 2) bits.fill(1, Math.max(0, (set[i] as number) - from), Math.max(0, (set[i + 1] as number) - from));
    return bits;
  }
  private compiledCard(id: string): CompiledCredential {
    return this.compiled.credentials.at(this.compiled.credentialById.get(id) ?? -1) as CompiledCredential;
  }
  private O(card: Credential, door: Door): Uint8Array {
    const key = `${card.id} ${door.id}`;
    let bits = this.opened.get(key);
    if (!bits) {
      bits = this.bits(openIn(this.compiled, this.frame, this.compiledCard(card.id), this.compiled.doorById.get(door.id) ?? -1));
      this.opened.set(key, bits);
    }
    return bits;
  }
  private any(bits: Uint8Array): boolean {
    return bits.includes(1);
  }
  private or(all: readonly Uint8Array[]): Uint8Array {
    const bits = new Uint8Array(this.E - this.A);
    for (const one of all) one.forEach((bit, i) => bit && (bits[i] = 1));
    return bits;
  }
  private and(a: Uint8Array, b: Uint8Array): Uint8Array {
    return a.map((bit, i) => bit & (b[i] as number));
  }
  private opensDoor(s: Holder, door: Door): boolean {
    return s.cards.some((card) => this.any(this.O(card, door)));
  }
  private doorsOf(s: Holder): Door[] {
    return this.f().doors.filter((door) => this.opensDoor(s, door));
  }
  private holders(): Holder[] {
    return [
      ...this.f().cardholders.map((h): Holder => ({ kind: "cardholder", id: h.id, cards: this.cards().filter(({ cardholder }) => cardholder === h.id) })),
      ...this.cards()
        .filter(({ cardholder }) => cardholder === undefined)
        .map((c): Holder => ({ kind: "credential", id: c.id, cards: [c] })),
    ];
  }
  private people(): { readonly h: Cardholder; readonly s: Holder }[] {
    return this.f().cardholders.map((h) => ({ h, s: this.holders().find(({ kind, id }) => kind === "cardholder" && id === h.id) as Holder }));
  }
  private holderOf(card: string): Holder {
    return this.holders().find(({ cards }) => cards.some(({ id }) => id === card)) as Holder;
  }
  private areaOf(id: string | undefined) {
    return this.f().areas.find((area) => area.id === id);
  }
  private chain(area: string | undefined): string[] {
    const found = this.areaOf(area);
    return found ? [found.id, ...this.chain(found.parent)] : [];
  }
  private isInto(door: Door, area: string): boolean {
    return this.chain(door.area).includes(area);
  }
  private sens(door: Door): number {
    return Math.max(0, ...this.chain(door.area).map((id) => this.areaOf(id)?.sensitivity ?? 0));
  }
  private reaches(s: Holder, area: string): boolean {
    return this.f().doors.some((door) => this.isInto(door, area) && this.opensDoor(s, door));
  }
  private sensitiveAreas(doors: readonly Door[], least: number): string[] {
    return sorted(doors.flatMap((door) => this.chain(door.area)).filter((id) => (this.areaOf(id)?.sensitivity ?? 0) >= least));
  }
  private free(door: Door): Uint8Array {
    return this.bits(freeIn(this.frame, this.compiled.doors[this.compiled.doorById.get(door.id) ?? -1] as never));
  }
  private window(object: { readonly from?: string; readonly until?: string }, inward = false) {
    return objectWindow(object, this.zone(), inward ? "inward" : "outward");
  }
  private endOf(card: Credential): number {
    return this.compiledCard(card.id).life.window.until;
  }
  private startOf(object: { readonly from?: string }): number {
    return this.window(object).from;
  }
  private holderEnd(h: Cardholder): number {
    return this.window(h).until;
  }
  private grantOver(grant: Grant): boolean {
    return this.window(grant, grant.effect === "block").until <= this.A;
  }
  private activeAt(object: { readonly status: string; readonly statusSince?: string }, minute: number): boolean {
    return object.status === "active" || (object.statusSince !== undefined && minute < minuteUp(instantOf(object.statusSince)));
  }
  private marked(object: { readonly status: string; readonly statusSince?: string }): boolean {
    return this.activeAt(object, this.A);
  }
  private person(id: string | undefined): Cardholder | undefined {
    return this.f().cardholders.find((h) => h.id === id);
  }
  private left(h: Cardholder): boolean {
    return (h.status === "left" && !this.marked(h)) || this.holderEnd(h) <= this.A;
  }
  private leftMinute(h: Cardholder): number | undefined {
    const isLeft = h.status === "left" && !this.marked(h);
    if (isLeft && h.statusSince === undefined) return undefined;
    const all = [isLeft ? minuteUp(instantOf(h.statusSince ?? "")) : Infinity, this.holderEnd(h) <= this.A ? this.holderEnd(h) : Infinity];
    return Math.min(...all);
  }
  private live(card: Credential, minute: number): boolean {
    const h = this.person(card.cardholder);
    const own = this.activeAt(card, minute) && this.startOf(card) <= minute && minute < this.endOf(card);
    return own && (!h || (this.activeAt(h, minute) && this.startOf(h) <= minute && minute < this.holderEnd(h)));
  }
  private liveAhead(card: Credential): Uint8Array {
    return this.kept(`live ${card.id}`, () => Uint8Array.from({ length: this.E - this.A }, (_, i) => (this.live(card, this.A + i) ? 1 : 0)));
  }
  private kept(key: string, make: () => Uint8Array): Uint8Array {
    const known = this.opened.get(key) ?? make();
    this.opened.set(key, known);
    return known;
  }
  private paths(card: Credential, door: Door): AccessPath[] {
    return pathsBetween(this.compiled, this.compiledCard(card.id), this.compiled.doorById.get(door.id) ?? -1).filter(({ grant }) => !grant.blocks);
  }
  private carrying(card: Credential, door: Door): AccessPath[] {
    const at = this.compiled.doors[this.compiled.doorById.get(door.id) ?? -1];
    return this.paths(card, door).filter(
      (path) => at && this.any(this.and(this.O(card, door), this.bits(pathOpenIn(this.frame, this.compiledCard(card.id), at, path)))),
    );
  }
  private membershipsOf(h: string) {
    return this.f().memberships.filter(({ cardholder }) => cardholder === h);
  }
  private groupsAbove(id: string | undefined): string[] {
    const group = this.f().groups.find((one) => one.id === id);
    return group ? [group.id, ...this.groupsAbove(group.parent)] : [];
  }
  /** Some minute ahead at which a credential is live and a window holds. */
  private everLiveWithin(card: Credential, ...windows: readonly { readonly from: number; readonly until: number }[]): boolean {
    return this.liveAhead(card).some((bit, i) => bit === 1 && windows.every(({ from, until }) => from <= this.A + i && this.A + i < until));
  }
  private holdsWhere(s: Holder, isIt: (grant: Grant) => boolean): boolean {
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
  private holdsLevel(s: Holder, level: string): boolean {
    const bundles = this.f().bundles.filter(({ levels = [] }) => levels.includes(level));
    return this.holdsWhere(s, ({ open }) => open.level === level || bundles.some(({ id }) => id === open.bundle));
  }
  private holdsGroup(h: Cardholder, s: Holder, group: string): boolean {
    return s.cards.some(
      (card) =>
        (this.groupsAbove(h.department).includes(group) && this.everLiveWithin(card)) ||
        this.membershipsOf(h.id).some((m) => this.groupsAbove(m.group).includes(group) && this.everLiveWithin(card, this.window(m))),
    );
  }

  private weeks(zone: ReturnType<typeof zoneOf>): { from: number; to: number; name: string }[] {
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
  private fullest(bits: Uint8Array, zone: ReturnType<typeof zoneOf>): { minutes: number; week: string } {
    let best = { minutes: -1, week: "" };
    for (const { from, to, name } of this.weeks(zone)) {
      const minutes = bits.slice(from - this.A, to - this.A).reduce((sum, bit) => sum + bit, 0);
      if (minutes > best.minutes) best = { minutes, week: name };
    }
    return best;
  }
  private businessAt(site: string, minute: number): boolean {
    const own = this.settings.sites?.[site]?.business;
    const calendarId = this.f().sites.find(({ id }) => id === site)?.calendar;
    const days = this.f().calendars.find(({ id }) => id === calendarId)?.days ?? [];
    const calendar = holidayCalendar(days.map(calendarEntryOf));
    if (own) return openAt(scheduleOf({ ...own, id: "b", name: "b" }), calendar, this.zoneOfSite(site), minute as EpochMinute);
    const { date, minuteOfDay } = localTime(this.zoneOfSite(site), minute as EpochMinute);
    const weekday = (((date + 3) % 7) + 7) % 7;
    return weekday < 5 && minuteOfDay >= 420 && minuteOfDay < 1140 && calendar.read(date)?.winner.dayType !== "public";
  }

  private businessAhead(site: string): Uint8Array {
    return this.kept(`business ${site}`, () => Uint8Array.from({ length: this.E - this.A }, (_, i) => (this.businessAt(site, this.A + i) ? 1 : 0)));
  }

  // — events

  private eventsOf(card: string): Event[] {
    return this.events.filter(({ of }) => of === card);
  }
  private ago(days: number): number {
    return this.A - days * 1440;
  }
  private lastUse(card: Credential): number | undefined {
    const uses = this.eventsOf(card.id)
      .filter(({ result }) => result === "granted")
      .map(({ minute }) => minute);
    const stated = minuteOf(card.lastUse);
    const all = stated === undefined ? uses : [...uses, stated];
    return all.length === 0 ? undefined : Math.max(...all);
  }
  private coveredDates(site: string, days: number): number {
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
  private isCovered(site: string, days: number): boolean {
    return this.coveredDates(site, days) * 100 >= this.p("events", "coveredPercent", 90) * days;
  }
  private concerned(doors: readonly Door[]): string[] {
    return sorted((doors.length > 0 ? doors : this.f().doors).map(({ site }) => site));
  }

  private lines: Line[] = [];
  private untold: { id: string; sites: (readonly [string, number])[] }[] = [];
  private rule = "";

  private flag(kind: string, id: string, distinct: readonly string[], proof: Readonly<Record<string, unknown>>): void {
    const clean = Object.fromEntries(
      Object.entries(proof).flatMap(([key, value]) => (value === undefined ? [] : [[key, Array.isArray(value) ? sorted(value as string[]) : value]])),
    );
    this.lines.push({ rule: this.rule, subject: { kind, id }, distinct, proof: clean });
  }
  /** Whether it can be told of a subject; else it is noted that it cannot. */
  private tell(id: string, sites: readonly string[], days: (site: string) => number): boolean {
    const wanting = sites.filter((site) => !this.isCovered(site, days(site)));
    if (wanting.length > 0) this.untold.push({ id, sites: wanting.map((site) => [site, days(site)] as const) });
    return wanting.length === 0;
  }

  judge(rule: string): Verdict {
    this.rule = rule;
    this.lines = [];
    this.untold = [];
    if (["removed-late", "mover-kept", "opened-against-record", "refused-against-record"].includes(rule) && this.earlier.length === 0)
      return { lines: [], cannotTell: [], covered: { documents: 0 } };
    if (rule === "not-certified" && this.decisions === undefined) return { lines: [], cannotTell: [], covered: { decisions: 0 } };
    (this.rules[rule] as () => void)();
    const days: Record<string, number> = {};
    for (const { sites } of this.untold) for (const [site, asked] of sites) days[site] = Math.max(days[site] ?? 0, asked);
    return {
      lines: this.lines,
      cannotTell: sorted(this.untold.map(({ id }) => id)),
      covered: Object.fromEntries(Object.entries(days).map(([site, asked]) => [site, [this.coveredDates(site, asked), asked]])),
    };
  }

  /** The same as `live`, in another document at its own export. */
  private static liveThen(document: CompiledFacility, h: string): string[] {
    const judge = new FindingsJudge(document, { format: "nomade.rules/1", horizonDays: 1 }, [], [], undefined);
    return document.facility.credentials.filter((card) => card.cardholder === h && judge.live(card, judge.A)).map(({ id }) => id);
  }

  private departmentDoors(document: CompiledFacility, h: string): string[] {
    const judge = document === this.compiled ? this : new FindingsJudge(document, { format: "nomade.rules/1", horizonDays: 1 }, [], [], undefined);
    return document.facility.doors
      .filter((door) =>
        judge
          .cards()
          .filter(({ cardholder }) => cardholder === h)
          .some((card) => judge.paths(card, door).some(({ by }) => by === "department")),
      )
      .map(({ id }) => id);
  }

  private certified(h: Cardholder): boolean {
    const managers = [h.manager, ...this.groupsAbove(h.department).map((id) => this.f().groups.find((group) => group.id === id)?.manager)];
    return managers.some((id) => id !== h.id && this.person(id) !== undefined && !this.left(this.person(id) as Cardholder));
  }

  private schedulesNamed(): Set<string | undefined> {
    const { doors, levels, grants, cardholders } = this.f();
    return new Set([
      ...doors.flatMap(({ unlock, entryRows = [] }) => [unlock, ...entryRows.map(({ schedule }) => schedule)]),
      ...levels.flatMap(({ rows = [] }) => rows.map(({ schedule }) => schedule)),
      ...grants.map(({ schedule }) => schedule),
      ...cardholders.map(({ hours }) => hours),
    ]);
  }

  private entryAt(door: Door, minute: number): string {
    const at = this.compiled.doors[this.compiled.doorById.get(door.id) ?? -1];
    const calendar = at?.calendar === undefined ? undefined : this.compiled.calendars[at.calendar];
    for (const { schedule, entry } of door.entryRows ?? []) {
      const rule = this.f().schedules.find(({ id }) => id === schedule);
      if (rule && openAt(scheduleOf(rule), calendar, this.zoneOfSite(door.site), minute as EpochMinute)) return entry;
    }
    return door.entry ?? "card";
  }
  private readonly entries = new Map<string, string[]>();
  private entryAhead(door: Door): string[] {
    const known = this.entries.get(door.id) ?? Array.from({ length: this.E - this.A }, (_, i) => this.entryAt(door, this.A + i));
    this.entries.set(door.id, known);
    return known;
  }
  private entryMet(card: Credential, door: Door): Uint8Array {
    return this.bits(entryMetIn(this.frame, this.compiledCard(card.id), this.compiled.doors[this.compiled.doorById.get(door.id) ?? -1] as never));
  }
  /** Minutes ahead at which the first three conditions of `opens` hold: its reason is none of those that they give. */
  private *oneToThree(card: Credential, door: Door): Generator<number> {
    const passing = ["open", "entry-unmet", "via-closed"];
    const position = this.compiled.doorById.get(door.id) ?? -1;
    for (let t = this.A; t < this.E; t++)
      if (passing.includes(reasonAt(this.compiled, this.compiledCard(card.id), position, t as EpochMinute, ordinary))) yield t;
  }
  private ofHolder(s: Holder, days: number): { readonly e: Event; readonly door: Door }[] {
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
  private againstRecord(rule: string, result: "granted" | "refused"): void {
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

  private coveredBy(open: Grant["open"]): Door[] {
    return this.f().doors.filter((door) => this.compiled.cover(open).has(this.compiled.doorById.get(door.id) ?? -1));
  }

  private readonly rules: Readonly<Record<string, () => void>> = {
    "leaver-live": () => {
      for (const { h, s } of this.people()) {
        const active = s.cards.filter((card) => this.marked(card));
        const left = this.left(h) ? this.leftMinute(h) : undefined;
        if (this.left(h) && active.length > 0)
          this.flag("cardholder", h.id, [], {
            status: h.status,
            left: left === undefined ? undefined : written(left),
            credentials: active.map(({ id }) => id),
          });
      }
    },
    "removed-late": () => {
      const hours = this.p("removed-late", "hours", 24);
      const asOf = (document: CompiledFacility): number => minuteDown(instantOf(document.facility.asOf));
      for (const { h } of this.people()) {
        const left = this.left(h) ? this.leftMinute(h) : undefined;
        if (left === undefined || left < this.ago(this.p("removed-late", "lookBackDays", 90))) continue;
        const late = this.earlier.filter((d) => asOf(d) > left + hours * 60 && FindingsJudge.liveThen(d, h.id).length > 0).at(-1);
        if (late)
          this.flag("cardholder", h.id, [], {
            left: written(left),
            lastLive: written(asOf(late)),
            hours: Math.floor((asOf(late) - left) / 60),
            credentials: FindingsJudge.liveThen(late, h.id),
          });
        else {
          const within = [...this.earlier, this.compiled].filter((d) => left <= asOf(d) && asOf(d) <= left + hours * 60);
          if (!within.some((d) => FindingsJudge.liveThen(d, h.id).length === 0)) this.untold.push({ id: h.id, sites: [] });
        }
      }
    },
    "mover-kept": () => {
      for (const { h, s } of this.people()) {
        let k = -1;
        this.earlier.forEach((document, i) => {
          const then = document.facility.cardholders.find(({ id }) => id === h.id)?.department;
          if (then !== undefined && then !== h.department) k = i;
        });
        const before = this.earlier[k];
        if (!before) continue;
        const moved = minuteDown(instantOf((this.earlier[k + 1] ?? this.compiled).facility.asOf));
        if (this.A < moved + this.p("mover-kept", "days", 30) * 1440) continue;
        const [then, now] = [this.departmentDoors(before, h.id), this.departmentDoors(this.compiled, h.id)];
        const doors = this.doorsOf(s).filter(({ id }) => then.includes(id) && !now.includes(id));
        const former = before.facility.cardholders.find(({ id }) => id === h.id)?.department ?? "";
        if (doors.length > 0) this.flag("cardholder", h.id, [former], { moved: written(moved), doors: doors.map(({ id }) => id) });
      }
    },
    "not-certified": () => {
      const zone = this.zone();
      const { date, minuteOfDay } = localTime(zone, this.A as EpochMinute);
      const { year, month, day } = yearMonthDay(date);
      const back = year * 12 + month - 1 - this.p("not-certified", "months", 6);
      const [y, m] = [Math.floor(back / 12), (back % 12) + 1];
      const wall = Date.UTC(y, m - 1, Math.min(day, new Date(Date.UTC(y, m, 0)).getUTCDate())) / 60_000 + minuteOfDay;
      let limit = wall - 2 * 1440;
      for (;;) {
        const local = localTime(zone, limit as EpochMinute);
        if (local.date * 1440 + local.minuteOfDay >= wall) break;
        limit++;
      }
      for (const s of this.holders())
        for (const area of this.f().areas) {
          if ((area.sensitivity ?? 0) < this.p("not-certified", "sensitivity", 0)) continue;
          if (!this.doorsOf(s).some((door) => door.area === area.id)) continue;
          const minutes = (this.decisions ?? [])
            .filter((d) => ["keep", "narrow"].includes(d.decision) && (s.kind === "cardholder" ? d.cardholder : d.credential) === s.id)
            .filter((d) => this.chain(area.id).includes(d.area))
            .map(({ at }) => minuteDown(instantOf(at)) as number)
            .filter((minute) => minute <= this.A);
          if (minutes.some((minute) => minute > limit)) continue;
          this.flag(s.kind, s.id, [area.id], { last: minutes.length === 0 ? undefined : written(Math.max(...minutes)) });
        }
    },
    "not-authorised": () => {
      const isIt = ({ authorised: a }: { readonly authorised?: { by?: string; at?: string; reference?: string } }): boolean =>
        there(a?.by) || there(a?.at) || there(a?.reference);
      const { grants, memberships } = this.f();
      if (grants.some(isIt))
        for (const grant of grants) if (grant.effect !== "block" && !this.grantOver(grant) && !isIt(grant)) this.flag("grant", grant.id, [], {});
      if (this.cards().some(isIt))
        for (const card of this.cards()) if (this.marked(card) && this.endOf(card) > this.A && !isIt(card)) this.flag("credential", card.id, [], {});
      if (memberships.some(isIt))
        for (const { h } of this.people())
          for (const group of this.f().groups) {
            const own = this.membershipsOf(h.id).filter((m) => m.group === group.id && this.window(m).until > this.A && !isIt(m));
            if (own.length > 0) this.flag("cardholder", h.id, ["membership", group.id], { memberships: own.length });
          }
    },
    "requirement-over": () => {
      for (const { h, s } of this.people())
        for (const name of new Set((h.requirements ?? []).map((one) => one.name))) {
          const ends = (h.requirements ?? [])
            .filter((one) => one.name === name)
            .map(({ until }) => (until === undefined ? Infinity : this.window({ until }).until));
          if (this.doorsOf(s).length > 0 && Math.max(...ends) <= this.A) this.flag("cardholder", h.id, [name], { ended: written(Math.max(...ends)) });
        }
    },
    "no-sponsor": () => {
      for (const { h, s } of this.people()) {
        if ((h.type !== "contractor" && h.type !== "visitor") || this.doorsOf(s).length === 0) continue;
        const sponsor = this.person(h.sponsor);
        const missing = [];
        if (!sponsor) missing.push("sponsor");
        else if (this.left(sponsor)) missing.push("sponsor-left");
        if (h.type === "contractor" && !there(h.company)) missing.push("company");
        if (missing.length > 0) this.flag("cardholder", h.id, [], { missing });
      }
    },
    "expired-active": () => {
      for (const card of this.cards()) {
        const end = this.endOf(card);
        if (this.marked(card) && end <= this.A)
          this.flag("credential", card.id, [], { end: written(end), by: this.window(card).until === end ? "until" : "expiry" });
      }
    },
    "ends-soon": () => {
      const [days, usedDays] = [this.p("ends-soon", "days", 14), this.p("ends-soon", "usedDays", 30)];
      const soon = (end: number): boolean => this.A < end && end <= this.A + days * 1440;
      const look = (kind: string, id: string, end: number, cards: readonly Credential[], doors: Door[]): void => {
        const uses = cards.flatMap((card) => this.lastUse(card) ?? []);
        const last = Math.max(-Infinity, ...uses);
        if (last >= this.ago(usedDays)) this.flag(kind, id, [], { end: written(end), lastUse: written(last) });
        else if (!cards.every(({ lastUse }) => lastUse !== undefined)) this.tell(id, this.concerned(doors), () => usedDays);
      };
      for (const card of this.cards())
        if (this.live(card, this.A) && soon(this.endOf(card)))
          look(
            "credential",
            card.id,
            this.endOf(card),
            [card],
            this.f().doors.filter((door) => this.any(this.O(card, door))),
          );
      for (const { h, s } of this.people())
        if (h.type === "contractor" && this.marked(h) && this.startOf(h) <= this.A && soon(this.holderEnd(h)))
          look("cardholder", h.id, this.holderEnd(h), s.cards, this.doorsOf(s));
    },
    "no-end-date": () => {
      const far = this.A + this.p("no-end-date", "farDays", 3653) * 1440;
      const look = (kind: string, id: string, end: number): void => {
        if (end >= far) this.flag(kind, id, [], { end: end === Infinity ? undefined : written(end) });
      };
      for (const { h, s } of this.people())
        if ((h.type === "contractor" || h.type === "visitor") && !this.left(h) && s.cards.some((card) => this.marked(card)))
          look("cardholder", h.id, this.holderEnd(h));
      for (const card of this.cards()) if (card.temporary && this.marked(card) && this.endOf(card) > this.A) look("credential", card.id, this.endOf(card));
    },
    "outlives-holder": () => {
      for (const card of this.cards()) {
        const h = this.person(card.cardholder);
        if (!h || !this.marked(card) || this.endOf(card) <= this.A || this.endOf(card) === Infinity) continue;
        if (this.A < this.holderEnd(h) && this.holderEnd(h) < this.endOf(card))
          this.flag("credential", card.id, [], { end: written(this.endOf(card)), holderEnd: written(this.holderEnd(h)) });
      }
    },
    "spare-outstanding": () => {
      for (const card of this.cards()) {
        if (!card.temporary || card.cardholder === undefined || !this.marked(card)) continue;
        const since = minuteOf(card.issuedAt) ?? (card.from === undefined ? minuteOf(card.firstUse) : this.startOf(card));
        if (since === undefined) this.untold.push({ id: card.id, sites: [] });
        else if (this.A - since > this.p("spare-outstanding", "days", 1) * 1440) this.flag("credential", card.id, [], { since: written(since) });
      }
    },
    unused: () => {
      const days = this.p("unused", "days", 90);
      for (const card of this.cards()) {
        const last = this.lastUse(card);
        const given = minuteOf(card.issuedAt) ?? this.startOf(card);
        if (!this.live(card, this.A) || (last !== undefined && last >= this.ago(days)) || given > this.ago(days)) continue;
        if (
          new FindingsJudge(this.compiled, this.settings, this.events, this.earlier, this.decisions)
            .judge("never-used")
            .lines.some((line) => line.subject.id === card.id)
        )
          continue;
        const doors = this.f().doors.filter((door) => this.any(this.O(card, door)));
        if (card.lastUse === undefined && !this.tell(card.id, this.concerned(doors), () => days)) continue;
        this.flag("credential", card.id, [], { days, lastUse: last === undefined ? undefined : written(last) });
      }
    },
    "never-used": () => {
      for (const card of this.cards()) {
        if (!this.live(card, this.A) || card.firstUse !== undefined || card.lastUse !== undefined) continue;
        if (this.eventsOf(card.id).some(({ result }) => result === "granted")) continue;
        if (card.issuedAt === undefined && card.from === undefined) continue;
        const given = minuteOf(card.issuedAt) ?? this.startOf(card);
        if (given > this.ago(this.p("never-used", "days", 30))) continue;
        const doors = this.f().doors.filter((door) => this.any(this.O(card, door)));
        const dates = (site: string): number =>
          given < this.ago(3653) ? 3653 : Math.min(3653, this.date(this.zoneOfSite(site), this.A) - this.date(this.zoneOfSite(site), given));
        if (this.tell(card.id, this.concerned(doors), dates)) this.flag("credential", card.id, [], { given: written(given) });
      }
    },
    "stock-active": () => {
      for (const card of this.cards())
        if (card.cardholder === undefined && this.marked(card) && this.endOf(card) > this.A)
          this.flag("credential", card.id, [], { doors: this.f().doors.filter((door) => this.any(this.O(card, door))).length });
    },
    "lost-in-use": () => {
      for (const card of this.cards()) {
        const byStatus = card.status !== "active" && card.statusSince !== undefined ? minuteUp(instantOf(card.statusSince)) : Infinity;
        const since = Math.min(byStatus, this.endOf(card));
        const within = this.eventsOf(card.id).filter(({ minute }) => minute >= this.ago(this.p("lost-in-use", "days", 90)));
        const found = within.filter(({ minute }) => minute >= since);
        if (found.length > 0)
          this.flag("credential", card.id, [], {
            since: written(since),
            events: found.length,
            granted: found.filter(({ result }) => result === "granted").length,
            last: second(Math.max(...found.map((e) => e.second))),
          });
        else if (!this.marked(card) && card.statusSince === undefined && within.length > 0) this.untold.push({ id: card.id, sites: [] });
      }
    },
    "dead-card-tried": () => {
      for (const card of this.cards()) {
        const tried = this.eventsOf(card.id).filter(
          ({ result, minute }) => result === "refused" && minute >= this.ago(this.p("dead-card-tried", "days", 30)) && !this.live(card, minute),
        );
        if (tried.length >= this.p("dead-card-tried", "times", 3))
          this.flag("credential", card.id, [], { refused: tried.length, last: second(Math.max(...tried.map((e) => e.second))) });
      }
    },
    "sleeping-access": () => {
      const least = this.p("sleeping-access", "sensitivity", 2);
      const frame = exactTimeframe(this.compiled, this.A as EpochMinute, this.E as EpochMinute, { lockdown: false, asIfLive: true });
      for (const card of this.cards()) {
        const h = this.person(card.cardholder);
        const start = Math.max(this.startOf(card), h ? this.startOf(h) : -Infinity);
        if (this.marked(card) && this.A + this.p("sleeping-access", "days", 30) * 1440 >= start) continue;
        if (h && this.left(h)) continue;
        const doors = this.f().doors.filter(
          (door) => this.sens(door) >= least && openIn(this.compiled, frame, this.compiledCard(card.id), this.compiled.doorById.get(door.id) ?? -1).length > 0,
        );
        if (doors.length > 0) this.flag("credential", card.id, [], { status: card.status, areas: this.sensitiveAreas(doors, least), doors: doors.length });
      }
    },
    waking: () => {
      const least = this.p("waking", "sensitivity", 2);
      for (const card of this.cards()) {
        const h = this.person(card.cardholder);
        if (!this.marked(card) || this.A >= Math.max(this.startOf(card), h ? this.startOf(h) : -Infinity)) continue;
        let first: number | undefined;
        for (let t = this.A + 1; t <= this.A + this.p("waking", "days", 30) * 1440 && t < this.E && first === undefined; t++)
          if (this.liveAhead(card)[t - this.A] === 1) first = t;
        const doors = this.f().doors.filter((door) => this.sens(door) >= least && this.any(this.O(card, door)));
        if (first !== undefined && doors.length > 0)
          this.flag("credential", card.id, [], { from: written(first), areas: this.sensitiveAreas(doors, least), doors: doors.length });
      }
    },
    "holder-of-nothing": () => {
      for (const card of this.cards()) {
        if (!this.live(card, this.A) || this.f().doors.some((door) => this.any(this.O(card, door)))) continue;
        const h = this.person(card.cardholder);
        const groups = h
          ? [...this.groupsAbove(h.department), ...this.membershipsOf(h.id).flatMap((m) => (this.window(m).until > this.A ? this.groupsAbove(m.group) : []))]
          : [];
        const grants = this.f().grants.filter(
          (grant) =>
            grant.effect !== "block" &&
            !this.grantOver(grant) &&
            (grant.to.credential === card.id || (h !== undefined && grant.to.cardholder === h.id) || groups.includes(grant.to.group ?? "")),
        );
        if (grants.length > 0) this.flag("credential", card.id, [], { grants: grants.map(({ id }) => id) });
      }
    },
    "same-number": () => {
      const key = (card: Credential): string => JSON.stringify([card.number, there(card.facilityCode) && card.facilityCode, there(card.issue) && card.issue]);
      const numbered = this.cards().filter(({ number }) => there(number));
      for (const card of numbered) {
        const same = numbered.filter((other) => key(other) === key(card));
        const ids = sorted(same.map(({ id }) => id));
        if (same.length > 1 && ids[0] === card.id && same.some((other) => this.marked(other))) this.flag("credential", card.id, [], { credentials: ids });
      }
    },
    "number-out-of-format": () => {
      const formats: Record<string, { facilityCode: number; number: number }> = { "26": { facilityCode: 255, number: 65_535 }, ...this.settings.formats };
      for (const card of this.cards()) {
        const format = formats[card.bitFormat ?? ""];
        if (!format || !this.marked(card)) continue;
        const fields = (["facilityCode", "number"] as const).filter((field) => {
          const text = card[field];
          return there(text) && (![...text].every((c) => c >= "0" && c <= "9") || Number(text) > format[field]);
        });
        if (fields.length > 0) this.flag("credential", card.id, [], { fields: [...fields] });
      }
    },
    "printed-differs": () => {
      for (const card of this.cards()) {
        if (!this.marked(card) || !there(card.printedNumber) || card.printedNumber === card.number) continue;
        const others = this.cards().filter(
          (other) =>
            other.id !== card.id &&
            this.marked(other) &&
            other.number === card.printedNumber &&
            (there(other.facilityCode) ? other.facilityCode : "") === (there(card.facilityCode) ? card.facilityCode : ""),
        );
        if (others.length > 0) this.flag("credential", card.id, [], { credentials: others.map(({ id }) => id) });
      }
    },
    "same-pin": () => {
      for (const tag of new Set(this.cards().map(({ pinTag }) => pinTag))) {
        if (!there(tag)) continue;
        const those = this.cards().filter((card) => card.pinTag === tag && this.marked(card));
        if (new Set(those.map((card) => card.cardholder ?? `of nobody ${card.id}`)).size < 2) continue;
        const doors = this.f().doors.filter((door) =>
          those.some((card) => this.O(card, door).some((bit, i) => bit === 1 && ["pin", "card-or-pin"].includes(this.entryAhead(door)[i] ?? ""))),
        );
        const ids = sorted(those.map(({ id }) => id));
        if (doors.length > 0) this.flag("credential", ids[0] ?? "", [], { credentials: ids, doors: doors.map(({ id }) => id) });
      }
    },
    "pin-missing": () => {
      for (const card of this.cards()) {
        if (this.compiledCard(card.id).hasPin) continue;
        const doors = this.f().doors.filter((door) => {
          if (this.opensDoor(this.holderOf(card.id), door)) return false;
          const minutes = [...this.oneToThree(card, door)];
          return minutes.length > 0 && !minutes.some((t) => this.entryMet(card, door)[t - this.A] === 1);
        });
        if (doors.length > 0) this.flag("credential", card.id, [], { doors: doors.map(({ id }) => id) });
      }
    },
    "via-missing": () => {
      for (const card of this.cards()) {
        const doors = this.f().doors.filter(
          (door) =>
            door.via !== undefined &&
            !this.opensDoor(this.holderOf(card.id), door) &&
            [...this.oneToThree(card, door)].some((t) => this.entryMet(card, door)[t - this.A] === 1),
        );
        if (doors.length > 0) this.flag("credential", card.id, [], { doors: doors.map(({ id }) => id) });
      }
    },
    "many-credentials": () => {
      for (const { h, s } of this.people()) {
        const live = s.cards.filter((card) => this.live(card, this.A));
        if (live.length > this.p("many-credentials", "most", 2)) this.flag("cardholder", h.id, [], { credentials: live.map(({ id }) => id) });
      }
    },
    "same-person": () => {
      const blanks = (text: string | undefined): string =>
        ascii(text ?? "")
          .split(" ")
          .filter(Boolean)
          .join(" ");
      const present = this.f().cardholders.filter((h) => !this.left(h));
      const look = (by: string, keyOf: (h: Cardholder) => string): void => {
        for (const h of present) {
          if (keyOf(h) === "") continue;
          const same = sorted(present.filter((other) => keyOf(other) === keyOf(h)).map(({ id }) => id));
          if (same.length > 1 && same[0] === h.id) this.flag("cardholder", h.id, [by], { cardholders: same });
        }
      };
      look("staffNumber", ({ staffNumber = "" }) => staffNumber);
      look("email", ({ email }) => blanks(email));
      look("name", ({ name, department }) => (blanks(name) === "" || department === undefined ? "" : JSON.stringify([blanks(name), department])));
    },
    "no-department": () => {
      for (const { h, s } of this.people())
        if (this.doorsOf(s).length > 0 && !this.certified(h)) this.flag("cardholder", h.id, [], { department: h.department });
    },
    "no-certifier": () => {
      for (const area of this.f().areas) {
        const holders = this.holders().filter((s) => this.reaches(s, area.id)).length;
        const owners = this.chain(area.id).map((id) => this.person(this.areaOf(id)?.owner));
        if (holders > 0 && !owners.some((owner) => owner && !this.left(owner))) this.flag("area", area.id, [], { holders });
      }
    },
    "standing-override": () => {
      for (const { h, s } of this.people()) {
        const doors = this.doorsOf(s).filter(({ site }) => h.override === true || (h.override ?? []).includes(site));
        if (doors.length > 0) this.flag("cardholder", h.id, [], { sites: doors.map(({ site }) => site), doors: doors.length });
      }
    },
    privilege: () => {
      for (const { h, s } of this.people())
        for (const name of ["lockdownPass", "pinExempt", "extraTime", "holdOpen", "passbackExempt", "firstIn"] as const)
          if (h[name] && this.doorsOf(s).length > 0) this.flag("cardholder", h.id, [name], {});
      for (const level of this.f().levels) {
        const holders = this.holders().filter((s) => this.holdsLevel(s, level.id)).length;
        for (const action of new Set((level.rows ?? []).flatMap(({ actions = [] }) => actions)))
          if (action !== "open" && holders > 0) this.flag("level", level.id, [action], { holders });
      }
    },
    "around-the-clock": () => {
      for (const s of this.holders())
        for (const area of this.f().areas) {
          if ((area.sensitivity ?? 0) < this.p("around-the-clock", "sensitivity", 2)) continue;
          const doors = this.doorsOf(s).filter((door) => this.isInto(door, area.id));
          const all = this.or(doors.flatMap((door) => s.cards.map((card) => this.O(card, door))));
          const week = this.weeks(this.zoneOfSite(area.site)).find(({ from, to }) => !all.slice(from - this.A, to - this.A).includes(0));
          if (doors.length > 0 && week)
            this.flag(s.kind, s.id, [area.id], { sensitivity: area.sensitivity ?? 0, week: week.name, doors: doors.map(({ id }) => id) });
        }
    },
    "out-of-hours": () => {
      const days = this.p("out-of-hours", "days", 90);
      for (const s of this.holders())
        for (const area of this.f().areas) {
          if ((area.sensitivity ?? 0) < this.p("out-of-hours", "sensitivity", 2)) continue;
          const outside = (door: Door): Uint8Array =>
            this.or(s.cards.map((card) => this.O(card, door))).map((bit, i) => (bit === 1 && this.businessAhead(door.site)[i] === 0 ? 1 : 0));
          const doors = this.f().doors.filter((door) => this.isInto(door, area.id) && this.opensDoor(s, door) && this.any(outside(door)));
          if (doors.length === 0) continue;
          const { minutes, week } = this.fullest(this.or(doors.map(outside)), this.zoneOfSite(area.site));
          if (minutes <= this.p("out-of-hours", "hours", 4) * 60) continue;
          const came = s.cards.some((card) =>
            this.eventsOf(card.id).some((e) => {
              const door = this.f().doors.find(({ id }) => id === e.door);
              return e.result === "granted" && e.minute >= this.ago(days) && door && this.isInto(door, area.id) && !this.businessAt(door.site, e.minute);
            }),
          );
          if (!came && this.tell(s.id, this.concerned(doors), () => days))
            this.flag(s.kind, s.id, [area.id], { minutes, week, doors: doors.map(({ id }) => id) });
        }
    },
    "unlike-peers": () => {
      const [least, percent] = [this.p("unlike-peers", "peers", 5), this.p("unlike-peers", "percent", 10)];
      for (const { h, s } of this.people()) {
        const peers = this.people().filter(
          (other) => other.h.id !== h.id && h.department !== undefined && other.h.department === h.department && this.doorsOf(other.s).length > 0,
        );
        if (h.department === undefined || peers.length < least) continue;
        const reach = (area: string): number => peers.filter((other) => this.reaches(other.s, area)).length;
        const unlike = (area: string | undefined): boolean => area !== undefined && this.reaches(s, area) && reach(area) * 100 <= percent * peers.length;
        for (const area of this.f().areas)
          if (unlike(area.id) && !unlike(area.parent)) this.flag("cardholder", h.id, [area.id], { peers: peers.length, reach: reach(area.id) });
      }
    },
    "right-unused": () => {
      const [days, percent] = [this.p("right-unused", "days", 180), this.p("right-unused", "percent", 50)];
      for (const s of this.holders()) {
        const rights: Record<string, string[]> = {};
        for (const card of s.cards)
          for (const door of this.f().doors.filter(({ kind }) => kind !== "floor"))
            for (const { way, grant } of this.carrying(card, door)) {
              const right = JSON.stringify(way.level === undefined ? ["grant", grant.grant.id] : ["level", this.f().levels[way.level]?.id]);
              rights[right] = [...(rights[right] ?? []), door.id];
            }
        for (const [right, all] of Object.entries(rights)) {
          const doors = [...new Set(all)];
          const used = doors.filter((door) =>
            s.cards.some((card) => this.eventsOf(card.id).some((e) => e.door === door && e.result === "granted" && e.minute >= this.ago(days))),
          );
          if (used.length * 100 >= percent * doors.length) continue;
          const unused = doors.filter((door) => !used.includes(door));
          if (this.tell(s.id, this.concerned(this.f().doors.filter(({ id }) => unused.includes(id))), () => days))
            this.flag(s.kind, s.id, JSON.parse(right) as string[], { doors: doors.length, used: used.length, unused });
        }
      }
    },
    "by-exception": () => {
      for (const grant of this.f().grants) {
        const { to, open } = grant;
        if (grant.effect === "block" || to.group !== undefined || open.level !== undefined || open.bundle !== undefined) continue;
        const cards = this.cards().filter((card) => (to.cardholder === undefined ? card.id === to.credential : card.cardholder === to.cardholder));
        const doors = this.f().doors.filter(
          (door) =>
            this.sens(door) >= this.p("by-exception", "sensitivity", 2) &&
            cards.some((card) => this.carrying(card, door).some((path) => path.grant.grant.id === grant.id)),
        );
        if (doors.length > 0)
          this.flag(to.cardholder === undefined ? "credential" : "cardholder", to.cardholder ?? to.credential ?? "", [grant.id], {
            doors: doors.map(({ id }) => id),
          });
      }
    },
    "hidden-path": () => {
      for (const s of this.holders())
        for (const door of this.doorsOf(s)) {
          const grants = new Set(s.cards.flatMap((card) => this.carrying(card, door).map(({ grant }) => grant.grant.id)));
          if (this.sens(door) >= this.p("hidden-path", "sensitivity", 2) && grants.size > 1) this.flag(s.kind, s.id, [door.id], { grants: [...grants] });
        }
    },
    "twice-given": () => {
      for (const card of this.cards()) {
        if (card.cardholder === undefined) continue;
        const doors = this.f().doors.filter((door) => {
          const receivers = this.carrying(card, door).map(({ grant }) => grant.grant.to.credential !== undefined);
          return receivers.includes(true) && receivers.includes(false);
        });
        if (doors.length > 0) this.flag("cardholder", card.cardholder, [card.id], { doors: doors.map(({ id }) => id) });
      }
    },
    "duties-conflict": () => {
      for (const s of this.holders())
        for (const duty of this.settings.duties ?? []) {
          const sides = [duty.a, duty.b].map(({ area, level }) => ({
            has: area !== undefined ? this.reaches(s, area) : this.holdsLevel(s, level ?? ""),
            doors: this.doorsOf(s).filter((door) => (area !== undefined ? this.isInto(door, area) : this.coveredBy({ level: level ?? "" }).includes(door))),
          }));
          if (sides.every(({ has }) => has))
            this.flag(s.kind, s.id, [duty.id], { a: sides[0]?.doors.map(({ id }) => id), b: sides[1]?.doors.map(({ id }) => id) });
        }
    },
    "visitor-sensitive": () => {
      const least = this.p("visitor-sensitive", "sensitivity", 2);
      for (const { h, s } of this.people()) {
        const doors = this.doorsOf(s).filter((door) => this.sens(door) >= least);
        if (h.type === "visitor" && doors.length > 0) this.flag("cardholder", h.id, [], { areas: this.sensitiveAreas(doors, least), doors: doors.length });
      }
    },
    "too-many-holders": () => {
      for (const area of this.f().areas) {
        const holders = this.holders().filter((s) => this.reaches(s, area.id)).length;
        if (area.maxHolders !== undefined && holders > area.maxHolders) this.flag("area", area.id, [], { holders, maxHolders: area.maxHolders });
      }
    },
    "level-limit": () => {
      const look = (kind: "cardholder" | "credential", id: string): void => {
        const own = this.f().grants.filter((grant) => grant.effect !== "block" && grant.to[kind] === id && !this.grantOver(grant));
        const count = new Set(own.flatMap(({ open }) => open.level ?? [])).size + new Set(own.flatMap(({ open }) => open.bundle ?? [])).size;
        if (count >= this.p("level-limit", "levels", 8)) this.flag(kind, id, [], { count });
      };
      for (const { h } of this.people()) look("cardholder", h.id);
      for (const card of this.cards()) look("credential", card.id);
    },
    "level-too-wide": () => {
      for (const level of this.f().levels) {
        const doors = this.coveredBy({ level: level.id });
        const [low, high] = [
          doors.filter((door) => this.sens(door) === 0).length,
          doors.filter((door) => this.sens(door) >= this.p("level-too-wide", "sensitivity", 2)).length,
        ];
        if (low > 0 && high > 0) this.flag("level", level.id, [], { low, high });
      }
    },
    "all-doors": () => {
      const all = this.f().doors.filter(({ kind }) => kind !== "floor");
      const look = (kind: string, id: string, doors: readonly Door[], holders: number): void => {
        const covered = all.filter((door) => doors.includes(door)).length;
        if (covered * 100 >= this.p("all-doors", "percent", 90) * all.length && holders > this.p("all-doors", "holders", 5))
          this.flag(kind, id, [], { doors: covered, of: all.length, holders });
      };
      for (const { id } of this.f().levels) look("level", id, this.coveredBy({ level: id }), this.holders().filter((s) => this.holdsLevel(s, id)).length);
      for (const { id } of this.f().bundles)
        look("bundle", id, this.coveredBy({ bundle: id }), this.holders().filter((s) => this.holdsWhere(s, ({ open }) => open.bundle === id)).length);
      for (const { id } of this.f().groups) {
        const given = (group: string): Grant[] =>
          this.f().grants.filter((grant) => grant.effect !== "block" && grant.to.group === group && !this.grantOver(grant));
        if (given(id).length === 0) continue;
        const doors = this.groupsAbove(id).flatMap((above) => given(above).flatMap(({ open }) => this.coveredBy(open)));
        look("group", id, doors, this.people().filter(({ h, s }) => this.holdsGroup(h, s, id)).length);
      }
    },
    "stranded-right": () => {
      const walk = (canTake: (door: Door) => boolean): Set<string | undefined> => {
        const places = new Set<string | undefined>([undefined]);
        for (let before = -1; before !== places.size;) {
          before = places.size;
          for (const door of this.f().doors) if (places.has(door.from) && canTake(door)) places.add(door.area);
        }
        return places;
      };
      const ever = walk(() => true);
      for (const s of this.holders()) {
        const inside = this.doorsOf(s).filter(({ from }) => from !== undefined);
        if (inside.some(({ from }) => !ever.has(from))) this.untold.push({ id: s.id, sites: [] });
        const times = new Map(this.f().doors.map((door) => [door.id, this.or([this.free(door), ...s.cards.map((card) => this.O(card, door))])]));
        const reached = new Set<string | undefined>();
        let last = "";
        for (let i = 0; i < this.E - this.A; i++) {
          const now = this.f()
            .doors.map(({ id }) => times.get(id)?.[i])
            .join("");
          if (now === last) continue;
          last = now;
          for (const place of walk((door) => times.get(door.id)?.[i] === 1)) reached.add(place);
        }
        for (const door of inside) if (ever.has(door.from) && !reached.has(door.from)) this.flag(s.kind, s.id, [door.id], { from: door.from });
      }
    },
    "nothing-behind": () => {
      const { levels, bundles, groups, schedules, calendars, grants, memberships, cardholders, sites } = this.f();
      const note = (kind: string, id: string, why: string, holds: boolean): void => void (holds && this.flag(kind, id, [why], {}));
      const standing = grants.filter((grant) => !this.grantOver(grant));
      for (const { id } of levels) {
        const inBundles = bundles.filter((bundle) => (bundle.levels ?? []).includes(id)).map((bundle) => bundle.id);
        note("level", id, "unused", !standing.some(({ open }) => open.level === id || inBundles.includes(open.bundle ?? "")));
        note("level", id, "opens-nothing", this.coveredBy({ level: id }).length === 0);
      }
      for (const { id } of bundles) {
        note("bundle", id, "unused", !standing.some(({ open }) => open.bundle === id));
        note("bundle", id, "opens-nothing", this.coveredBy({ bundle: id }).length === 0);
      }
      for (const { id, kind } of groups) {
        const members = cardholders.filter(
          (h) =>
            this.groupsAbove(h.department).includes(id) ||
            memberships.some((m) => m.cardholder === h.id && this.window(m).until > this.A && this.groupsAbove(m.group).includes(id)),
        ).length;
        note("group", id, "unused", members === 0);
        if (kind === "department" || cardholders.some((h) => h.department === id)) continue;
        note("group", id, "one-member", members === 1);
        note("group", id, "opens-nothing", !standing.some((grant) => grant.effect !== "block" && this.groupsAbove(id).includes(grant.to.group ?? "")));
      }
      for (const schedule of schedules) {
        note("schedule", schedule.id, "unused", !this.schedulesNamed().has(schedule.id));
        const rows = [...Object.values(schedule.week ?? {}), ...Object.values(schedule.holidays ?? {})].flat();
        note("schedule", schedule.id, "opens-nothing", !schedule.always && !rows.some(([a, b]) => a !== b));
      }
      for (const { id, days = [] } of calendars) {
        note("calendar", id, "unused", ![...sites, ...cardholders].some(({ calendar }) => calendar === id));
        note("calendar", id, "opens-nothing", days.length === 0);
      }
    },
    "door-without-grants": () => {
      for (const door of this.f().doors)
        if (!this.any(this.free(door)) && !this.cards().some((card) => this.any(this.O(card, door)))) this.flag("door", door.id, [], {});
    },
    "door-only-free": () => {
      for (const door of this.f().doors) {
        const free = this.free(door);
        if (this.sens(door) >= this.p("door-only-free", "sensitivity", 2) && this.any(free))
          this.flag("door", door.id, [], this.fullest(free, this.zoneOfSite(door.site)));
      }
    },
    "single-factor": () => {
      for (const door of this.f().doors) {
        if (this.sens(door) < this.p("single-factor", "sensitivity", 3)) continue;
        const rules = new Set<string>();
        for (const entry of this.entryAhead(door)) rules.add(entry);
        rules.delete("card+pin");
        if (rules.size > 0) this.flag("door", door.id, [], { rules: [...rules] });
      }
    },
    "calendar-runs-out": () => {
      const today = formatCivilDay(this.date(this.zone(), this.A) as CivilDay);
      const limit = formatCivilDay((this.date(this.zone(), this.A) + this.p("calendar-runs-out", "days", 60)) as CivilDay);
      const lastAhead = formatCivilDay(this.date(this.zone(), this.E - 1) as CivilDay);
      for (const { id, days = [] } of this.f().calendars) {
        if (![...this.f().sites, ...this.f().cardholders].some(({ calendar }) => calendar === id)) continue;
        const oneOff = days.flatMap(({ name, on, from, to }) =>
          on !== undefined ? [{ name, from: on, to: on }] : from !== undefined && to !== undefined && from <= to ? [{ name, from, to }] : [],
        );
        const last = sorted(oneOff.map(({ to }) => to)).at(-1) ?? "";
        if (oneOff.length >= this.p("calendar-runs-out", "entries", 2) && last < limit) this.flag("calendar", id, ["end"], { last });
        for (const name of new Set(oneOff.map((entry) => entry.name)))
          for (const year of [Number(today.slice(0, 4)), Number(today.slice(0, 4)) + 1]) {
            const inYear = (y: number): string[] =>
              oneOff.filter((entry) => entry.name === name && Number(entry.from.slice(0, 4)) === y).map(({ from }) => from);
            if (inYear(year - 1).length === 0 || inYear(year - 2).length === 0 || inYear(year).length > 0) continue;
            const monthDay = (sorted(inYear(year - 1)).at(-1) ?? "").slice(5);
            const isLeap = new Date(Date.UTC(year, 1, 29)).getUTCMonth() === 1;
            const expected = `${year}-${monthDay === "02-29" && !isLeap ? "02-28" : monthDay}`;
            if (expected >= today && expected <= lastAhead) this.flag("calendar", id, ["year", name, String(year)], { expected });
          }
      }
    },
    "holiday-tie": () => {
      for (const { id, days = [] } of this.f().calendars) {
        const found: Record<string, number[]> = {};
        for (let date = this.date(this.zone(), this.A); date <= this.date(this.zone(), this.E - 1); date++) {
          const covering = days.map(calendarEntryOf).filter(({ when }) => covers(when, date as CivilDay));
          const best = Math.max(...covering.map(({ priority }) => priority));
          const winner = covering.find(({ priority }) => priority === best);
          for (const other of covering)
            if (winner && other !== winner && other.priority === best && other.dayType !== winner.dayType) {
              const names = JSON.stringify([winner.name, other.name]);
              found[names] = [...(found[names] ?? []), date];
            }
        }
        for (const [names, dates] of Object.entries(found))
          this.flag("calendar", id, JSON.parse(names) as string[], { first: formatCivilDay(Math.min(...dates) as CivilDay), dates: new Set(dates).size });
      }
    },
    "holiday-open": () => {
      const most = this.p("holiday-open", "holders", 5);
      for (const door of this.f().doors) {
        if (this.sens(door) < this.p("holiday-open", "sensitivity", 2)) continue;
        const zone = this.zoneOfSite(door.site);
        const calendarId = this.f().sites.find(({ id }) => id === door.site)?.calendar;
        const calendar = holidayCalendar((this.f().calendars.find(({ id }) => id === calendarId)?.days ?? []).map(calendarEntryOf));
        const byDate = new Map<number, number[]>();
        for (let t = this.A; t < this.E; t++) {
          const date = this.date(zone, t);
          byDate.set(date, byDate.get(date) ?? []);
          byDate.get(date)?.push(t - this.A);
        }
        const free = this.free(door);
        const bad = [...byDate].flatMap(([date, minutes]) => {
          if (calendar.read(date as CivilDay)?.winner.dayType !== "public") return [];
          const isFree = minutes.some((i) => free[i] === 1);
          const holders = this.holders().filter((s) => s.cards.some((card) => minutes.some((i) => this.O(card, door)[i] === 1))).length;
          return isFree || holders > most ? [{ date, isFree, holders }] : [];
        });
        if (bad.length > 0)
          this.flag("door", door.id, [], {
            first: formatCivilDay(Math.min(...bad.map(({ date }) => date)) as CivilDay),
            dates: bad.length,
            free: bad.filter(({ isFree }) => isFree).length,
            holders: Math.max(...bad.map(({ holders }) => holders)),
          });
      }
    },
    "schedule-odd": () => {
      const today = formatCivilDay(this.date(this.zone(), this.A) as CivilDay);
      const minutes = (clock: string): number => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));
      for (const schedule of this.f().schedules) {
        const rows = [
          ...Object.entries(schedule.week ?? {}),
          ...Object.entries(schedule.holidays ?? {}).map(([type, row]) => [`holidays.${type}`, row] as const),
        ];
        const look = (what: string, isOdd: (row: readonly (readonly [string, string])[]) => boolean): void => {
          const odd = rows.filter(([, row]) => isOdd(row)).map(([name]) => name);
          if (odd.length > 0) this.flag("schedule", schedule.id, [what], { rows: odd });
        };
        look("empty-interval", (row) => row.some(([a, b]) => a === b));
        look("minute-gap", (row) => row.some(([, b]) => b === "23:59"));
        look("overlap", (row) => {
          const count = new Uint8Array(1440);
          for (const [a, b] of row) for (let m = minutes(a); m < (a > b ? 1440 : minutes(b)); m++) count[m] = (count[m] as number) + 1;
          return count.some((n) => n > 1);
        });
        if (schedule.until !== undefined && schedule.until < today && this.schedulesNamed().has(schedule.id))
          this.flag("schedule", schedule.id, ["over"], { until: schedule.until });
      }
    },
    "opened-against-record": () => this.againstRecord("opened-against-record", "granted"),
    "refused-against-record": () => this.againstRecord("refused-against-record", "refused"),
    "tried-again": () => {
      for (const card of this.cards()) {
        const refused = this.eventsOf(card.id).filter((e) => e.result === "refused" && e.minute >= this.ago(this.p("tried-again", "days", 30)));
        const spans = refused.map((e) => ({
          first: e.second,
          count: refused.filter((o) => e.second <= o.second && o.second <= e.second + this.p("tried-again", "minutes", 10) * 60).length,
        }));
        const most = Math.max(0, ...spans.map(({ count }) => count));
        if (most >= this.p("tried-again", "times", 5))
          this.flag("credential", card.id, ["minutes"], {
            refused: most,
            first: second(Math.min(...spans.filter(({ count }) => count === most).map(({ first }) => first))),
          });
        const weeks: Record<number, Set<number>> = {};
        for (const e of refused) {
          const door = this.f().doors.find(({ id }) => id === e.door);
          const date = this.date(door ? this.zoneOfSite(door.site) : this.zone(), e.minute);
          const monday = date - ((((date + 3) % 7) + 7) % 7);
          weeks[monday] = (weeks[monday] ?? new Set<number>()).add(date);
        }
        const dates = Math.max(0, ...Object.values(weeks).map(({ size }) => size));
        const first = Object.keys(weeks)
          .map(Number)
          .filter((monday) => weeks[monday]?.size === dates)
          .sort((a, b) => a - b)[0];
        if (refused.length > 0 && dates >= this.p("tried-again", "dates", 3))
          this.flag("credential", card.id, ["days"], { dates, week: formatCivilDay(first as CivilDay) });
      }
    },
    "unknown-tried": () => {
      const found: Record<string, Event[]> = {};
      for (const e of this.events) {
        const door = this.f().doors.find(({ id }) => id === e.door);
        if (!e.unknown || !door || this.sens(door) < this.p("unknown-tried", "sensitivity", 2) || e.minute < this.ago(this.p("unknown-tried", "days", 30)))
          continue;
        const key = JSON.stringify([
          door.id,
          ...(there(e.credential) ? ["credential", e.credential] : ["number", there(e.facilityCode) ? e.facilityCode : "", e.number]),
        ]);
        found[key] = [...(found[key] ?? []), e];
      }
      for (const [key, events] of Object.entries(found)) {
        const [door = "", ...distinct] = JSON.parse(key) as string[];
        this.flag("door", door, distinct, { events: events.length, last: second(Math.max(...events.map((e) => e.second))) });
      }
    },
    "two-places": () => {
      for (const s of this.holders()) {
        const own = this.ofHolder(s, this.p("two-places", "days", 30)).filter(({ e }) => e.result === "granted");
        const found: Record<string, number[]> = {};
        own.forEach((now, i) => {
          const before = own[i - 1];
          if (!before || before.door.site === now.door.site) return;
          const [x, y] = [before.door.site, now.door.site];
          const way = this.settings.sites?.[x]?.minutesTo?.[y] ?? this.settings.sites?.[y]?.minutesTo?.[x] ?? this.p("two-places", "minutes", 30);
          if (now.e.second - before.e.second < way * 60) (found[JSON.stringify(["sites", ...sorted([x, y])])] ??= []).push(now.e.second);
        });
        for (const { id: area } of this.f().areas) {
          if (!this.f().doors.some((door) => door.from === area && door.area !== area)) continue;
          const isEntry = (door: Door): boolean => door.area === area && door.from !== area;
          own.forEach((now, i) => {
            if (!isEntry(now.door)) return;
            for (let j = i - 1; j >= 0; j--) {
              const before = own[j];
              if (!before) return;
              if (isEntry(before.door)) {
                if (now.e.second - before.e.second <= this.p("two-places", "hours", 12) * 3600)
                  (found[JSON.stringify(["area", area])] ??= []).push(now.e.second);
                return;
              }
              if (before.door.from === area) return;
            }
          });
        }
        for (const [key, seconds] of Object.entries(found))
          this.flag(s.kind, s.id, JSON.parse(key) as string[], { times: seconds.length, last: second(seconds.at(-1) ?? 0) });
      }
    },
    "let-in": () => {
      const [days, secondsAfter, minutes] = [this.p("let-in", "days", 30), this.p("let-in", "seconds", 60), this.p("let-in", "minutes", 30)];
      for (const s of this.holders()) {
        const own = this.ofHolder(s, days);
        for (const door of this.f().doors) {
          if (door.area === undefined) continue;
          const area = door.area;
          const hits: { second: number; by: string[] }[] = [];
          for (const r of own) {
            if (r.door.id !== door.id || r.e.result !== "refused") continue;
            const by: string[] = [];
            for (const other of this.holders()) {
              if (other.kind === s.kind && other.id === s.id) continue;
              for (const g of this.ofHolder(other, days)) {
                if (g.door.id !== door.id || g.e.result !== "granted" || g.e.second < r.e.second || g.e.second > r.e.second + secondsAfter) continue;
                const follows = own.some(
                  (x) =>
                    x !== r &&
                    x.e.second >= g.e.second &&
                    x.e.second <= g.e.second + minutes * 60 &&
                    this.chain(x.door.from).includes(area) &&
                    !own.some((y) => y !== x && y.e.result === "granted" && this.isInto(y.door, area) && y.e.second >= r.e.second && y.e.second <= x.e.second),
                );
                if (follows) by.push(other.id);
              }
            }
            if (by.length > 0) hits.push({ second: r.e.second, by });
          }
          if (hits.length > 0)
            this.flag(s.kind, s.id, [door.id], {
              times: hits.length,
              last: second(Math.max(...hits.map((hit) => hit.second))),
              by: hits.flatMap(({ by }) => by),
            });
        }
      }
    },
  };
}
