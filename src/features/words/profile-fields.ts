import { groupBy } from "@/core/kernel/compare";
import { listWords } from "./kinds";

/** What rows of a source can make, as people call it: the tables of the documentation. */
export const madeWords: Readonly<Record<string, string>> = {
  facility: "The register as a whole",
  sites: "Site",
  areas: "Area",
  calendars: "Calendar",
  "calendar-days": "Day of a calendar",
  schedules: "Schedule",
  "schedule-hours": "Hours of a schedule",
  doors: "Door",
  "door-entry": "How a door is passed",
  "door-groups": "Door group",
  "door-group-members": "Door in a door group",
  levels: "Access level",
  "level-rows": "Door of an access level",
  bundles: "Bundle of levels",
  "bundle-levels": "Level in a bundle",
  groups: "Group",
  memberships: "Membership",
  cardholders: "Person",
  requirements: "Requirement of a person",
  credentials: "Card",
  grants: "Grant",
  events: "Event",
};

const own: Readonly<Record<string, string>> = {
  id: "id",
  timeZone: "time zone",
  dayType: "day type",
  asOf: "as of",
  at: "date and time",
  staffNumber: "staff number",
  statusSince: "status since",
  facilityCode: "facility code",
  printedNumber: "printed number",
  bitFormat: "bit format",
  hasPin: "has a PIN",
  pin: "PIN",
  pinTag: "tag of the PIN",
  duressPin: "has a duress PIN",
  expiryAfter: "expires after",
  expiryDays: "days until it expires",
  firstUse: "first use",
  lastUse: "last use",
  issuedAt: "issued",
  authorisedBy: "authorised by",
  authorisedAt: "authorised at",
  authorisedReference: "reference of the authorisation",
  doorGroup: "door group",
  onHoliday: "on holidays",
  maxHolders: "most holders",
  unlockNeedsFirstIn: "unlocks with the first in",
  inLockdown: "holds in a lockdown",
  lockdownPass: "passes in a lockdown",
  pinExempt: "needs no PIN",
  firstIn: "starts the day’s unlocking",
  extraTime: "longer opening time",
  holdOpen: "may hold doors open",
  passbackExempt: "exempt from passback",
  until: "ends",
  from: "begins",
  nthMonth: "month of the nth weekday",
  nthWeekday: "weekday of the month",
  yearlyFrom: "yearly from",
  yearlyTo: "yearly to",
};

/** A field as people call it; the area that a door leads from is called as the beginning of a window is. */
export const fieldName = (table: string, field: string): string =>
  table === "doors" && field === "from" ? "leads from area" : Object.hasOwn(own, field) ? (own[field] ?? field) : field;

/** The forms of moments, by how one looks. */
export const momentFormWords: Readonly<Record<string, string>> = {
  iso: "2026-12-31 18:00, year first",
  dmy: "31.12.2026 18:00, day first",
  mdy: "12/31/2026 6:00 PM, month first",
  ymd: "2026/12/31 18:00, year first",
  compact: "20261231T1800, without signs",
  "epoch-seconds": "seconds since 1970",
  "epoch-milliseconds": "milliseconds since 1970",
  "serial-1900": "days since 1900, as spreadsheets count",
  "serial-1904": "days since 1904, as spreadsheets count",
};

const namesShown = 12;

/** What was made of names, list by list. */
export const madeFromNamesWords = (made: readonly { readonly list: string; readonly name: string }[]): string =>
  [...groupBy(made, ({ list }) => list)]
    .map(([list, objects]) => {
      const names = objects.slice(0, namesShown).map(({ name }) => name);
      return `${listWords[list] ?? list}: ${names.join(", ")}${objects.length > namesShown ? ` and ${objects.length - namesShown} more` : ""}`;
    })
    .join("; ");
