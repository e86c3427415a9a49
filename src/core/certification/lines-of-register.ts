import { groupBy } from "../kernel/compare";
import { horizonOf } from "../table/horizon";
import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledFacility } from "../compile/compiled-facility";
import { hoursAtDoors } from "./hours-at-doors";
import type { CredentialLife, Line, LineHours, LineSubject, LifeBound } from "./line";
import { isAsleep } from "./line";
import type { Finding } from "../findings/finding";
import { findingsOfLine } from "./line-findings";
import { isToldToCertifiers, speaksOfCredential, speaksOfDoors } from "./against";
import type { Reach } from "../findings/reach";
import { doorSensitivity } from "../compile/door-sensitivity";
import { BusinessWeeks, businessHoursOf } from "../findings/business-hours";
import { reachOf } from "../findings/reach";
import type { RuleSettings } from "../findings/settings";
import { usualSettings } from "../findings/settings";
import type { UseRecord } from "../findings/use";
import { useOfDoors } from "../findings/use";
import { intersectWindows, windowIsEmpty } from "../time/window";
import { endOfMinutesThrough, firstMinuteFrom, localTime } from "../time/zone";
import type { Zone } from "../time/zone";
import type { HolderId } from "../facility/holder-id";
import { credentialLabel } from "../facility/labels";
import type { AccessTable } from "../table/access-table";
import { asIfLive, ordinary, overrideCovers } from "../paths/paths";
import { livingWindow } from "../paths/timeframe";
import type { EpochMinute } from "../time/instant";
import { contentKey, nothing, subtract } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";

interface Access {
  readonly subject: LineSubject;
  readonly now: Map<Position, IntervalSet>;
}

function subjectOf(compiled: CompiledFacility, door: Position): LineSubject {
  const at = required(compiled.doors[door], "positions are valid");
  const area = at.areas[0];
  if (area !== undefined) {
    const { id, name } = required(compiled.facility.areas[area], "positions are valid");
    return { kind: "area", id, name };
  }
  const site = required(
    compiled.facility.sites.find(({ id }) => id === at.door.site),
    "references resolve",
  );
  return { kind: "site", id: site.id, name: `${site.name}, other doors` };
}

/** What a holder opens, by subject. */
function accessBySubject(compiled: CompiledFacility, reach: Reach): Access[] {
  const found = new Map<string, Access>();
  for (const [door, open] of reach) {
    const subject = subjectOf(compiled, door);
    const key = `${subject.kind} ${subject.id}`;
    const access = found.get(key) ?? { subject, now: new Map<Position, IntervalSet>() };
    access.now.set(door, open);
    found.set(key, access);
  }
  return [...found.values()];
}

function hoursOf(
  compiled: CompiledFacility,
  access: Access,
  cardholder: Position | undefined,
  weeks: ReadonlyMap<Position, IntervalSet>,
  { describe, business }: Pick<LineBasis, "describe" | "business">,
): LineHours[] {
  const own = cardholder === undefined ? undefined : compiled.cardholders.at(cardholder)?.calendar;
  const same = groupBy(access.now, ([door, open]) => `${compiled.doors[door]?.zone.name} ${contentKey(weeks.get(door) ?? nothing)} ${contentKey(open)}`);
  return [...same.values()].map((doors) => {
    const [door, open] = required(doors[0], "groups are not empty");
    return {
      doors: doors.map(([position]) => {
        const { id, name } = required(compiled.facility.doors[position], "positions are valid");
        return { id, name };
      }),
      ...describe(open, own, door),
      week: weeks.get(door) ?? nothing,
      outside: business.outside(
        doors.map(([position]) => position),
        weeks.get(door) ?? nothing,
      ),
    };
  });
}

const namesShown = 3;

/** The areas (or sites) that doors lead into, the most sensitive first. */
function placesOf(compiled: CompiledFacility, doors: readonly Position[]) {
  const places = new Map<string, number>();
  for (const door of doors) {
    const { name } = subjectOf(compiled, door);
    places.set(name, Math.max(places.get(name) ?? 0, doorSensitivity(compiled, door)));
  }
  const names = [...places].sort((a, b) => b[1] - a[1]).map(([name]) => name);
  const placeNames = names.length > namesShown + 1 ? names.slice(0, namesShown) : names;
  const morePlaces = names.length - placeNames.length;
  return { places: `${placeNames.join(", ")}${morePlaces > 0 ? ` and ${morePlaces} more places` : ""}`, placeNames, morePlaces };
}

/** What lines are made from: who opens what, awake, asleep and in an ordinary week, and who in a department reaches what. */
interface LineBasis {
  readonly compiled: CompiledFacility;
  readonly use: UseRecord;
  readonly asOf: EpochMinute;
  readonly to: EpochMinute;
  readonly awake: AccessTable;
  readonly asleep: AccessTable;
  readonly week: AccessTable;
  readonly business: BusinessWeeks;
  readonly describe: ReturnType<typeof hoursAtDoors>;
}

interface Holder {
  readonly id: string;
  readonly cardholder: Position | undefined;
  readonly credentials: readonly Position[];
}

