import type { ListKey } from "@/core/facility/document";
import type { RegisterKind } from "@/core/register/kinds";

/** What the fields of objects are called, and how each is filled in. */
export type Field = {
  readonly key: string;
  readonly label: string;
  readonly hint?: string;
  readonly required?: true;
} & (
  | { readonly as: "text" | "moment" | "date" | "instant" | "number" | "flag" | "zone" }
  | { readonly as: "choice"; readonly choices: readonly (readonly [value: string, words: string])[] }
  | { readonly as: "reference" | "references"; readonly kind: RegisterKind; readonly hint?: string }
  /** Drawn by an editor of its own. */
  | { readonly as: "own" }
);

const text = (key: string, label: string, hint?: string): Field => ({ key, label, as: "text", ...(hint !== undefined && { hint }) });
const needed = (field: Field): Field => ({ ...field, required: true });
const one = (key: string, label: string, kind: RegisterKind, hint?: string): Field => ({
  key,
  label,
  as: "reference",
  kind,
  ...(hint !== undefined && { hint }),
});
const many = (key: string, label: string, kind: RegisterKind, hint?: string): Field => ({
  key,
  label,
  as: "references",
  kind,
  ...(hint !== undefined && { hint }),
});
const flag = (key: string, label: string): Field => ({ key, label, as: "flag" });
const moment = (key: string, label: string): Field => ({ key, label, as: "moment" });
const choice = (key: string, label: string, ...choices: readonly (readonly [string, string])[]): Field => ({ key, label, as: "choice", choices });
const same = (...values: readonly string[]): (readonly [string, string])[] => values.map((value) => [value, value]);
const name = needed(text("name", "Name"));

