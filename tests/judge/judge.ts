import { Temporal } from "temporal-polyfill";
import type { Cardholder, Credential, Door, FacilityDocument, Grant, DocumentSchedule } from "@/core/facility/document";
import { easterSunday } from "@/core/time/easter";

/**
 * The semantics read aloud: point by point, with no memory and no cleverness, on Temporal instead of our own clockwork.
 * It judges the resolver, and so shares nothing with it but Easter (which has a judge of its own).
 */

type Instant = Temporal.Instant;
const instant = (text: string): Instant =>
  Temporal.Instant.from(
    /:\d\d(\.\d+)?(Z|[+-]\d\d:\d\d)$/.test(text) && (text.match(/:/g) ?? []).length >= (/[+-]\d\d:\d\d$/.test(text) ? 3 : 2)
      ? text
      : text.replace(/(T\d\d:\d\d)/, "$1:00"),
  );
const isDate = (text: string): boolean => /^\d{4}-\d\d-\d\d$/.test(text);
const minuteNs = 60_000_000_000n;
const floorMinute = (i: Instant): bigint => (i.epochNanoseconds - (((i.epochNanoseconds % minuteNs) + minuteNs) % minuteNs)) / minuteNs;
const ceilMinute = (i: Instant): bigint => (i.epochNanoseconds % minuteNs === 0n ? i.epochNanoseconds / minuteNs : floorMinute(i) + 1n);
const local = (minute: bigint, zone: string) => Temporal.Instant.fromEpochNanoseconds(minute * minuteNs).toZonedDateTimeISO(zone);

/** The bounds of a date in a zone take a walk over days of minutes: each is found once for all documents. */
const bounds = new Map<string, bigint>();
function remembered(key: string, find: () => bigint): bigint {
  const found = bounds.get(key) ?? find();
  bounds.set(key, found);
  return found;
}

export interface JudgeMode {
  readonly lockdown: boolean;
  readonly asIfLive: boolean;
}

export class Judge {
  constructor(readonly f: FacilityDocument) {}

  /** The first minute whose local date is the given one or later, found by looking at every minute around it. */
  private firstMinute(date: string): bigint {
    return remembered(`first ${this.f.timeZone} ${date}`, () => {
      const day = Temporal.PlainDate.from(date);
      let m = floorMinute(day.subtract({ days: 2 }).toZonedDateTime("UTC").toInstant());
      while (Temporal.PlainDate.compare(local(m, this.f.timeZone).toPlainDate(), day) < 0) m++;
      return m;
    });
  }

  /** The end of the last minute whose local date is the given one or earlier. */
  private endOfLastMinute(date: string): bigint {
    return remembered(`last ${this.f.timeZone} ${date}`, () => {
      const day = Temporal.PlainDate.from(date);
      let m = floorMinute(day.add({ days: 3 }).toZonedDateTime("UTC").toInstant());
      while (Temporal.PlainDate.compare(local(m, this.f.timeZone).toPlainDate(), day) > 0) m--;
      return m + 1n;
    });
  }

  private after(from: string | undefined, t: bigint, block: boolean): boolean {
    if (from === undefined) return true;
    if (isDate(from)) return t >= this.firstMinute(from);
    return t >= (block ? ceilMinute(instant(from)) : floorMinute(instant(from)));
  }

  private before(until: string | undefined, t: bigint, block: boolean): boolean {
    if (until === undefined) return true;
    if (isDate(until)) return t < this.endOfLastMinute(until);
    return t < (block ? floorMinute(instant(until)) : ceilMinute(instant(until)));
  }

  private inWindow(o: { readonly from?: string; readonly until?: string }, t: bigint, block = false): boolean {
    return this.after(o.from, t, block) && this.before(o.until, t, block);
  }

