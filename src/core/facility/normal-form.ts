import { byText, compareCodePoints } from "../kernel/compare";
import { formatInstant, parseInstant } from "../time/instant";
import { canonicalJson } from "./canonical-json";
import type { ClockRange, Membership } from "./document";
import { listKeys } from "./document";
import type { Facility } from "./facility";
import { withAllLists } from "./facility";
import { clockIntervalOf } from "./time-rules";

type Loose = Record<string, unknown>;

/** Keys whose value is an instant wherever they stand; windows too, if theirs is one and not a date. */
const instantKeys = new Set(["statusSince", "firstUse", "lastUse", "issuedAt", "at", "asOf", "from", "until"]);

/** Values that mean the same as leaving the key out, by list. */
const defaults: Readonly<Record<string, Readonly<Record<string, unknown>>>> = {
  areas: { sensitivity: 0 },
  doors: { kind: "door", entry: "card", unlockNeedsFirstIn: false },
  groups: { kind: "group" },
  schedules: { onHoliday: "closed" },
  cardholders: {
    lockdownPass: false,
    pinExempt: false,
    firstIn: false,
    extraTime: false,
    holdOpen: false,
    passbackExempt: false,
  },
  credentials: { hasPin: false, duressPin: false, temporary: false },
  grants: { effect: "allow", inLockdown: false },
};

/** Lists of ids that are sets: sorted and without repetition. */
const idSets: Readonly<Record<string, readonly string[]>> = {
  doorGroups: ["doors", "groups"],
  bundles: ["levels"],
  cardholders: ["sites", "override"],
};

/** Empty lists and objects that say the same as none. A cardholder's `sites: []` and `override: []` are not among them. */
const emptyMeansMissing: Readonly<Record<string, readonly string[]>> = {
  calendars: ["days"],
  doors: ["entryRows"],
  doorGroups: ["doors", "groups"],
  levels: ["rows"],
  bundles: ["levels"],
  schedules: ["holidays"],
  cardholders: ["requirements"],
  memberships: ["authorised"],
  credentials: ["authorised"],
  grants: ["authorised"],
};

const isEmpty = (value: unknown): boolean => typeof value === "object" && value !== null && Object.keys(value).length === 0;

const asInstant = (text: string): string => {
  const instant = parseInstant(text);
  return instant ? formatInstant(instant) : text;
};

/** Instants inside a value written in the normal way; other texts as they are. */
function withNormalInstants(value: unknown, key: string): unknown {
  if (typeof value === "string") return instantKeys.has(key) ? asInstant(value) : value;
  if (Array.isArray(value)) return (value as unknown[]).map((element) => withNormalInstants(element, ""));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, withNormalInstants(v, k)]));
}

const sortedRow = (row: readonly ClockRange[]): readonly ClockRange[] =>
  [...row].sort((a, b) => {
    const [x, y] = [clockIntervalOf(a), clockIntervalOf(b)];
    return x[0] - y[0] || x[1] - y[1];
  });

function normalSchedule(schedule: Loose): Loose {
  if (schedule.always === true) return schedule;
  const week = (schedule.week ?? {}) as Record<string, readonly ClockRange[]>;
  const holidays = schedule.holidays as Record<string, readonly ClockRange[]> | undefined;
  return {
    ...schedule,
    // An empty weekday means what a missing one does; an empty row of `holidays` does not.
    week: Object.fromEntries(Object.entries(week).flatMap(([day, row]) => (row.length === 0 ? [] : [[day, sortedRow(row)]]))),
    ...(holidays && { holidays: Object.fromEntries(Object.entries(holidays).map(([type, row]) => [type, sortedRow(row)])) }),
  };
}

/** One object of a list as it stands in the normal form; `list` is the key of its list. */
export function normalObject(object: Loose, list: string): Loose {
  // A door's `from` is an area and no moment; doors hold no instants.
  let normal = list === "doors" ? { ...object } : (withNormalInstants(object, "") as Loose);
  if (list === "schedules") normal = normalSchedule(normal);
  if (list === "calendars" && Array.isArray(normal.days))
    normal.days = (normal.days as Loose[]).map(({ priority, ...day }) => (priority === 0 ? day : { ...day, priority }));
  if (list === "levels" && Array.isArray(normal.rows))
    normal.rows = (normal.rows as Loose[]).map(({ actions, ...row }) =>
      isEmpty(actions ?? []) ? row : { ...row, actions },
    );
  for (const key of idSets[list] ?? []) {
    const ids = normal[key];
    if (Array.isArray(ids)) normal[key] = sortedSet(ids as string[]);
  }
  const kept = Object.entries(normal).filter(
    ([key, value]) => value !== undefined && defaults[list]?.[key] !== value && !(emptyMeansMissing[list]?.includes(key) && isEmpty(value)),
  );
  return Object.fromEntries(kept);
}

const sortedSet = (texts: readonly string[]): string[] => [...new Set(texts)].sort(compareCodePoints);

function compareMemberships(a: Membership, b: Membership): number {
  return (
    compareCodePoints(a.group, b.group) ||
    compareCodePoints(a.cardholder, b.cardholder) ||
    compareCodePoints(a.from ?? "", b.from ?? "") ||
    compareCodePoints(a.until ?? "", b.until ?? "") ||
    compareCodePoints(canonicalJson(a.authorised ?? {}), canonicalJson(b.authorised ?? {}))
  );
}

/** The document in the form that is hashed, frozen, exported and compared: every list there, in order, without defaults. */
export function normalFacility(facility: Facility): Facility {
  const lists: Loose = {};
  for (const list of listKeys) {
    const objects = facility[list].map((object) => normalObject(object as unknown as Loose, list));
    lists[list] =
      list === "memberships"
        ? (objects as unknown as Membership[]).sort(compareMemberships)
        : (objects as unknown as { id: string }[]).sort(byText(({ id }) => id));
  }
  return withAllLists({ ...facility, ...lists, asOf: asInstant(facility.asOf) });
}

/** The normal form as text, empty lists left out; its UTF-8 bytes are what is hashed. */
export function normalText(normal: Facility): string {
  const kept = Object.entries(normal).filter(([, value]) => !(Array.isArray(value) && value.length === 0));
  return canonicalJson(Object.fromEntries(kept));
}
