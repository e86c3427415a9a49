import type { Cardholder, Credential, Door, FacilityDocument, Grant, Membership } from "@/core/facility/document";
import { calendarOf, instantOf, objectWindow, scheduleOf } from "@/core/facility/time-rules";
import { addSeconds, minuteDown, minuteUp } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import type { IntervalSet } from "@/core/time/intervals";
import { clip, contains, intersect, range, subtract, union } from "@/core/time/intervals";
import { openDuring } from "@/core/time/schedule";
import type { Zone } from "@/core/time/zone";
import { windowHolds } from "@/core/time/window";
import { zoneOf } from "@/core/time/zone";

const byId = <T extends { readonly id: string }>(list: readonly T[] | undefined): Map<string, T> => new Map((list ?? []).map((object) => [object.id, object]));
const grouped = <T>(list: readonly T[], keyOf: (item: T) => string | undefined): Map<string, T[]> => {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const key = keyOf(item);
    if (key !== undefined) groups.set(key, [...(groups.get(key) ?? []), item]);
  }
  return groups;
};

/**
 * The loop as one would first write it, with schedules laid out once for the range and sets looked up instead of searched: for each
 * person and each door, go through the grants. It knows everything but lockdown and sleeping access.
 */
export class PlainLoop {
  private readonly doors: Map<string, NonNullable<FacilityDocument["doors"]>[number]>;
  private readonly sites: Map<string, NonNullable<FacilityDocument["sites"]>[number]>;
  private readonly cardholders: Map<string, NonNullable<FacilityDocument["cardholders"]>[number]>;
  private readonly credentials: Map<string, NonNullable<FacilityDocument["credentials"]>[number]>;
  private readonly groups: Map<string, NonNullable<FacilityDocument["groups"]>[number]>;
  private readonly levels: Map<string, NonNullable<FacilityDocument["levels"]>[number]>;
  private readonly bundles: Map<string, NonNullable<FacilityDocument["bundles"]>[number]>;
  private readonly doorGroups: Map<string, NonNullable<FacilityDocument["doorGroups"]>[number]>;
  private readonly areas: Map<string, NonNullable<FacilityDocument["areas"]>[number]>;
  private readonly schedules: Map<string, NonNullable<FacilityDocument["schedules"]>[number]>;
  private readonly calendars: Map<string, NonNullable<FacilityDocument["calendars"]>[number]>;
  private readonly memberships: Map<string, NonNullable<FacilityDocument["memberships"]>[number][]>;
  private readonly credentialsOf: Map<string, NonNullable<FacilityDocument["credentials"]>[number][]>;
  private readonly toCardholder: Map<string, NonNullable<FacilityDocument["grants"]>[number][]>;
  private readonly toGroup: Map<string, NonNullable<FacilityDocument["grants"]>[number][]>;
  private readonly toCredential: Map<string, NonNullable<FacilityDocument["grants"]>[number][]>;
  private readonly laidOut = new Map<string, IntervalSet>();
  private readonly doorsIn = new Map<string, ReadonlySet<string>>();
  private readonly zone: Zone;

  constructor(
    private readonly document: FacilityDocument,
    private readonly from: EpochMinute,
    private readonly to: EpochMinute,
  ) {
    this.doors = byId(document.doors);
    this.sites = byId(document.sites);
    this.cardholders = byId(document.cardholders);
    this.credentials = byId(document.credentials);
    this.groups = byId(document.groups);
    this.levels = byId(document.levels);
    this.bundles = byId(document.bundles);
    this.doorGroups = byId(document.doorGroups);
    this.areas = byId(document.areas);
    this.schedules = byId(document.schedules);
    this.calendars = byId(document.calendars);
    this.memberships = grouped(document.memberships ?? [], ({ cardholder }) => cardholder);
    this.credentialsOf = grouped(document.credentials ?? [], ({ cardholder }) => cardholder);
    this.toCardholder = grouped(document.grants ?? [], ({ to }) => to.cardholder);
    this.toGroup = grouped(document.grants ?? [], ({ to }) => to.group);
    this.toCredential = grouped(document.grants ?? [], ({ to }) => to.credential);
    this.zone = zoneOf(document.timeZone);
  }

  private schedule(id: string, calendar: string | undefined, zone: string): IntervalSet {
    const key = `${id} ${calendar ?? ""} ${zone}`;
    let set = this.laidOut.get(key);
    if (!set) {
      const [rule, days] = [this.schedules.get(id), calendar === undefined ? undefined : this.calendars.get(calendar)];
      set = rule ? openDuring(scheduleOf(rule), days && calendarOf(days), zoneOf(zone), this.from, this.to) : [];
      this.laidOut.set(key, set);
    }
    return set;
  }

