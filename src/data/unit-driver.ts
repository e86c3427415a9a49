import Joi from "joi";
import type { ObjectSchema } from "joi";
import { memoryParts, unitFormat } from "@/core/units/unit-protocol";
import type { MemoryPage, MemoryPart, UnitEvents, UnitStatus } from "@/core/units/unit-protocol";
import { isZoneName } from "@/core/time/zone";
import { parseCivilDay } from "@/core/time/civil-day";
import type { StandInDoors, UnitAccess, UnitDriver } from "@/operations/ports/units";

const answerMs = 10_000;
/** An answer of a unit is a page at most. */
const largestAnswer = 16_000_000;

const id = Joi.string().min(1).max(128);
const number = Joi.number().integer().min(1);
const count = Joi.number().integer().min(0);
const minute = Joi.number().integer();
const instant = Joi.string().pattern(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/);
const sum = Joi.string().hex().length(64);
const yes = Joi.valid(true);
const entry = Joi.valid("card", "card+pin", "pin", "card-or-pin");
const row = Joi.array().items(Joi.array().ordered(Joi.number().integer().min(0).max(1439).required(), Joi.number().integer().min(1).max(1440).required()));
const times = Joi.object({ set: number.required(), from: minute, until: minute });
const zone = Joi.string().custom((name: string, helpers) => (isZoneName(name) ? name : helpers.error("any.invalid")));
const date = Joi.string().custom((text: string, helpers) => (parseCivilDay(text) === undefined ? helpers.error("any.invalid") : text));

/** What a unit may say of each thing that it holds; what it says beyond that is left out. */
const items: Readonly<Record<MemoryPart, Joi.Schema>> = {
  doors: Joi.object({
    id: id.required(),
    timeZone: zone.required(),
    from: id,
    area: id,
    entry: entry.required(),
    rules: Joi.array()
      .items(Joi.object({ entry: entry.required(), times: Joi.array().items(times).required() }))
      .required(),
    free: Joi.array().items(times).required(),
    needsFirstIn: yes,
  }),
  dates: Joi.object({ date: date.required(), kind: number.required() }),
  sets: Joi.object({ id: number.required(), week: Joi.array().items(row).length(7).required(), kinds: Joi.object().pattern(/^\d+$/, row).required() }),
  lists: Joi.object({
    id: number.required(),
    rights: Joi.array()
      .items(times.append({ door: id.required(), inLockdown: yes }))
      .required(),
  }),
  cards: Joi.object({
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
  }),
};

const limits = Joi.object({
  cards: count,
  sets: count,
  rangesPerRow: count,
  kinds: count,
  dates: count,
  rightsPerCard: count,
  windows: Joi.valid("minute", "day", "none"),
});
const statusAnswer = Joi.object<UnitStatus>({
  format: Joi.string().max(40).required(),
  id: id.required(),
  clock: instant.required(),
  limits: limits.required(),
  sum: sum.required(),
  update: Joi.object({ sum: sum.required(), of: count.required(), done: count.required() }),
  lockdown: Joi.boolean().required(),
  run: Joi.string().min(1).max(128).required(),
  last: count.required(),
  acknowledged: count.required(),
});
const eventsAnswer = Joi.object<UnitEvents>({
  run: Joi.string().min(1).max(128).required(),
  events: Joi.array()
    .items(
      Joi.object({
        number: number.required(),
        at: instant.required(),
        door: id.required(),
        card: id,
        cardNumber: id,
        facilityCode: id,
        granted: Joi.boolean().required(),
        reason: Joi.string().max(500).required(),
      }),
    )
    .required(),
  more: Joi.boolean().required(),
});
const pageAnswer = (part: MemoryPart): ObjectSchema<MemoryPage> =>
  Joi.object<MemoryPage>({ sum: sum.required(), items: Joi.array().items(items[part]).required(), more: Joi.boolean().required() });
const doneAnswer = Joi.object<{ readonly done: number }>({ done: count.required() });

/** What a unit says of itself before anything else is read of it: one that speaks another language is not taken for a broken one. */
const whichFormat = Joi.object<{ readonly format: string }>({ format: Joi.string().max(40).required() }).unknown();

const checked = <T>(schema: ObjectSchema<T>, answer: unknown, unknown: "strip" | "keep" = "strip"): T => {
  const outcome = schema.validate(answer, { convert: false, stripUnknown: unknown === "strip" });
  if (outcome.error) throw new Error(`What it answered is not as it should be: ${outcome.error.message}.`);
  return outcome.value;
};

