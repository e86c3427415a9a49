import type { ListKey } from "@/core/facility/document";
import type { BundleTable, TableColumn } from "@/intake/formats/tables/tables";
import { bundleTables, facilityTable } from "@/intake/formats/tables/tables";

/** How a field of the document is read from a text of a source. */
export type FieldKind =
  | { readonly kind: "text" | "number" | "flag" | "texts" | "pin" | "clock" | "hours" | "weekday" | "card-number" | "zone" }
  | { readonly kind: "closed"; readonly values: readonly string[] }
  /** `date`: a date alone; `moment`: a date or an instant; `instant`: an instant, of a date its beginning or its end. */
  | { readonly kind: "date" | "moment" | "instant"; readonly side: "from" | "until" }
  | { readonly kind: "reference" | "references"; readonly list: ListKey };

export interface TargetField {
  readonly name: string;
  readonly column: TableColumn | undefined;
  readonly reads: FieldKind;
}

/** A table that rows of a source may feed: one of the documentation, or events. */
export interface TargetTable {
  readonly table: string;
  /** Undefined for what the facility is called, and for events. */
  readonly bundle: BundleTable | undefined;
  readonly fields: ReadonlyMap<string, TargetField>;
  /** Fields without which nothing can be made; of several in a group one is enough. */
  readonly needs: readonly (readonly string[])[];
}

const references: Readonly<Record<string, ListKey>> = {
  "sites.calendar": "calendars",
  "areas.site": "sites",
  "areas.parent": "areas",
  "areas.owner": "cardholders",
  "calendar-days.calendar": "calendars",
  "schedule-hours.schedule": "schedules",
  "doors.site": "sites",
  "doors.area": "areas",
  "doors.from": "areas",
  "doors.via": "doors",
  "doors.unlock": "schedules",
  "door-entry.door": "doors",
  "door-entry.schedule": "schedules",
  "door-group-members.doorGroup": "doorGroups",
  "door-group-members.door": "doors",
  "door-group-members.group": "doorGroups",
  "level-rows.level": "levels",
  "level-rows.door": "doors",
  "level-rows.doorGroup": "doorGroups",
  "level-rows.area": "areas",
  "level-rows.schedule": "schedules",
  "bundle-levels.bundle": "bundles",
  "bundle-levels.level": "levels",
  "groups.parent": "groups",
  "groups.manager": "cardholders",
  "memberships.group": "groups",
  "memberships.cardholder": "cardholders",
  "cardholders.department": "groups",
  "cardholders.manager": "cardholders",
  "cardholders.sponsor": "cardholders",
  "cardholders.calendar": "calendars",
  "cardholders.hours": "schedules",
  "requirements.cardholder": "cardholders",
  "credentials.cardholder": "cardholders",
  "grants.cardholder": "cardholders",
  "grants.group": "groups",
  "grants.credential": "credentials",
  "grants.level": "levels",
  "grants.bundle": "bundles",
  "grants.door": "doors",
  "grants.doorGroup": "doorGroups",
  "grants.area": "areas",
  "grants.schedule": "schedules",
};

const entries = ["card", "card+pin", "pin", "card-or-pin"];
const closed: Readonly<Record<string, readonly string[]>> = {
  "schedules.onHoliday": ["closed", "weekday"],
  "doors.kind": ["door", "gate", "turnstile", "lift", "floor", "cabinet"],
  "doors.entry": entries,
  "door-entry.entry": entries,
  "groups.kind": ["group", "department"],
  "cardholders.status": ["active", "suspended", "left"],
  "cardholders.type": ["employee", "contractor", "visitor", "tenant", "other"],
  "credentials.kind": ["card", "fob", "mobile", "biometric", "remote", "pin"],
  "credentials.status": ["active", "suspended", "lost", "stock", "returned"],
  "credentials.expiryAfter": ["first-use", "last-use"],
  "grants.effect": ["allow", "block"],
  "events.result": ["granted", "refused"],
};

/** Of an instant for which a source has a date alone, the side of that date that never makes access look smaller, or a problem younger. */
const instants: Readonly<Record<string, "from" | "until">> = {
  authorisedAt: "from",
  statusSince: "from",
  issuedAt: "from",
  firstUse: "until",
  lastUse: "until",
  asOf: "until",
  at: "from",
};
const dates = new Set(["schedules.from", "schedules.until", "calendar-days.on", "calendar-days.from", "calendar-days.to"]);

