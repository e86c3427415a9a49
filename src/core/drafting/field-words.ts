import type { DocumentDay, ClockRange, GrantReceiver, GrantTarget, LevelRow, ListKey } from "../facility/document";
import { references } from "../facility/references";
import { weekdays } from "../time/civil-day";

/** What an object of a list is called. */
export type NameOf = (list: ListKey, id: string) => string;

const dayNames: Readonly<Record<string, string>> = { mon: "Mon", tue: "Tue", wed: "Wed", thu: "Thu", fri: "Fri", sat: "Sat", sun: "Sun" };

/** The list that a field, or each element of it, names an object of; undefined where it names none. */
const referred = (list: ListKey, field: string): ListKey | undefined =>
  references.find(({ from, path }) => from === list && path[0] === field && (path.length === 1 || (path.length === 2 && path[1] === "*")))?.to;

export const rangesWords = (ranges: readonly ClockRange[]): string =>
  ranges.length === 0 ? "closed" : ranges.map(([start, end]) => `${start}–${end}`).join(", ");

/** When an entry of a calendar comes: "every 05-01", "2 days before Easter". */
export function ruleWords(day: DocumentDay): string {
  if (day.on !== undefined) return day.on;
  if (day.from !== undefined) return `${day.from} to ${day.to}`;
  if (day.yearly !== undefined) return `every ${day.yearly}`;
  if (day.yearlyFrom !== undefined) return `every ${day.yearlyFrom} to ${day.yearlyTo}`;
  if (day.easter !== undefined)
    return day.easter === 0
      ? "Easter Sunday"
      : `${Math.abs(day.easter)} ${Math.abs(day.easter) === 1 ? "day" : "days"} ${day.easter < 0 ? "before" : "after"} Easter`;
  return `${day.nth.n === -1 ? "last" : `${day.nth.n}.`} ${dayNames[day.nth.weekday] ?? ""} of month ${day.nth.month}`;
}

function levelRowWords(row: LevelRow, name: NameOf): string {
  const place = row.door !== undefined ? name("doors", row.door) : row.doorGroup !== undefined ? name("doorGroups", row.doorGroup) : name("areas", row.area);
  return `${place}: ${name("schedules", row.schedule)}`;
}

function sideWords(side: GrantReceiver | GrantTarget, name: NameOf): string[] {
  const lists = {
    cardholder: "cardholders",
    group: "groups",
    credential: "credentials",
    level: "levels",
    bundle: "bundles",
    door: "doors",
    doorGroup: "doorGroups",
    area: "areas",
  } as const;
  return Object.entries(side).map(([kind, id]: [string, string]) => name(lists[kind as keyof typeof lists], id));
}

/** A value of a field as short texts, one for each of its parts, so that two values can be told apart part by part. */
export function partsOf(list: ListKey, field: string, value: unknown, name: NameOf): string[] {
  if (value === undefined || value === null) return [];
  if (typeof value === "boolean") return [value ? "yes" : "no"];
  const to = referred(list, field);
  if (typeof value === "string") return [to === undefined ? value : name(to, value)];
  if (typeof value === "number") return [String(value)];
  if (list === "levels" && field === "rows") return (value as LevelRow[]).map((row) => levelRowWords(row, name));
  if (list === "calendars" && field === "days")
    return (value as DocumentDay[]).map(
      (day) => `${day.name} (${day.dayType}${day.priority === undefined ? "" : `, priority ${day.priority}`}): ${ruleWords(day)}`,
    );
  if (list === "grants" && (field === "to" || field === "open")) return sideWords(value as GrantReceiver | GrantTarget, name);
  if (list === "schedules" && field === "week")
    return weekdays.flatMap((day) => {
      const ranges = (value as Record<string, readonly ClockRange[]>)[day];
      return ranges ? [`${dayNames[day] ?? day} ${rangesWords(ranges)}`] : [];
    });
  if (list === "schedules" && field === "holidays")
    return Object.entries(value as Record<string, readonly ClockRange[]>).map(([type, ranges]) => `${type} ${rangesWords(ranges)}`);
  if (Array.isArray(value))
    return value.length === 0
      ? ["none at all"]
      : (value as unknown[]).map((part) => (typeof part === "string" ? (to === undefined ? part : name(to, part)) : objectWords(part as object)));
  return [objectWords(value)];
}

const objectWords = (value: object): string =>
  Object.entries(value)
    .map(([key, part]) => `${key} ${typeof part === "string" ? part : JSON.stringify(part)}`)
    .join(", ");

/** What two values of a field differ in: the parts that only the one has, and those that only the other has. */
export function differingParts(
  list: ListKey,
  field: string,
  before: unknown,
  after: unknown,
  name: NameOf,
): { readonly gone: readonly string[]; readonly come: readonly string[] } {
  const [was, is] = [partsOf(list, field, before, name), partsOf(list, field, after, name)];
  const gone = was.filter((part) => !is.includes(part));
  const come = is.filter((part) => !was.includes(part));
  // The same parts in another order, or one of them twice: then the whole is told.
  return gone.length === 0 && come.length === 0 ? { gone: was, come: is } : { gone, come };
}