  private dayType(calendarId: string | undefined, date: Temporal.PlainDate): string | undefined {
    const days = this.f.calendars?.find(({ id }) => id === calendarId)?.days ?? [];
    const text = date.toString();
    const monthDay = text.slice(5);
    let best: { priority: number; dayType: string } | undefined;
    for (const d of days) {
      let covers = false;
      if (d.on !== undefined) covers = d.on === text;
      else if (d.yearly !== undefined) covers = d.yearly === monthDay;
      else if (d.yearlyFrom !== undefined && d.yearlyTo !== undefined)
        covers = d.yearlyFrom <= d.yearlyTo ? d.yearlyFrom <= monthDay && monthDay <= d.yearlyTo : monthDay >= d.yearlyFrom || monthDay <= d.yearlyTo;
      else if (d.easter !== undefined) {
        for (const year of [date.year - 1, date.year, date.year + 1])
          if (
            Temporal.PlainDate.from("1970-01-01")
              .add({ days: easterSunday(year) + d.easter })
              .equals(date)
          )
            covers = true;
      } else if (d.nth) {
        const number = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"].indexOf(d.nth.weekday) + 1;
        if (date.month === d.nth.month && date.dayOfWeek === number)
          covers = d.nth.n === -1 ? date.add({ days: 7 }).month !== date.month : Math.floor((date.day - 1) / 7) + 1 === d.nth.n;
      } else if (d.from !== undefined && d.to !== undefined) covers = d.from <= text && text <= d.to;
      if (covers && (!best || (d.priority ?? 0) > best.priority)) best = { priority: d.priority ?? 0, dayType: d.dayType };
    }
    return best?.dayType;
  }

