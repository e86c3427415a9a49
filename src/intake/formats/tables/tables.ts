import type { FacilityDocument, ListKey } from "@/core/facility/document";
import { weekdays } from "@/core/time/civil-day";

/** How a cell is read. `sites` is `everywhere` or a list of ids; a `pin` is read only, and is never quoted or written. */
export type CellKind = "text" | "number" | "flag" | "list" | "sites" | "pin";

export interface TableColumn {
  readonly name: string;
  readonly kind: CellKind;
  /** Keys from the object to the value. */
  readonly path: readonly string[];
}

export type Loose = Record<string, unknown>;

/** A value as text, whatever it is. */
export const asText = (value: unknown): string => (value === undefined ? "" : typeof value === "string" ? value : JSON.stringify(value));

/** Puts a value into an object at the end of a path of keys. */
export function putAt(object: Loose, path: readonly string[], value: unknown): void {
  let at = object;
  for (const key of path.slice(0, -1)) at = (at[key] ??= {}) as Loose;
  at[path[path.length - 1] ?? ""] = value;
}

/**
 * A table of a bundle: a file whose rows are the objects of a list, or parts of them. A part names its object in its first column
 * and is added to it in the order of the file.
 */
export interface BundleTable {
  /** Name of the file without `.csv`. */
  readonly file: string;
  readonly list: ListKey;
  readonly columns: readonly TableColumn[];
  /** For parts of objects: how a read part goes into its object (the place that it takes there), and which parts an object has. */
  readonly parts?: {
    /** The fields of the object that its parts make up. */
    readonly fields: readonly string[];
    readonly add: (object: Loose, part: Loose) => string;
    readonly of: (object: Loose) => Iterable<Loose>;
  };
}

const kindMarks: Readonly<Record<string, CellKind>> = { "#": "number", "?": "flag", "*": "list", "!": "sites", "•": "pin" };

/** Columns from short texts: a mark at the end gives the kind; `name=path.to.it` where the path is not the name. */
const columns = (...texts: readonly string[]): TableColumn[] =>
  texts.map((text) => {
    const mark = kindMarks[text.slice(-1)];
    const [name = "", path = name] = (mark ? text.slice(0, -1) : text).split("=");
    return { name, kind: mark ?? "text", path: path.split(".") };
  });

const authorised = ["authorisedBy=authorised.by", "authorisedAt=authorised.at", "authorisedReference=authorised.reference"];

const plain = (file: string, list: ListKey, ...texts: readonly string[]): BundleTable => ({ file, list, columns: columns(...texts) });

/** Parts that are the objects of a list in their object. */
const listed = (file: string, list: ListKey, owner: string, key: string, ...texts: readonly string[]): BundleTable => ({
  file,
  list,
  columns: columns(owner, ...texts),
  parts: {
    fields: [key],
    add: (object, { [owner]: _owner, ...part }) => {
      const parts = (object[key] ??= []) as Loose[];
      return `${key}[${parts.push(part) - 1}]`;
    },
    of: (object) => (object[key] as Loose[] | undefined) ?? [],
  },
});

/** Parts of which each names one member of one of some lists of ids. */
const members = (file: string, list: ListKey, owner: string, keys: Readonly<Record<string, string>>): BundleTable => ({
  file,
  list,
  columns: columns(owner, ...Object.keys(keys)),
  parts: {
    fields: Object.values(keys),
    add: (object, part) => {
      for (const [column, key] of Object.entries(keys)) {
        if (part[column] === undefined) continue;
        const ids = (object[key] ??= []) as unknown[];
        return `${key}[${ids.push(part[column]) - 1}]`;
      }
      return "";
    },
    *of(object) {
      for (const [column, key] of Object.entries(keys)) for (const id of (object[key] as string[] | undefined) ?? []) yield { [column]: id };
    },
  },
});

const isWeekday = (day: unknown): boolean => (weekdays as readonly unknown[]).includes(day);