  private window(object: { readonly from?: string; readonly until?: string }, block = false): IntervalSet {
    if (object.from === undefined && object.until === undefined) return range(this.from, this.to);
    const { from, until } = objectWindow(object, this.zone, block ? "inward" : "outward");
    return clip(range(from, until), this.from, this.to);
  }

  private holds(kind: "doorGroup" | "area", id: string, door: Door): boolean {
    if (kind === "area") {
      for (let area = door.area; area !== undefined; area = this.areas.get(area)?.parent) if (area === id) return true;
      return false;
    }
    let set = this.doorsIn.get(id);
    if (!set) {
      const all = (group: string): string[] => [...(this.doorGroups.get(group)?.doors ?? []), ...(this.doorGroups.get(group)?.groups ?? []).flatMap(all)];
      set = new Set(all(id));
      this.doorsIn.set(id, set);
    }
    return set.has(door.id);
  }

  private coversOne(target: { readonly door?: string; readonly doorGroup?: string; readonly area?: string }, door: Door): boolean {
    if (target.door !== undefined) return target.door === door.id;
    return target.doorGroup !== undefined ? this.holds("doorGroup", target.doorGroup, door) : this.holds("area", target.area ?? "", door);
  }

  /** Schedules of the ways by which a grant covers a door; one undefined for a way without. */
  private ways({ open }: Grant, door: Door): (string | undefined)[] {
    const levels = open.level !== undefined ? [open.level] : open.bundle !== undefined ? (this.bundles.get(open.bundle)?.levels ?? []) : undefined;
    if (!levels) return this.coversOne(open, door) ? [undefined] : [];
    return levels.flatMap((level) => (this.levels.get(level)?.rows ?? []).flatMap((row) => (this.coversOne(row, door) ? [row.schedule] : [])));
  }

  private *grantsOf(credential: Credential, holder: Cardholder | undefined): Generator<readonly [Grant, Membership | undefined]> {
    for (const grant of this.toCredential.get(credential.id) ?? []) yield [grant, undefined];
    if (!holder) return;
    for (const grant of this.toCardholder.get(holder.id) ?? []) yield [grant, undefined];
    for (let group = holder.department; group !== undefined; group = this.groups.get(group)?.parent)
      for (const grant of this.toGroup.get(group) ?? []) yield [grant, undefined];
    for (const membership of this.memberships.get(holder.id) ?? [])
      for (let group: string | undefined = membership.group; group !== undefined; group = this.groups.get(group)?.parent)
        for (const grant of this.toGroup.get(group) ?? []) yield [grant, membership];
  }

  private live(object: Credential | Cardholder): IntervalSet {
    const window = this.window(object);
    if (object.status === "active") return window;
    return object.statusSince === undefined ? [] : clip(window, this.from, minuteUp(instantOf(object.statusSince)));
  }

  private liveCredential(credential: Credential, holder: Cardholder | undefined): IntervalSet {
    let live = this.live(credential);
    if (holder) live = intersect(live, this.live(holder));
    const { expiry } = credential;
    if (!expiry) return live;
    const start = expiry.after === "first-use" ? credential.firstUse : (credential.lastUse ?? credential.from);
    if (start === undefined) return live;
    const end =
      start.length === 10
        ? objectWindow({ from: start }, this.zone, "outward").from + expiry.days * 1440
        : minuteUp(addSeconds(instantOf(start), expiry.days * 86_400));
    return clip(live, this.from, end);
  }

  private free(door: Door): IntervalSet {
    const site = this.sites.get(door.site);
    return door.unlock === undefined || !site ? [] : this.schedule(door.unlock, site.calendar, site.timeZone);
  }

  private entryMet(credential: Credential, holder: Cardholder | undefined, door: Door): IntervalSet {
    const pin = credential.kind === "pin" || !!credential.hasPin || !!credential.duressPin || credential.pinTag !== undefined;
    const isPin = credential.kind === "pin";
    const meets = (rule: string): boolean =>
      rule === "card" ? !isPin : rule === "pin" ? pin : rule === "card+pin" ? !isPin && (pin || !!holder?.pinExempt) : true;
    const site = this.sites.get(door.site);
    let rest = range(this.from, this.to);
    let met: IntervalSet = [];
    for (const { schedule, entry } of door.entryRows ?? []) {
      const inForce = intersect(rest, this.schedule(schedule, site?.calendar, site?.timeZone ?? ""));
      if (meets(entry)) met = union(met, inForce);
      rest = subtract(rest, inForce);
    }
    return meets(door.entry ?? "card") ? union(met, rest) : met;
  }