  private row(s: DocumentSchedule, calendar: string | undefined, date: Temporal.PlainDate): readonly (readonly [string, string])[] {
    const text = date.toString();
    if ((s.from !== undefined && text < s.from) || (s.until !== undefined && text > s.until)) return [];
    const weekday = s.week?.[(["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const)[date.dayOfWeek - 1] ?? "mon"] ?? [];
    const type = this.dayType(calendar, date);
    if (type === undefined) return weekday;
    const own = s.holidays && Object.hasOwn(s.holidays, type) ? s.holidays[type] : undefined;
    return own ?? ((s.onHoliday ?? "closed") === "closed" ? [] : weekday);
  }

  open(scheduleId: string, calendar: string | undefined, zone: string, t: bigint): boolean {
    const s = this.f.schedules?.find(({ id }) => id === scheduleId);
    if (!s) throw new Error(scheduleId);
    if (s.always) return true;
    const z = local(t, zone);
    const clock = z.toPlainTime().toString({ smallestUnit: "minute" });
    const date = z.toPlainDate();
    return (
      this.row(s, calendar, date).some(([a, b]) => (a <= b ? a <= clock && clock < b : clock >= a)) ||
      this.row(s, calendar, date.subtract({ days: 1 })).some(([a, b]) => a > b && clock < b)
    );
  }

  private statusActive(o: { readonly status: string; readonly statusSince?: string }, t: bigint): boolean {
    return o.status === "active" || (o.statusSince !== undefined && t < ceilMinute(instant(o.statusSince)));
  }

  private beforeExpiry(c: Credential, t: bigint): boolean {
    if (!c.expiry) return true;
    let start: Instant | undefined;
    const use = c.expiry.after === "first-use" ? c.firstUse : c.lastUse;
    if (use !== undefined) start = instant(use);
    else if (c.expiry.after === "last-use" && c.from !== undefined) {
      if (isDate(c.from)) {
        start = Temporal.Instant.fromEpochNanoseconds(this.firstMinute(c.from) * minuteNs);
      } else start = instant(c.from);
    }
    return !start || t < ceilMinute(start.add({ hours: 24 * c.expiry.days }));
  }

  private groupsAbove(id: string | undefined): string[] {
    const list: string[] = [];
    for (let g = id; g !== undefined; g = this.f.groups?.find((one) => one.id === g)?.parent) list.push(g);
    return list;
  }

  private covers(target: { level?: string; bundle?: string; door?: string; doorGroup?: string; area?: string }, d: Door): (string | undefined)[] {
    if (target.door !== undefined) return target.door === d.id ? [undefined] : [];
    if (target.doorGroup !== undefined) {
      const holds = (group: string): boolean => {
        const g = this.f.doorGroups?.find(({ id }) => id === group);
        return !!g && ((g.doors ?? []).includes(d.id) || (g.groups ?? []).some(holds));
      };
      return holds(target.doorGroup) ? [undefined] : [];
    }
    if (target.area !== undefined) {
      for (let a = d.area; a !== undefined; a = this.f.areas?.find(({ id }) => id === a)?.parent) if (a === target.area) return [undefined];
      return [];
    }
    const levels = target.level !== undefined ? [target.level] : (this.f.bundles?.find(({ id }) => id === target.bundle)?.levels ?? []);
    return levels.flatMap((level) =>
      (this.f.levels?.find(({ id }) => id === level)?.rows ?? []).flatMap(({ schedule, actions: _, ...row }) =>
        this.covers(row, d).length > 0 ? [schedule] : [],
      ),
    );
  }

  /** Paths of a grant: whether its windows hold at t, and the schedules that must be open. */
  private paths(c: Credential, h: Cardholder | undefined, d: Door, g: Grant, t: bigint): { inForce: boolean; schedules: string[] }[] {
    const block = g.effect === "block";
    const ways: boolean[] = [];
    const own = this.inWindow(g, t, block);
    if (g.to.credential === c.id) ways.push(own);
    if (h && g.to.cardholder === h.id) ways.push(own);
    if (h && g.to.group !== undefined) {
      if (this.groupsAbove(h.department).includes(g.to.group)) ways.push(own);
      for (const m of this.f.memberships ?? [])
        if (m.cardholder === h.id && this.groupsAbove(m.group).includes(g.to.group)) ways.push(own && this.inWindow(m, t, block));
    }
    const rows = this.covers(g.open, d);
    return ways.flatMap((inForce) =>
      rows.map((row) => ({ inForce, schedules: (block ? [g.schedule] : [row, g.schedule]).filter((s): s is string => s !== undefined) })),
    );
  }

  free(d: Door, t: bigint, mode: JudgeMode): boolean {
    const site = this.f.sites?.find(({ id }) => id === d.site);
    return !mode.lockdown && d.unlock !== undefined && this.open(d.unlock, site?.calendar, site?.timeZone ?? "", t);
  }

  reason(credentialId: string, doorId: string, t: bigint, mode: JudgeMode): string {
    const c = this.f.credentials?.find(({ id }) => id === credentialId);
    if (!c) return "unknown-credential";
    const d = this.f.doors?.find(({ id }) => id === doorId);
    if (!d) return "unknown-door";
    const h = this.f.cardholders?.find(({ id }) => id === c.cardholder);
    const site = this.f.sites?.find(({ id }) => id === d.site);
    const zone = site?.timeZone ?? "";
    const calendar = h?.calendar ?? site?.calendar;
    if (!mode.asIfLive) {
      if (!this.statusActive(c, t)) return "credential-inactive";
      if (h && !this.statusActive(h, t)) return "cardholder-inactive";
      if (!this.after(c.from, t, false) || (h && !this.after(h.from, t, false))) return "not-yet-valid";
      if (!this.before(c.until, t, false) || (h && !this.before(h.until, t, false)) || !this.beforeExpiry(c, t)) return "expired";
    }
    if (h?.sites && !h.sites.includes(d.site)) return "site-excluded";
    const grants = this.f.grants ?? [];
    const isOpen = (schedules: readonly string[], k: string | undefined): boolean => schedules.every((s) => this.open(s, k, zone, t));
    const blocks = grants.filter(({ effect }) => effect === "block").flatMap((g) => this.paths(c, h, d, g, t));
    if (blocks.some((p) => p.inForce && isOpen(p.schedules, calendar))) return "blocked";
    if (!(h?.override === true || (Array.isArray(h?.override) && h.override.includes(d.site)))) {
      const allows = grants
        .filter(({ effect }) => effect !== "block")
        .flatMap((g) => this.paths(c, h, d, g, t).map((p) => ({ ...p, counts: !!g.inLockdown || !!h?.lockdownPass })));
      if (allows.length === 0) return "no-grant";
      const inForce = allows.filter((p) => p.inForce);
      if (inForce.length === 0) return "grant-not-in-force";
      const open = inForce.filter((p) => isOpen(p.schedules, calendar));
      if (open.length === 0) return inForce.some((p) => isOpen(p.schedules, undefined)) ? "closed-holiday" : "closed-schedule";
      if (h?.hours !== undefined && !this.open(h.hours, calendar, zone, t)) return "cardholder-hours";
      if (mode.lockdown && !open.some(({ counts }) => counts)) return "lockdown";
    }
    const hasPin = c.kind === "pin" || !!c.hasPin || !!c.duressPin || c.pinTag !== undefined;
    const entry = d.entryRows?.find(({ schedule }) => this.open(schedule, site?.calendar, zone, t))?.entry ?? d.entry ?? "card";
    const met = entry === "card" ? c.kind !== "pin" : entry === "pin" ? hasPin : entry === "card+pin" ? c.kind !== "pin" && (hasPin || !!h?.pinExempt) : true;
    if (!met) return "entry-unmet";
    if (d.via === undefined) return "open";
    const via = this.f.doors?.find(({ id }) => id === d.via);
    return via && (this.free(via, t, mode) || this.reason(credentialId, via.id, t, mode) === "open") ? "open" : "via-closed";
  }
}