/** Rows of a schedule: of a weekday, or of a day type; one without times says that the day is closed. */
const scheduleHours: BundleTable = {
  file: "schedule-hours",
  list: "schedules",
  columns: columns("schedule", "weekday", "dayType", "start", "end"),
  parts: {
    fields: ["week", "holidays"],
    add: (object, { weekday, dayType, start, end }) => {
      const [key, day] = dayType === undefined ? ["week", asText(weekday)] : ["holidays", asText(dayType)];
      const rows = (object[key] ??= {}) as Record<string, unknown[]>;
      const row = (rows[day] ??= []);
      if (start === undefined && end === undefined) return `${key}.${day}`;
      return `${key}.${day}[${row.push([start, end].filter((time) => time !== undefined)) - 1}]`;
    },
    *of(object) {
      for (const [key, column] of [
        ["week", "weekday"],
        ["holidays", "dayType"],
      ] as const)
        for (const [day, row] of Object.entries((object[key] as Record<string, readonly (readonly [string, string])[]> | undefined) ?? {})) {
          if (row.length === 0) yield { [column]: day };
          for (const [start, end] of row) yield { [column]: day, start, end };
        }
    },
  },
};

export const weekdayExpected = (part: Loose): string | undefined =>
  part.dayType === undefined && !isWeekday(part.weekday) ? `a weekday (${weekdays.join(", ")}), or a day type in its column` : undefined;

/** The tables of a bundle, each list before its parts. */
export const bundleTables: readonly BundleTable[] = [
  plain("sites", "sites", "id", "name", "timeZone", "calendar"),
  plain("areas", "areas", "id", "name", "site", "parent", "sensitivity#", "owner", "maxHolders#"),
  plain("calendars", "calendars", "id", "name"),
  listed(
    "calendar-days",
    "calendars",
    "calendar",
    "days",
    "name",
    "dayType",
    "priority#",
    "on",
    "from",
    "to",
    "yearly",
    "yearlyFrom",
    "yearlyTo",
    "easter#",
    "nthMonth=nth.month#",
    "nthWeekday=nth.weekday",
    "nth=nth.n#",
  ),
  plain("schedules", "schedules", "id", "name", "always?", "onHoliday", "from", "until"),
  scheduleHours,
  plain("doors", "doors", "id", "name", "site", "kind", "area", "from", "via", "entry", "unlock", "unlockNeedsFirstIn?", "controller"),
  listed("door-entry", "doors", "door", "entryRows", "schedule", "entry"),
  plain("door-groups", "doorGroups", "id", "name"),
  members("door-group-members", "doorGroups", "doorGroup", { door: "doors", group: "groups" }),
  plain("levels", "levels", "id", "name"),
  listed("level-rows", "levels", "level", "rows", "door", "doorGroup", "area", "schedule", "actions*"),
  plain("bundles", "bundles", "id", "name"),
  members("bundle-levels", "bundles", "bundle", { level: "levels" }),
  plain("groups", "groups", "id", "name", "kind", "parent", "manager"),
  plain("memberships", "memberships", "group", "cardholder", "from", "until", ...authorised),
  plain(
    "cardholders",
    "cardholders",
    ...[
      "id",
      "name",
      "status",
      "statusSince",
      "type",
      "email",
      "staffNumber",
      "department",
      "manager",
      "sites*",
      "from",
      "until",
      "calendar",
      "hours",
      "override!",
      "company",
      "sponsor",
    ],
    ...["lockdownPass?", "pinExempt?", "firstIn?", "extraTime?", "holdOpen?", "passbackExempt?"],
  ),
  listed("requirements", "cardholders", "cardholder", "requirements", "name", "until"),
  plain(
    "credentials",
    "credentials",
    ...[
      "id",
      "cardholder",
      "kind",
      "status",
      "statusSince",
      ...authorised,
      "number",
      "facilityCode",
      "bitFormat",
      "issue",
      "printedNumber",
      "hasPin?",
      "pin•",
      "pinTag",
      "duressPin?",
      "temporary?",
    ],
    ...["from", "until", "expiryAfter=expiry.after", "expiryDays=expiry.days#", "firstUse", "lastUse", "issuedAt"],
  ),
  plain(
    "grants",
    "grants",
    ...[
      "id",
      ...authorised,
      "cardholder=to.cardholder",
      "group=to.group",
      "credential=to.credential",
      "level=open.level",
      "bundle=open.bundle",
      "door=open.door",
      "doorGroup=open.doorGroup",
      "area=open.area",
    ],
    ...["schedule", "effect", "from", "until", "inLockdown?", "note"],
  ),
];

/** The file that says what the whole is: one row. */
export const facilityTable = { file: "facility", columns: columns("name", "timeZone", "asOf") } as const;

export type FacilityHead = Pick<FacilityDocument, "name" | "timeZone" | "asOf">;

/** What the source states of its tables, so that it can be seen that nothing was lost: rows without the header, and the SHA-256 of the file. */
export const totalsTable = { file: "totals", columns: columns("table", "rows#", "sha256") } as const;