  /** When a credential opens a door. */
  timetable(credentialId: string, doorId: string): IntervalSet {
    const [credential, door] = [this.credentials.get(credentialId), this.doors.get(doorId)];
    if (!credential || !door) return [];
    const holder = this.cardholders.get(credential.cardholder ?? "");
    const site = this.sites.get(door.site);
    if (!site || (holder?.sites && !holder.sites.includes(door.site))) return [];
    const calendar = holder?.calendar ?? site.calendar;
    const overridden = holder?.override === true || (Array.isArray(holder?.override) && holder.override.includes(door.site));
    let open: IntervalSet = overridden ? range(this.from, this.to) : [];
    let shut: IntervalSet = [];
    for (const [grant, membership] of this.grantsOf(credential, holder)) {
      const block = grant.effect === "block";
      for (const way of this.ways(grant, door)) {
        let set = this.window(grant, block);
        if (membership) set = intersect(set, this.window(membership, block));
        if (way !== undefined && !block) set = intersect(set, this.schedule(way, calendar, site.timeZone));
        if (grant.schedule !== undefined) set = intersect(set, this.schedule(grant.schedule, calendar, site.timeZone));
        if (block) shut = union(shut, set);
        else if (!overridden) open = union(open, holder?.hours === undefined ? set : intersect(set, this.schedule(holder.hours, calendar, site.timeZone)));
      }
    }
    if (open.length === 0) return open;
    open = intersect(subtract(open, shut), this.liveCredential(credential, holder));
    open = intersect(open, this.entryMet(credential, holder, door));
    const via = this.doors.get(door.via ?? "");
    return via ? intersect(open, union(this.timetable(credentialId, via.id), this.free(via))) : open;
  }

  private inWindow(object: { readonly from?: string; readonly until?: string }, at: EpochMinute, block = false): boolean {
    if (object.from === undefined && object.until === undefined) return true;
    return windowHolds(objectWindow(object, this.zone, block ? "inward" : "outward"), at);
  }

  private entryMetAt(credential: Credential, holder: Cardholder | undefined, door: Door, at: EpochMinute): boolean {
    if ((door.entryRows ?? []).length > 0) return contains(this.entryMet(credential, holder, door), at);
    const isPin = credential.kind === "pin";
    const pin = isPin || !!credential.hasPin || !!credential.duressPin || credential.pinTag !== undefined;
    const rule = door.entry ?? "card";
    return rule === "card" ? !isPin : rule === "pin" ? pin : rule === "card+pin" ? !isPin && (pin || !!holder?.pinExempt) : true;
  }

  /** Whether a credential opens a door at a minute: its grants one after the other, each with its windows and schedules looked up. */
  opens(credentialId: string, doorId: string, at: EpochMinute): boolean {
    const [credential, door] = [this.credentials.get(credentialId), this.doors.get(doorId)];
    const site = this.sites.get(door?.site ?? "");
    if (!credential || !door || !site) return false;
    const holder = this.cardholders.get(credential.cardholder ?? "");
    if (holder?.sites && !holder.sites.includes(door.site)) return false;
    if (!contains(this.liveCredential(credential, holder), at) || !this.entryMetAt(credential, holder, door, at)) return false;
    const calendar = holder?.calendar ?? site.calendar;
    const isOpen = (schedule: string | undefined): boolean => schedule === undefined || contains(this.schedule(schedule, calendar, site.timeZone), at);
    let granted = holder?.override === true || (Array.isArray(holder?.override) && holder.override.includes(door.site));
    for (const [grant, membership] of this.grantsOf(credential, holder)) {
      const block = grant.effect === "block";
      if (granted && !block) continue;
      for (const way of this.ways(grant, door)) {
        if (!this.inWindow(grant, at, block) || (membership && !this.inWindow(membership, at, block)) || !isOpen(grant.schedule)) break;
        if (block) return false;
        if (isOpen(way) && isOpen(holder?.hours)) granted = true;
      }
    }
    if (!granted) return false;
    const via = this.doors.get(door.via ?? "");
    return !via || this.opens(credentialId, via.id, at) || contains(this.free(via), at);
  }

  cardholderTimetable(cardholder: string, door: string): IntervalSet {
    return (this.credentialsOf.get(cardholder) ?? []).reduce<IntervalSet>((open, { id }) => union(open, this.timetable(id, door)), []);
  }
}

export const minuteOf = (text: string): EpochMinute => minuteDown(instantOf(text));
