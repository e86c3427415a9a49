import Joi from "joi";
import { parseCivilDay, parseClock, parseMonthDay, weekdays } from "@/core/time/civil-day";
import { parseInstant, parseMoment } from "@/core/time/instant";
import { isZoneName } from "@/core/time/zone";

/** The one definition of a well-formed `nomade.facility/1`; references and loops are the core's to check. */

/** A text that says something. What a schema allows by name, as an empty text, it does not look at any further: so nothing is allowed by name here. */
const read = (accepts: (text: string) => boolean, expected: string) =>
  Joi.any().custom((value: unknown, helpers) => {
    if (typeof value !== "string") return helpers.error("string.base");
    return accepts(value) ? value : helpers.error("nomade.expected", { expected });
  });

const text = Joi.string().allow("");
const id = read((value) => value.length > 0 && [...value].length <= 128, "an id: a text of 1 to 128 characters");
const date = read((value) => parseCivilDay(value) !== undefined, "a date YYYY-MM-DD that exists");
const instant = read((value) => parseInstant(value) !== undefined, "an instant such as 2026-03-02T08:00:00Z (RFC 3339, with an offset or Z)");
const moment = read((value) => parseMoment(value) !== undefined, "a date YYYY-MM-DD that exists, or an instant such as 2026-03-02T08:00:00Z");
const monthDay = read((value) => parseMonthDay(value) !== undefined, "a day of the year MM-DD that exists");
const zone = read(isZoneName, "a zone of the IANA database such as Europe/Paris");
const flag = Joi.boolean();
const ids = Joi.array().items(id);
const entry = Joi.valid("card", "card+pin", "pin", "card-or-pin");

const clockRange = Joi.array().ordered(
  read((value) => parseClock(value, false) !== undefined, "a start from 00:00 to 23:59").required(),
  read((value) => parseClock(value, true) !== undefined, "an end from 00:00 to 24:00").required(),
);
const row = Joi.array().items(clockRange);

const authorised = Joi.object({ by: text, at: instant, reference: text });

const day = Joi.object({
  name: text.required(),
  dayType: Joi.string().required(),
  priority: Joi.number().integer(),
  on: date,
  from: date,
  to: date,
  yearly: monthDay,
  yearlyFrom: monthDay,
  yearlyTo: monthDay,
  easter: Joi.number().integer(),
  nth: Joi.object({
    month: Joi.number().integer().min(1).max(12).required(),
    weekday: Joi.valid(...weekdays).required(),
    n: Joi.valid(1, 2, 3, 4, 5, -1).required(),
  }),
})
  .xor("on", "from", "yearly", "yearlyFrom", "easter", "nth")
  .and("from", "to")
  .and("yearlyFrom", "yearlyTo");

const weekly = { is: Joi.exist(), then: Joi.forbidden() };
/** What a schedule says, but for its id and name. */
export const scheduleKeys = {
  always: Joi.valid(true),
  week: Joi.when("always", {
    ...weekly,
    otherwise: Joi.object(Object.fromEntries(weekdays.map((weekday) => [weekday, row]))).required(),
  }),
  holidays: Joi.when("always", { ...weekly, otherwise: Joi.object().pattern(Joi.string(), row) }),
  onHoliday: Joi.when("always", { ...weekly, otherwise: Joi.valid("closed", "weekday") }),
  from: Joi.when("always", { ...weekly, otherwise: date }),
  until: Joi.when("always", { ...weekly, otherwise: date }),
};
const schedule = Joi.object({ id: id.required(), name: text.required(), ...scheduleKeys });

