import { parseInstant, parseMoment } from "@/core/time/instant";

/**
 * A quick look at the four lists that grow with the number of people. It passes only what the schema certainly accepts;
 * whatever it does not pass goes to the schema, which alone says what is wrong. A test holds the two against each other.
 */

type Check = (value: unknown) => boolean;
interface Key {
  readonly check: Check;
  readonly required: boolean;
}

const textsKept = 200_000;

/** A check of texts that remembers which it accepted: dates and instants come again and again. */
function remembered(accepts: (text: string) => boolean): Check {
  const accepted = new Set<string>();
  return (value) => {
    if (typeof value !== "string") return false;
    if (accepted.has(value)) return true;
    if (!accepts(value)) return false;
    if (accepted.size < textsKept) accepted.add(value);
    return true;
  };
}

const isText: Check = (value) => typeof value === "string";
// At most 128 UTF-16 units are at most 128 characters.
const isId: Check = (value) => typeof value === "string" && value.length > 0 && value.length <= 128;
const isFlag: Check = (value) => typeof value === "boolean";
const isInstant = remembered((text) => parseInstant(text) !== undefined);
const isMoment = remembered((text) => parseMoment(text) !== undefined);
const oneOf = (...texts: readonly string[]): Check => {
  const known = new Set<unknown>(texts);
  return (value) => known.has(value);
};
const isList =
  (check: Check): Check =>
  (value) =>
    Array.isArray(value) && (value as unknown[]).every(check);
const isWhole =
  (from: number): Check =>
  (value) =>
    Number.isSafeInteger(value) && (value as number) >= from;

const required = (check: Check): Key => ({ check, required: true });
const optional = (check: Check): Key => ({ check, required: false });

/** An object with just these keys, every required one there. */
function isObject(keys: Readonly<Record<string, Key>>, more: (object: Readonly<Record<string, unknown>>) => boolean = () => true): Check {
  const known = new Map(Object.entries(keys));
  const needed = [...known.values()].filter((key) => key.required).length;
  return (value) => {
    if (typeof value !== "object" || value === null || Array.isArray(value)) return false;
    const object = value as Readonly<Record<string, unknown>>;
    let found = 0;
    for (const name of Object.keys(object)) {
      const key = known.get(name);
      if (!key?.check(object[name])) return false;
      if (key.required) found++;
    }
    return found === needed && more(object);
  };
}

const hasOneKey = (object: Readonly<Record<string, unknown>>): boolean => Object.keys(object).length === 1;

const authorised = optional(isObject({ by: optional(isText), at: optional(isInstant), reference: optional(isText) }));
const window = { from: optional(isMoment), until: optional(isMoment) };
const named = { id: required(isId), name: required(isText) };

const isMembership = isObject({ group: required(isId), cardholder: required(isId), ...window, authorised });

const isCardholder = isObject({
  ...named,
  status: required(oneOf("active", "suspended", "left")),
  statusSince: optional(isInstant),
  type: optional(oneOf("employee", "contractor", "visitor", "tenant", "other")),
  email: optional(isText),
  staffNumber: optional(isText),
  department: optional(isId),
  manager: optional(isId),
  sites: optional(isList(isId)),
  ...window,
  calendar: optional(isId),
  hours: optional(isId),
  override: optional((value) => value === true || isList(isId)(value)),
  company: optional(isText),
  sponsor: optional(isId),
  requirements: optional(isList(isObject({ name: required(isText), until: optional(isMoment) }))),
  lockdownPass: optional(isFlag),
  pinExempt: optional(isFlag),
  firstIn: optional(isFlag),
  extraTime: optional(isFlag),
  holdOpen: optional(isFlag),
  passbackExempt: optional(isFlag),
});

const isCredential = isObject({
  id: required(isId),
  cardholder: optional(isId),
  kind: required(oneOf("card", "fob", "mobile", "biometric", "remote", "pin")),
  status: required(oneOf("active", "suspended", "lost", "stock", "returned")),
  statusSince: optional(isInstant),
  authorised,
  number: optional(isText),
  facilityCode: optional(isText),
  bitFormat: optional(isText),
  issue: optional(isText),
  printedNumber: optional(isText),
  hasPin: optional(isFlag),
  pinTag: optional(isText),
  duressPin: optional(isFlag),
  temporary: optional(isFlag),
  ...window,
  expiry: optional(isObject({ after: required(oneOf("first-use", "last-use")), days: required(isWhole(1)) })),
  firstUse: optional(isInstant),
  lastUse: optional(isInstant),
  issuedAt: optional(isInstant),
});

const target = { level: optional(isId), bundle: optional(isId), door: optional(isId), doorGroup: optional(isId), area: optional(isId) };

const isGrant = isObject(
  {
    id: required(isId),
    authorised,
    to: required(isObject({ cardholder: optional(isId), group: optional(isId), credential: optional(isId) }, hasOneKey)),
    open: required(isObject(target, hasOneKey)),
    schedule: optional(isId),
    effect: optional(oneOf("allow", "block")),
    ...window,
    inLockdown: optional(isFlag),
    note: optional(isText),
  },
  ({ schedule, effect, open }) =>
    schedule !== undefined || effect === "block" || Object.hasOwn(open as object, "level") || Object.hasOwn(open as object, "bundle"),
);

const checks = { memberships: isMembership, cardholders: isCardholder, credentials: isCredential, grants: isGrant } as const;

/** The document without those of the large lists that are plainly in order: what is left for the schema to look at. */
export function withoutPlainLists(document: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> {
  const rest: Record<string, unknown> = { ...document };
  for (const [key, check] of Object.entries(checks)) if (Array.isArray(rest[key]) && (rest[key] as unknown[]).every(check)) delete rest[key];
  return rest;
}