export const fieldsOf: Readonly<Record<ListKey, readonly Field[]>> = {
  cardholders: [
    name,
    text("staffNumber", "Staff number"),
    text("email", "Mail"),
    choice("type", "Type", ...same("employee", "contractor", "visitor", "tenant", "other")),
    needed(choice("status", "Status", ...same("active", "suspended", "left"))),
    { key: "statusSince", label: "Status since", as: "instant", hint: "an instant; without one, always" },
    one("department", "Department", "group"),
    one("manager", "Manager", "cardholder"),
    moment("from", "From"),
    moment("until", "Until"),
    many("sites", "Known at these sites only", "site", "none chosen: at every site"),
    one("hours", "Own hours", "schedule", "limits everything else"),
    one("calendar", "Own calendar", "calendar"),
    text("company", "Company"),
    one("sponsor", "Sponsor", "cardholder"),
    { key: "override", label: "Passes at any time", as: "own" },
    flag("lockdownPass", "Passes in a lockdown"),
    flag("pinExempt", "Needs no PIN"),
    flag("firstIn", "Starts the day’s unlocking"),
    flag("extraTime", "Longer opening time"),
    flag("holdOpen", "May hold a door open"),
    flag("passbackExempt", "Exempt from passback"),
    { key: "requirements", label: "Requirements", as: "own" },
  ],
  credentials: [
    needed(choice("kind", "Kind", ...same("card", "fob", "mobile", "biometric", "remote", "pin"))),
    needed(choice("status", "Status", ...same("active", "suspended", "lost", "stock", "returned"))),
    one("cardholder", "Cardholder", "cardholder"),
    text("facilityCode", "Facility code"),
    text("number", "Number"),
    text("printedNumber", "Printed number"),
    text("bitFormat", "Format"),
    text("issue", "Issue"),
    moment("from", "From"),
    moment("until", "Until"),
    { key: "statusSince", label: "Status since", as: "instant" },
    { key: "issuedAt", label: "Handed out", as: "instant" },
    { key: "expiry", label: "Ends by its use", as: "own" },
    flag("hasPin", "Has a PIN"),
    flag("duressPin", "Has a duress PIN"),
    flag("temporary", "Temporary"),
  ],
  groups: [
    name,
    choice("kind", "Kind", ["group", "group"], ["department", "department"]),
    one("parent", "Below", "group"),
    one("manager", "Manager", "cardholder"),
  ],
  memberships: [
    needed(one("group", "Group", "group")),
    needed(one("cardholder", "Cardholder", "cardholder")),
    moment("from", "From"),
    moment("until", "Until"),
  ],
  levels: [name, { key: "rows", label: "Doors and schedules", as: "own" }],
  bundles: [name, many("levels", "Levels", "level")],
  doorGroups: [name, many("doors", "Doors", "door"), many("groups", "Door groups in it", "doorGroup")],
  schedules: [name, { key: "week", label: "Hours", as: "own" }],
  calendars: [name, { key: "days", label: "Entries", as: "own" }],
  grants: [
    { key: "to", label: "Given to", as: "own" },
    choice("effect", "Effect", ["allow", "opens"], ["block", "blocks"]),
    { key: "open", label: "What", as: "own" },
    one("schedule", "Schedule", "schedule", "needed for a door, door group or area; else it narrows"),
    moment("from", "From"),
    moment("until", "Until"),
    flag("inLockdown", "Counts in a lockdown"),
    text("note", "Note"),
  ],
  areas: [
    name,
    needed(one("site", "Site", "site")),
    one("parent", "Inside", "area"),
    choice("sensitivity", "Sensitivity", ["0", "0, open ground"], ["1", "1"], ["2", "2, sensitive"], ["3", "3, most sensitive"]),
    one("owner", "Owner", "cardholder"),
    { key: "maxHolders", label: "At most so many people", as: "number" },
  ],
  doors: [
    name,
    needed(one("site", "Site", "site")),
    choice("kind", "Kind", ...same("door", "gate", "turnstile", "lift", "floor", "cabinet")),
    one("area", "Leads into", "area"),
    one("from", "Leads out of", "area"),
    one("via", "Behind", "door", "must open for the same card at that moment"),
    choice("entry", "Entry", ["card", "card"], ["card+pin", "card and PIN"], ["pin", "PIN"], ["card-or-pin", "card or PIN"]),
    one("unlock", "Unlocked for everybody by", "schedule"),
    flag("unlockNeedsFirstIn", "Only after somebody came in first"),
    text("controller", "Controller"),
  ],
  sites: [name, needed({ key: "timeZone", label: "Time zone", as: "zone" }), one("calendar", "Calendar", "calendar")],
};

const otherLabels: Readonly<Record<string, string>> = {
  holidays: "On day types",
  onHoliday: "On other day types",
  always: "At all hours",
  entryRows: "Entry by schedule",
  "": "The whole of it",
  authorised: "Authorised",
  firstUse: "First use",
  lastUse: "Last use",
  pinTag: "PIN",
  id: "Id",
};

/** What a field is called. */
export const fieldLabel = (list: ListKey, key: string): string => fieldsOf[list].find((field) => field.key === key)?.label ?? otherLabels[key] ?? key;

/** What a new object begins with. */
export const beginnings: Readonly<Partial<Record<ListKey, Readonly<Record<string, unknown>>>>> = {
  cardholders: { status: "active" },
  credentials: { kind: "card", status: "active" },
  schedules: { week: {} },
  grants: { to: {}, open: {} },
};

/** What an object of each list is called, and many of them. */
export const listNames: Readonly<Record<ListKey, readonly [one: string, many: string]>> = {
  cardholders: ["cardholder", "cardholders"],
  credentials: ["credential", "credentials"],
  groups: ["group", "departments and groups"],
  memberships: ["membership", "memberships"],
  levels: ["level", "levels"],
  bundles: ["bundle", "bundles"],
  doorGroups: ["door group", "door groups"],
  schedules: ["schedule", "schedules"],
  calendars: ["calendar", "calendars"],
  grants: ["grant", "grants and blocks"],
  areas: ["area", "areas"],
  doors: ["door", "doors"],
  sites: ["site", "sites"],
};
