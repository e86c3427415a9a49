import Joi from "joi";
import type { Presented } from "@/core/units/decide-at-unit";
import type { UnitChanges } from "@/core/units/unit-protocol";

/** What may be sent to a stand-in controller; everything else is refused by name. */
const id = Joi.string().min(1).max(128);
const number = Joi.number().integer().min(1);
const minute = Joi.number().integer();
const date = Joi.string().pattern(/^\d{4}-\d\d-\d\d$/);
const yes = Joi.valid(true);
const entry = Joi.valid("card", "card+pin", "pin", "card-or-pin");
const row = Joi.array().items(
  Joi.array().ordered(Joi.number().integer().min(0).max(1439).required(), Joi.number().integer().min(1).max(1440).required()).length(2),
);
const times = Joi.object({ set: number.required(), from: minute, until: minute });
const door = Joi.object({
  id: id.required(),
  timeZone: Joi.string().required(),
  from: id,
  area: id,
  entry: entry.required(),
  rules: Joi.array()
    .items(Joi.object({ entry: entry.required(), times: Joi.array().items(times).required() }))
    .required(),
  free: Joi.array().items(times).required(),
  needsFirstIn: yes,
});
const set = Joi.object({ id: number.required(), week: Joi.array().items(row).length(7).required(), kinds: Joi.object().pattern(/^\d+$/, row).required() });
const right = times.append({ door: id.required(), inLockdown: yes });
const list = Joi.object({ id: number.required(), rights: Joi.array().items(right).required() });
const card = Joi.object({
  id: id.required(),
  list: number.required(),
  number: id,
  facilityCode: id,
  from: minute,
  until: minute,
  isPin: yes,
  hasPin: yes,
  pinExempt: yes,
  firstIn: yes,
  passbackExempt: yes,
});
const change = Joi.alternatives(
  Joi.object({ put: Joi.valid("door").required(), door: door.required() }),
  Joi.object({ put: Joi.valid("date").required(), date: Joi.object({ date: date.required(), kind: number.required() }).required() }),
  Joi.object({ put: Joi.valid("set").required(), set: set.required() }),
  Joi.object({ put: Joi.valid("list").required(), list: list.required() }),
  Joi.object({ put: Joi.valid("card").required(), card: card.required() }),
  Joi.object({ remove: Joi.valid("door", "card").required(), id: id.required() }),
  Joi.object({ remove: Joi.valid("date").required(), date: date.required() }),
  Joi.object({ remove: Joi.valid("set", "list").required(), id: number.required() }),
);

export const changesRequest = Joi.object<UnitChanges>({
  update: Joi.object({ sum: Joi.string().hex().length(64).required(), of: Joi.number().integer().min(0).required() }).required(),
  from: Joi.number().integer().min(0).required(),
  changes: Joi.array().items(change).max(1000).required(),
});
export const clockRequest = Joi.object<{ readonly at: string }>({ at: Joi.string().isoDate().required() });
export const lockdownRequest = Joi.object<{ readonly raised: boolean }>({ raised: Joi.boolean().strict().required() });
export const acknowledgeRequest = Joi.object<{ readonly run: string; readonly through: number }>({
  run: Joi.string().required(),
  through: Joi.number().integer().min(0).required(),
});
export const presentRequest = Joi.object<Presented>({
  door: id.required(),
  card: id,
  number: id,
  facilityCode: id,
  pin: Joi.valid("right", "wrong", "duress"),
}).or("card", "number");

/** How a stand-in is treated by whoever tries things out: what no real unit would let itself be told. */
export interface Treatment {
  readonly isOffline?: boolean;
  readonly format?: string;
  /** Seconds by which its clock goes wrong at once. */
  readonly clockOff?: number;
  /** Seconds a day by which it goes wrong from now on. */
  readonly drift?: number;
  /** Steps of an update that it does at one request. */
  readonly pace?: number;
  readonly limits?: object;
  readonly passback?: boolean;
}
export const treatmentRequest = Joi.object<Treatment>({
  isOffline: Joi.boolean().strict(),
  format: Joi.string().max(40),
  clockOff: Joi.number().integer().min(-1e9).max(1e9),
  drift: Joi.number().min(-86_400).max(86_400),
  pace: Joi.number().integer().min(1).max(1000),
  limits: Joi.object({
    cards: Joi.number().integer().min(0),
    sets: Joi.number().integer().min(0),
    rangesPerRow: Joi.number().integer().min(0),
    kinds: Joi.number().integer().min(0),
    dates: Joi.number().integer().min(0),
    rightsPerCard: Joi.number().integer().min(0),
    windows: Joi.valid("minute", "day", "none"),
  }),
  passback: Joi.boolean().strict(),
});
export const doorEventRequest = Joi.object<{ readonly door: string; readonly what: "forced" | "held" }>({
  door: id.required(),
  what: Joi.valid("forced", "held").required(),
});
