import { doorsOfRow } from "@/core/table/access-rows";
import { calendarAt, ordinary } from "@/core/paths/paths";
import { dayTypeWords } from "@/core/describe/english-hours";
import { daysOfWeek, weekWords } from "@/core/describe/week-words";
import { doorSensitivity } from "@/core/compile/door-sensitivity";
import { columnsOf, idOf } from "@/core/register/columns";
import { comingDays } from "@/core/register/coming-days";
import type { ComingDay } from "@/core/register/coming-days";
import { directoryOf } from "@/core/register/directory";
import type { RegisterKind } from "@/core/register/kinds";
import { nameOf } from "@/core/register/kinds";
import type { ObjectRef } from "@/core/register/related/ways";
import { relatedKinds, relatedTo } from "@/core/register/related/related";
import { yearSheet } from "@/core/register/year-sheet";
import type { YearSheet } from "@/core/register/year-sheet";
import { minutesADay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { openOnDate } from "@/core/time/schedule";
import type { IntervalSet } from "@/core/time/intervals";
import { localTime, zoneOf } from "@/core/time/zone";
import { minuteDown } from "@/core/time/instant";
import { instantOf } from "@/core/facility/time-rules";
import { horizonOf } from "@/core/table/horizon";
import { findingsOf } from "../findings/findings-of";
import { withNames } from "../findings/with-names";
import type { FindingWithNames } from "../findings/with-names";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import { lastUsesIn } from "./last-uses";
import { withUses } from "./later-uses";
import type { OpenRegister } from "./open-register";
import type { ObjectVersion } from "../ports/snapshots";
import type { Services } from "../services";

/** A kind of what hangs on an object: the first of them, and how many there are. */
export interface ObjectSection {
  readonly kind: RegisterKind;
  readonly total: number;
  readonly rows: readonly { readonly id: string; readonly name: string; readonly detail: string; readonly way: string }[];
}

/** A schedule as it stands and as it will be. */
export interface ScheduleSheet {
  /** Minutes from Monday 00:00 of an ordinary week. */
  readonly week: IntervalSet;
  readonly words: string;
  readonly rows: readonly { readonly day: string; readonly words: string }[];
  readonly sites: readonly { readonly id: string; readonly name: string; readonly timeZone: string; readonly days: readonly ComingDay[] }[];
}

export interface ObjectSheet {
  readonly snapshot: number;
  readonly kind: RegisterKind;
  readonly id: string;
  readonly name: string;
  readonly facts: readonly { readonly title: string; readonly text: string; readonly link: ObjectRef | undefined }[];
  readonly sections: readonly ObjectSection[];
  readonly schedule: ScheduleSheet | undefined;
  readonly year: (YearSheet & { readonly today: CivilDay }) | undefined;
  readonly findings: readonly FindingWithNames[];
  readonly timeZone: string;
  /** How many doors a cardholder opens at some time in the 13 months from the export, and how many of them into sensitive areas; undefined for other kinds. */
  readonly reach: { readonly doors: number; readonly sensitive: number } | undefined;
  /** How its own values changed from snapshot to snapshot, the latest first. */
  readonly history: readonly ObjectChange[];
}

/** What changed of an object with a snapshot; the first says that it came, one without values that it went. */
export interface ObjectChange {
  readonly snapshot: number;
  readonly what: "came" | "changed" | "went";
  readonly values: readonly { readonly field: string; readonly before: string | undefined; readonly after: string | undefined }[];
}

/** What is told beside the name of an object that hangs on another. */
const detailKeys: Readonly<Record<RegisterKind, readonly string[]>> = {
  cardholder: ["department", "status"],
  credential: ["status", "printedNumber", "until"],
  group: ["kind", "parent"],
  door: ["area", "site"],
  area: ["site", "parent"],
  site: ["timeZone"],
  doorGroup: ["groups"],
  level: ["schedules"],
  bundle: ["levels"],
  grant: ["effect", "schedule", "until"],
  schedule: ["dayTypes"],
  calendar: ["dayTypes"],
};

const rowsShown = 12;
const daysShown = 90;
/** Areas from this sensitivity on are called sensitive. */
const sensitiveFrom = 2;

/** The object that a column of another names, where it names one. */
function linkOf({ facility }: OpenRegister["compiled"], kind: RegisterKind, position: number, key: string): ObjectRef | undefined {
  const link = (linked: RegisterKind, id: string | undefined): ObjectRef | undefined => (id === undefined ? undefined : { kind: linked, id });
  switch (`${kind}.${key}`) {
    case "cardholder.department":
      return link("group", facility.cardholders[position]?.department);
    case "cardholder.manager":
      return link("cardholder", facility.cardholders[position]?.manager);
    case "cardholder.sponsor":
      return link("cardholder", facility.cardholders[position]?.sponsor);
    case "cardholder.hours":
      return link("schedule", facility.cardholders[position]?.hours);
    case "cardholder.calendar":
      return link("calendar", facility.cardholders[position]?.calendar);
    case "credential.holder":
      return link("cardholder", facility.credentials[position]?.cardholder);
    case "group.parent":
      return link("group", facility.groups[position]?.parent);
    case "group.manager":
      return link("cardholder", facility.groups[position]?.manager);
    case "door.area":
      return link("area", facility.doors[position]?.area);
    case "door.from":
      return link("area", facility.doors[position]?.from);
    case "door.site":
      return link("site", facility.doors[position]?.site);
    case "door.via":
      return link("door", facility.doors[position]?.via);
    case "door.unlock":
      return link("schedule", facility.doors[position]?.unlock);
    case "area.site":
      return link("site", facility.areas[position]?.site);
    case "area.parent":
      return link("area", facility.areas[position]?.parent);
    case "area.owner":
      return link("cardholder", facility.areas[position]?.owner);
    case "site.calendar":
      return link("calendar", facility.sites[position]?.calendar);
    case "grant.schedule":
      return link("schedule", facility.grants[position]?.schedule);
    case "grant.to": {
      const to = facility.grants[position]?.to;
      return to?.group !== undefined
        ? link("group", to.group)
        : to?.cardholder !== undefined
          ? link("cardholder", to.cardholder)
          : link("credential", to?.credential);
    }
    case "grant.open": {
      const open = facility.grants[position]?.open;
      for (const target of ["level", "bundle", "door", "doorGroup", "area"] as const) if (open?.[target] !== undefined) return link(target, open[target]);
      return undefined;
    }
    default:
      return undefined;
  }
}

const dayNames = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const monday = 4 as CivilDay;

function scheduleSheet({ compiled }: OpenRegister, position: number, today: CivilDay): ScheduleSheet {
  const rule = compiled.schedules[position];
  const { facility } = compiled;
  const draft = facility.schedules[position];
  const patterns = Array.from({ length: 7 }, (_, day) => (rule ? openOnDate(rule, undefined, (monday + day) as CivilDay) : []));
  const week = patterns.flatMap((set, day) => set.map((minute) => minute + day * minutesADay));
  const intervals = (row: readonly (readonly [string, string])[]): string =>
    row.length === 0 ? "closed" : row.map(([start, end]) => `${start}–${end}`).join(", ");
  const keys = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const;
  return {
    week,
    words: week.length === 0 && draft?.holidays ? "Closed on ordinary days; opens only on day types with a row of their own." : weekWords(daysOfWeek(week)),
    rows: draft?.always
      ? [{ day: "Always", words: "at all hours, whatever the day" }]
      : [
          ...keys.map((key, day) => ({ day: dayNames[day] ?? "", words: intervals(draft?.week?.[key] ?? []) })),
          ...Object.entries(draft?.holidays ?? {}).map(([dayType, row]) => ({ day: onDayType(dayType), words: intervals(row) })),
          { day: "Any other day type", words: draft?.onHoliday === "weekday" ? "as on the weekday" : "closed" },
        ],
    sites: facility.sites.map(({ id, name, timeZone }, site) => ({ id, name, timeZone, days: comingDays(compiled, position, site, today, daysShown) })),
  };
}

/** "On public holidays" */
const onDayType = (dayType: string): string => `On ${dayTypeWords(dayType)}`;

/** An object with everything that hangs on it, both ways; undefined where the register has none of that kind and id. */
export async function showObject(services: Services, account: Account, register: OpenRegister, { kind, id }: ObjectRef): Promise<ObjectSheet | undefined> {
  demand(account, "read-register");
  const { compiled, snapshot } = register;
  const position = directoryOf(compiled).position(kind, id);
  if (position === undefined) return undefined;
  const { facility } = compiled;
  const asOf = minuteDown(instantOf(facility.asOf));
  const today = localTime(zoneOf(facility.timeZone), asOf).date;
  const sections = relatedKinds[kind].map((linked): ObjectSection => {
    const related = relatedTo(compiled, linked, { kind, id });
    const columns = columnsOf(compiled, linked).filter(({ key }) => detailKeys[linked].includes(key));
    const named = [...related].map(([at, way]) => ({ at, way, name: linked === "grant" ? grantWords(compiled, at) : nameOf(facility, linked, at) }));
    named.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : a.at - b.at));
    return {
      kind: linked,
      total: related.size,
      rows: named.slice(0, rowsShown).map(({ at, way, name }) => ({
        id: idOf(compiled, linked, at),
        name,
        way,
        detail: columns
          .map(({ value }) => value(at))
          .filter((cell) => cell !== undefined && cell !== "")
          .join(" · "),
      })),
    };
  });
  const holder = kind === "cardholder" || kind === "credential" ? { kind, id } : undefined;
  const calendar = kind === "calendar" ? calendarAt(compiled, position) : undefined;
  return {
    snapshot: snapshot.id,
    kind,
    id,
    name: kind === "grant" ? grantWords(compiled, position) : nameOf(facility, kind, position),
    facts: columnsOf(compiled, kind, kind === "credential" ? await lastUsesIn(services, register) : undefined).flatMap(({ key, title, value }) => {
      const text = value(position);
      return key === "name" || text === undefined || text === "" ? [] : [{ title, text: String(text), link: linkOf(compiled, kind, position, key) }];
    }),
    sections: sections.filter(({ total }) => total > 0),
    schedule: kind === "schedule" ? scheduleSheet(register, position, today) : undefined,
    year: calendar && { ...yearSheet(calendar, today), today },
    reach: kind === "cardholder" ? reachCounts(await withUses(services, register), position) : undefined,
    findings: holder ? withNames(register, (await findingsOf(services, register, [holder]))(holder)) : [],
    timeZone: facility.timeZone,
    // What it was before may name what is at other sites.
    history: register.sites === undefined ? changesOf(await services.register.versions(kind, id)).reverse() : [],
  };
}