function kindOf(table: string, { name, kind }: TableColumn): FieldKind {
  const key = `${table}.${name}`;
  const list = Object.hasOwn(references, key) ? references[key] : undefined;
  const values = Object.hasOwn(closed, key) ? closed[key] : undefined;
  const side = Object.hasOwn(instants, name) ? instants[name] : undefined;
  if (list) return { kind: "reference", list };
  if (values) return { kind: "closed", values };
  if (kind === "pin" || kind === "number" || kind === "flag") return { kind };
  if (kind === "sites" || key === "cardholders.sites") return { kind: "references", list: "sites" };
  if (kind === "list") return { kind: "texts" };
  if (side) return { kind: "instant", side };
  if (name === "timeZone") return { kind: "zone" };
  // The area that a door leads from is called as the beginning of a window is.
  if ((name === "from" || name === "until") && table !== "doors") return { kind: dates.has(key) ? "date" : "moment", side: name };
  if (dates.has(key)) return { kind: "date", side: "from" };
  if (name === "start" || name === "end") return { kind: "clock" };
  if (name === "weekday" && table === "schedule-hours") return { kind: "weekday" };
  if (name === "number") return { kind: "card-number" };
  return { kind: "text" };
}

/** Fields that a source may have and the tables of the documentation have not. */
const sourceFields: Readonly<Record<string, readonly TargetField[]>> = {
  // Several intervals in one cell: each makes a row of hours.
  "schedule-hours": [{ name: "hours", column: undefined, reads: { kind: "hours" } }],
};

const needed: Readonly<Record<string, readonly (readonly string[])[]>> = {
  sites: [["id", "name"], ["timeZone"]],
  areas: [["id", "name"], ["site"]],
  calendars: [["id", "name"]],
  "calendar-days": [["calendar"], ["name"], ["dayType"], ["on", "from", "yearly", "yearlyFrom", "easter", "nth"]],
  schedules: [["id", "name"]],
  "schedule-hours": [["schedule"], ["weekday", "dayType"]],
  doors: [["id", "name"], ["site"]],
  "door-entry": [["door"], ["schedule"], ["entry"]],
  "door-groups": [["id", "name"]],
  "door-group-members": [["doorGroup"], ["door", "group"]],
  levels: [["id", "name"]],
  "level-rows": [["level"], ["door", "doorGroup", "area"], ["schedule"]],
  bundles: [["id", "name"]],
  "bundle-levels": [["bundle"], ["level"]],
  groups: [["id", "name"]],
  memberships: [["group"], ["cardholder"]],
  cardholders: [["id", "name", "staffNumber", "email"], ["status"]],
  requirements: [["cardholder"], ["name"]],
  credentials: [["id", "number", "printedNumber"], ["kind"], ["status"]],
  grants: [
    ["cardholder", "group", "credential"],
    ["level", "bundle", "door", "doorGroup", "area"],
  ],
  events: [["at"], ["door"], ["result"], ["credential", "number"]],
};

const fieldsOf = (table: string, columns: readonly TableColumn[]): ReadonlyMap<string, TargetField> =>
  new Map(
    [
      ...columns.map((column): TargetField => ({ name: column.name, column, reads: kindOf(table, column) })),
      ...(Object.hasOwn(sourceFields, table) ? (sourceFields[table] ?? []) : []),
    ].map((field) => [field.name, field]),
  );

const textColumn = (name: string): TableColumn => ({ name, kind: "text", path: [name] });

/** Fields of an event (`findings.md`, 2.1). */
const eventColumns = ["at", "door", "credential", "number", "facilityCode", "result", "reason", "id"].map(textColumn);

/** Everything that rows of a source may feed, by its name, in the order in which it is put together. */
export const targetTables: ReadonlyMap<string, TargetTable> = new Map(
  [
    { table: facilityTable.file, bundle: undefined, fields: fieldsOf(facilityTable.file, facilityTable.columns), needs: [] },
    ...bundleTables.map((bundle): TargetTable => ({
      table: bundle.file,
      bundle,
      fields: fieldsOf(bundle.file, bundle.columns),
      needs: needed[bundle.file] ?? [],
    })),
    { table: "events", bundle: undefined, fields: fieldsOf("events", eventColumns), needs: needed.events ?? [] },
  ].map((target) => [target.table, target]),
);

/** The table whose rows are the objects of a list themselves. */
export const tableOfList = (list: ListKey): string => bundleTables.find((table) => table.list === list && !table.parts)?.file ?? list;

/** What an object is known by where the profile does not say: the first of these of which its row has all. */
export const usualKeys: Readonly<Partial<Record<ListKey, readonly (readonly string[])[]>>> = {
  cardholders: [["id"], ["staffNumber"], ["email"], ["name"]],
  credentials: [["id"], ["facilityCode", "number"], ["number"], ["printedNumber"]],
};
export const keysOtherwise: readonly (readonly string[])[] = [["id"], ["name"]];