const grant = Joi.object({
  id: id.required(),
  authorised,
  to: Joi.object({ cardholder: id, group: id, credential: id }).xor("cardholder", "group", "credential").required(),
  open: Joi.object({ level: id, bundle: id, door: id, doorGroup: id, area: id }).xor("level", "bundle", "door", "doorGroup", "area").required(),
  schedule: id,
  effect: Joi.valid("allow", "block"),
  from: moment,
  until: moment,
  inLockdown: flag,
  note: text,
}).custom((value: { open?: object; schedule?: string; effect?: string }, helpers) => {
  const straight = Object.keys(value.open ?? {}).some((key) => key === "door" || key === "doorGroup" || key === "area");
  return straight && value.effect !== "block" && value.schedule === undefined
    ? helpers.error("nomade.missing", { missingKey: "schedule", expected: "a schedule, as the grant allows a door, door group or area directly" })
    : value;
});

const list = (object: Joi.ObjectSchema) => Joi.array().items(object);
const named = { id: id.required(), name: text.required() };

export const facilitySchema = Joi.object({
  format: Joi.valid("nomade.facility/1").required(),
  name: text.required(),
  timeZone: zone.required(),
  asOf: instant.required(),
  sites: list(Joi.object({ ...named, timeZone: zone.required(), calendar: id })),
  areas: list(
    Joi.object({
      ...named,
      site: id.required(),
      parent: id,
      sensitivity: Joi.valid(0, 1, 2, 3),
      owner: id,
      maxHolders: Joi.number().integer().min(0),
    }),
  ),
  calendars: list(Joi.object({ ...named, days: Joi.array().items(day) })),
  schedules: list(schedule),
  doors: list(
    Joi.object({
      ...named,
      site: id.required(),
      kind: Joi.valid("door", "gate", "turnstile", "lift", "floor", "cabinet"),
      area: id,
      from: id,
      via: id,
      entry,
      entryRows: Joi.array().items(Joi.object({ schedule: id.required(), entry: entry.required() })),
      unlock: id,
      unlockNeedsFirstIn: flag,
      controller: text,
    }),
  ),
  doorGroups: list(Joi.object({ ...named, doors: ids, groups: ids })),
  levels: list(
    Joi.object({
      ...named,
      rows: Joi.array().items(
        Joi.object({ door: id, doorGroup: id, area: id, schedule: id.required(), actions: Joi.array().items(text) }).xor("door", "doorGroup", "area"),
      ),
    }),
  ),
  bundles: list(Joi.object({ ...named, levels: ids })),
  groups: list(Joi.object({ ...named, kind: Joi.valid("group", "department"), parent: id, manager: id })),
  memberships: list(Joi.object({ group: id.required(), cardholder: id.required(), from: moment, until: moment, authorised })),
  cardholders: list(
    Joi.object({
      ...named,
      status: Joi.valid("active", "suspended", "left").required(),
      statusSince: instant,
      type: Joi.valid("employee", "contractor", "visitor", "tenant", "other"),
      email: text,
      staffNumber: text,
      department: id,
      manager: id,
      sites: ids,
      from: moment,
      until: moment,
      calendar: id,
      hours: id,
      override: Joi.alternatives().conditional(Joi.array(), { then: ids, otherwise: Joi.valid(true) }),
      company: text,
      sponsor: id,
      requirements: Joi.array().items(Joi.object({ name: text.required(), until: moment })),
      lockdownPass: flag,
      pinExempt: flag,
      firstIn: flag,
      extraTime: flag,
      holdOpen: flag,
      passbackExempt: flag,
    }),
  ),
  credentials: list(
    Joi.object({
      id: id.required(),
      cardholder: id,
      kind: Joi.valid("card", "fob", "mobile", "biometric", "remote", "pin").required(),
      status: Joi.valid("active", "suspended", "lost", "stock", "returned").required(),
      statusSince: instant,
      authorised,
      number: text,
      facilityCode: text,
      bitFormat: text,
      issue: text,
      printedNumber: text,
      hasPin: flag,
      pinTag: text,
      duressPin: flag,
      temporary: flag,
      from: moment,
      until: moment,
      expiry: Joi.object({
        after: Joi.valid("first-use", "last-use").required(),
        days: Joi.number().integer().min(1).required(),
      }),
      firstUse: instant,
      lastUse: instant,
      issuedAt: instant,
    }),
  ),
  grants: list(grant),
});