async function ask(
  address: string,
  token: string,
  method: string,
  below: string,
  body?: object,
): Promise<{ readonly status: number; readonly answer: unknown }> {
  let text: string;
  let status: number;
  try {
    const response = await fetch(`${address}${below}`, {
      method,
      headers: { authorization: `Bearer ${token}`, ...(body && { "content-type": "application/json" }) },
      signal: AbortSignal.timeout(answerMs),
      redirect: "error",
      ...(body && { body: JSON.stringify(body) }),
    });
    status = response.status;
    const pieces: Uint8Array[] = [];
    let size = 0;
    for await (const piece of response.body ?? []) {
      size += piece.length;
      if (size > largestAnswer) throw new Error("too much");
      pieces.push(piece);
    }
    text = Buffer.concat(pieces).toString("utf8");
  } catch {
    throw new Error("It does not answer.");
  }
  try {
    return { status, answer: JSON.parse(text) as unknown };
  } catch {
    throw new Error(`It answered with the status ${status} and no JSON.`);
  }
}

const wordsOf = (answer: unknown, status: number): string => {
  const { error } = (answer ?? {}) as { readonly error?: unknown };
  return typeof error === "string" ? error.slice(0, 500) : `It answered with the status ${status}.`;
};

/** Speaks `nomade.unit/1` to units. */
export function unitDriver(): UnitDriver {
  const asked = async <T>(unit: UnitAccess, schema: ObjectSchema<T>, method: string, below: string, body?: object): Promise<T> => {
    const { status, answer } = await ask(unit.address, unit.token, method, below, body);
    if (status !== 200) throw new Error(wordsOf(answer, status));
    return checked(schema, answer);
  };
  const statusOf = async (unit: UnitAccess, method: string, below: string, body?: object): Promise<UnitStatus> => {
    const { status, answer } = await ask(unit.address, unit.token, method, below, body);
    if (status !== 200) throw new Error(wordsOf(answer, status));
    const { format } = checked(whichFormat, answer, "keep");
    if (format !== unitFormat) throw new Error(`It speaks ${format}; expected ${unitFormat}.`);
    return checked(statusAnswer, answer);
  };
  return {
    status: (unit) => statusOf(unit, "GET", "/"),
    setClock: (unit, at) => statusOf(unit, "PUT", "/clock", { at }),
    setLockdown: (unit, raised) => statusOf(unit, "PUT", "/lockdown", { raised }),
    memory: async <Part extends MemoryPart>(unit: UnitAccess, part: Part, after: string | undefined) =>
      (await asked(
        unit,
        pageAnswer(part),
        "GET",
        `/memory?part=${memoryParts.find((one) => one === part) ?? ""}${after === undefined ? "" : `&after=${encodeURIComponent(after)}`}`,
      )) as MemoryPage<Part>,
    change: async (unit, changes) => {
      const { status, answer } = await ask(unit.address, unit.token, "POST", "/changes", changes);
      if (status === 200) return checked(doneAnswer, answer);
      const { done } = (answer ?? {}) as { readonly done?: unknown };
      return { refused: wordsOf(answer, status), ...(typeof done === "number" && Number.isSafeInteger(done) && done >= 0 && { done }) };
    },
    events: (unit, after) => asked(unit, eventsAnswer, "GET", `/events?after=${after}`),
    acknowledge: async (unit, run, through) => void (await statusOf(unit, "POST", "/events/acknowledged", { run, through })),
  };
}

/** The doors of the stand-in controllers that ship, where these run. */
export function standInDoors(settings: { readonly address: string; readonly token: string } | undefined): StandInDoors | undefined {
  if (!settings) return undefined;
  const asked = async (unit: string, method: string, below: string, body: object): Promise<object> => {
    const { status, answer } = await ask(`${settings.address}/doors/${encodeURIComponent(unit)}`, settings.token, method, below, body);
    if (status !== 200 || typeof answer !== "object" || answer === null) throw new Error(wordsOf(answer, status));
    return answer;
  };
  return {
    present: (unit, presented) => asked(unit, "POST", "/present", presented),
    happen: (unit, door, what) => asked(unit, "POST", "/door", { door, what }),
    treat: (unit, treatment) => asked(unit, "PUT", "/treatment", treatment),
  };
}