function reachCounts({ compiled }: OpenRegister, cardholder: number): { doors: number; sensitive: number } {
  const table = horizonOf(compiled).table(ordinary);
  const doors = doorsOfRow(table.rows, table.rowOfCardholder(cardholder));
  let sensitive = 0;
  for (const door of doors) if (doorSensitivity(compiled, door) >= sensitiveFrom) sensitive++;
  return { doors: doors.length, sensitive };
}

/** Versions of an object as changes from one to the next. */
export function changesOf(versions: readonly ObjectVersion[]): ObjectChange[] {
  return versions.flatMap(({ since, until, values }, i) => {
    const before = versions[i - 1];
    const isNext = before?.until === since;
    const fields = isNext
      ? [...new Set([...Object.keys(before.values), ...Object.keys(values)])].filter((field) => before.values[field] !== values[field])
      : [];
    const change: ObjectChange = {
      snapshot: since,
      what: isNext ? "changed" : "came",
      values: fields.map((field) => ({ field, before: before?.values[field], after: values[field] })),
    };
    const isLast = until !== undefined && versions[i + 1]?.since !== until;
    return isLast ? [change, { snapshot: until, what: "went" as const, values: [] }] : [change];
  });
}

/** A grant in words: whom it lets in where. */
function grantWords(compiled: OpenRegister["compiled"], position: number): string {
  const grant = compiled.facility.grants[position];
  const directory = directoryOf(compiled);
  return grant ? `${directory.receiver(grant)} ${grant.effect === "block" ? "may not open" : "opens"} ${directory.target(grant)}` : "";
}