const usedAt = ({ compiled, use, asOf }: LineBasis, credentials: readonly Position[], doors: readonly Position[]): Line["use"] =>
  useOfDoors(
    compiled,
    use,
    credentials.map((position) => required(compiled.facility.credentials[position], "positions are valid").id),
    doors,
    asOf,
  );

const minuteOfDate = (zone: Zone, minute: EpochMinute): LifeBound => {
  const { date, minuteOfDay } = localTime(zone, minute);
  return { date, minuteOfDay };
};

/** The date with which a window ends, or the minute where it ends within a date. */
function lastBound(zone: Zone, until: EpochMinute): LifeBound {
  const { date } = localTime(zone, (until - 1) as EpochMinute);
  return endOfMinutesThrough(zone, date) === until ? { date } : minuteOfDate(zone, until);
}

/** The date with which a window begins, or the minute where it begins within a date. */
function firstBound(zone: Zone, from: EpochMinute): LifeBound {
  const { date } = localTime(zone, from);
  return firstMinuteFrom(zone, date) === from ? { date } : minuteOfDate(zone, from);
}

/** What becomes of a credential by itself in the time that is looked at. */
function lifeOf({ compiled, asOf, to }: LineBasis, position: Position, places: () => ReturnType<typeof placesOf> | undefined): CredentialLife {
  const { life, holder } = required(compiled.credentials.at(position), "positions are valid");
  const { zone } = compiled.vocabulary;
  const own = livingWindow(life);
  const window = holder ? intersectWindows(own, livingWindow(holder.life)) : own;
  if (windowIsEmpty(window) || window.until <= asOf || window.from >= to) return { kind: "asleep", places: undefined, ...places() };
  if (window.from > asOf) return { kind: "begins", first: firstBound(zone, window.from) };
  return window.until < to ? { kind: "ends", last: lastBound(zone, window.until) } : { kind: "live" };
}

/** A line for a credential that something speaks against, or that is asleep and would open more if it were not; undefined for others. */
function credentialLine(basis: LineBasis, holder: Holder, position: Position, now: Reach, findings: readonly Finding[]): Line | undefined {
  const { compiled } = basis;
  const credential = required(compiled.facility.credentials[position], "positions are valid");
  const wakened = reachOf(basis.asleep, [position]);
  const besides = () => [...wakened].filter(([door, open]) => subtract(open, now.get(door) ?? nothing).length > 0).map(([door]) => door);
  const life = lifeOf(basis, position, () => {
    const doors = besides();
    return doors.length === 0 ? undefined : placesOf(compiled, doors);
  });
  const against = findings.filter((finding) => speaksOfCredential(finding, credential.id));
  if (!isAsleep(life) && against.length === 0) return undefined;
  return {
    cardholder: holder.cardholder === undefined ? undefined : holder.id,
    credential: credential.id,
    subject: { kind: "credential", id: credential.id, name: credentialLabel(credential) },
    sensitivity: Math.max(0, ...[...wakened.keys()].map((door) => doorSensitivity(compiled, door))),
    override: false,
    hours: [],
    life,
    use: usedAt(basis, [position], [...wakened.keys()]),
    peers: undefined,
    findings: findingsOfLine(compiled, against),
  };
}

/** What two holders have in common who open the same doors of a subject at the same times of an ordinary week. */
const sameness = ({ subject, now }: Access, weeks: Reach): string =>
  `${subject.kind} ${subject.id} ${[...now.keys()]
    .sort((a, b) => a - b)
    .map((door) => `${door}@${contentKey(weeks.get(door) ?? nothing)}`)
    .join()}`;

const isOverridden = (compiled: CompiledFacility, cardholder: Position | undefined, doors: readonly Position[]): boolean => {
  const holder = cardholder === undefined ? undefined : compiled.cardholders.at(cardholder);
  return holder !== undefined && doors.every((door) => overrideCovers({ holder }, required(compiled.doors[door], "positions are valid")));
};

/** How many of a department's members have just the same of a subject. */
function peerCounts(
  compiled: CompiledFacility,
  accesses: readonly { readonly cardholder: Position | undefined; readonly weeks: Reach; readonly access: readonly Access[] }[],
) {
  const departmentOf = (cardholder: Position | undefined) => (cardholder === undefined ? undefined : compiled.facility.cardholders[cardholder]?.department);
  const members = new Map<string, number>();
  const reaching = new Map<string, number>();
  const count = (map: Map<string, number>, key: string) => map.set(key, (map.get(key) ?? 0) + 1);
  for (const { cardholder, weeks, access } of accesses) {
    const department = departmentOf(cardholder);
    // Who opens nothing at all, such as a leaver, is nobody to be compared with.
    if (department === undefined || access.length === 0) continue;
    count(members, department);
    for (const one of access) count(reaching, `${department} ${sameness(one, weeks)}`);
  }
  return (cardholder: Position | undefined, weeks: Reach, access: Access): Line["peers"] => {
    const department = departmentOf(cardholder);
    return department === undefined
      ? undefined
      : { same: (reaching.get(`${department} ${sameness(access, weeks)}`) ?? 1) - 1, of: (members.get(department) ?? 1) - 1 };
  };
}

/** The lines of a register, to be had for some of its holders after the others, so that what is known of their use need not be at hand at once. */
export interface LinesByHolder {
  readonly holders: number;
  /** The place of a holder among them; undefined of one that the register does not have. */
  readonly placeOf: (holder: HolderId) => number | undefined;
  /** Ids of the credentials of the holders from one place to before another, which are those whose use has to be known. */
  readonly credentialsOf: (from: number, to: number) => readonly string[];
  readonly lines: (from: number, to: number, use: UseRecord) => Line[];
}

/**
 * The lines of everybody over a facility: one for each cardholder (or credential without one) and area of which they open a
 * door in the 13 months from the export, and one for each credential with findings or sleeping access. Holders in order of
 * the document, lines with findings first.
 */
export function linesByHolder(compiled: CompiledFacility, findings: readonly Finding[], settings: RuleSettings = usualSettings): LinesByHolder {
  const horizon = horizonOf(compiled);
  const { from: asOf, to } = horizon.ahead;
  const always: Omit<LineBasis, "use"> = {
    compiled,
    asOf,
    to,
    awake: horizon.table(ordinary),
    asleep: horizon.table(asIfLive),
    week: horizon.week(ordinary),
    business: new BusinessWeeks(compiled, businessHoursOf(settings), asOf),
    describe: hoursAtDoors(compiled, asOf, to),
  };
  const byHolder = groupBy(findings.filter(isToldToCertifiers), ({ cardholder, subject }) => cardholder ?? `credential ${subject.id}`);
  const holders: Holder[] = [
    ...compiled.cardholders.all().map(({ position, cardholder, credentials }) => ({ id: cardholder.id, cardholder: position, credentials })),
    ...compiled.credentials
      .all()
      .filter(({ holder }) => !holder)
      .map(({ position, credential }) => ({ id: credential.id, cardholder: undefined, credentials: [position] })),
  ];
  const accesses = holders.map((holder) => {
    const now = reachOf(always.awake, holder.credentials);
    return { ...holder, now, weeks: reachOf(always.week, holder.credentials), access: accessBySubject(compiled, now) };
  });
  const peersOf = peerCounts(compiled, accesses);

  const linesOfHolder = ({ now, weeks, access, ...holder }: (typeof accesses)[number], basis: LineBasis): Line[] => {
    const own = byHolder.get(holder.cardholder === undefined ? `credential ${holder.id}` : holder.id) ?? [];
    const places = access.map((one): Line => {
      const doors = [...one.now.keys()];
      return {
        cardholder: holder.cardholder === undefined ? undefined : holder.id,
        credential: holder.cardholder === undefined ? holder.id : undefined,
        subject: one.subject,
        sensitivity: Math.max(0, ...doors.map((door) => doorSensitivity(compiled, door))),
        hours: hoursOf(compiled, one, holder.cardholder, weeks, basis),
        life: undefined,
        override: isOverridden(compiled, holder.cardholder, doors),
        use: usedAt(basis, holder.credentials, doors),
        peers: peersOf(holder.cardholder, weeks, one),
        findings: findingsOfLine(
          compiled,
          // What speaks against access to an area speaks against that to the areas within it.
          own.filter((finding) => speaksOfDoors(compiled, finding, doors)),
        ),
      };
    });
    const lines = [...holder.credentials.flatMap((credential) => credentialLine(basis, holder, credential, now, own) ?? []), ...places];
    const weight = (line: Line): number => Math.max(0, ...line.findings.map(({ risk }) => risk));
    const told = new Set(lines.flatMap((line) => line.findings.map(({ fingerprint }) => fingerprint)));
    const rest = own.filter(({ fingerprint }) => !told.has(fingerprint));
    lines.sort((a, b) => weight(b) - weight(a) || b.sensitivity - a.sensitivity || (a.subject.name < b.subject.name ? -1 : 1));
    const [first, ...others] = lines;
    // What speaks of the holder as such is told once, with what comes first.
    return first && rest.length > 0 ? [{ ...first, findings: [...first.findings, ...findingsOfLine(compiled, rest)] }, ...others] : lines;
  };
  return {
    holders: accesses.length,
    placeOf: ({ kind, id }) => {
      if (kind === "cardholder") return compiled.cardholderById.get(id);
      const place = accesses.findIndex((holder) => holder.cardholder === undefined && holder.id === id);
      return place < 0 ? undefined : place;
    },
    credentialsOf: (from, to) =>
      accesses
        .slice(from, to)
        .flatMap(({ credentials }) => credentials.map((position) => required(compiled.facility.credentials[position], "positions are valid").id)),
    lines: (from, to, use) => accesses.slice(from, to).flatMap((one) => linesOfHolder(one, { ...always, use })),
  };
}

/** The lines of everybody at once. */
export function linesOf(compiled: CompiledFacility, use: UseRecord, findings: readonly Finding[]): Line[] {
  const { holders, lines } = linesByHolder(compiled, findings);
  return lines(0, holders, use);
}
