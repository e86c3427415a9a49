import Joi from "joi";
import type { DataIssue } from "@/core/facility/issue";
import { problem } from "@/core/facility/issue";
import type { Facility } from "@/core/facility/facility";
import { allRules } from "@/core/findings/catalogue";
import { eventParameters, own } from "@/core/findings/settings";
import type { DutySide, RuleSettings } from "@/core/findings/settings";
import type { Result } from "@/core/kernel/result";
import { failure, success } from "@/core/kernel/result";
import { scheduleKeys } from "../facility/facility-schema";
import { asIssue, quoted } from "../facility/read-facility";

/** Parameters of rules that are settled before they are looked for: a settings file may hold them already. */
const parametersToCome = { "not-at-door": { days: 30, reportDays: 1 } };

/** Of these one is the least that means anything. */
const fromOneOn = new Set(["times", "dates", "entries", "levels", "peers"]);
const greatest: Readonly<Record<string, number>> = { percent: 100, coveredPercent: 100, sensitivity: 3 };

const whole = Joi.number().integer().min(0);

function parameter(name: string): Joi.Schema {
  const least = Joi.number()
    .integer()
    .min(fromOneOn.has(name) ? 1 : 0);
  const most = own(greatest, name);
  return most === undefined ? least : least.max(most);
}

const parametersByKey: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  events: eventParameters,
  ...parametersToCome,
  ...Object.fromEntries(allRules.map(({ key, parameters }) => [key, parameters])),
};

const side = Joi.object({ area: Joi.string(), level: Joi.string() }).xor("area", "level").required();

/** The one definition of well-formed `nomade.rules/1`; ids are looked up afterwards. */
const rulesSchema = Joi.object({
  format: Joi.valid("nomade.rules/1").required(),
  horizonDays: Joi.number().integer().min(1).max(3660),
  parameters: Joi.object(
    Object.fromEntries(
      Object.entries(parametersByKey).map(([key, names]) => [key, Joi.object(Object.fromEntries(Object.keys(names).map((name) => [name, parameter(name)])))]),
    ),
  ),
  duties: Joi.array().items(Joi.object({ id: Joi.string().required(), name: Joi.string().allow(""), a: side, b: side })),
  sites: Joi.object().pattern(
    Joi.string().allow(""),
    Joi.object({
      country: Joi.string().custom((text: string, helpers) =>
        /^[A-Z]{2}$/.test(text) ? text : helpers.error("nomade.expected", { expected: "two letters of ISO 3166-1 such as AT" }),
      ),
      business: Joi.object(scheduleKeys),
      minutesTo: Joi.object().pattern(Joi.string().allow(""), whole),
    }),
  ),
  formats: Joi.object().pattern(Joi.string().allow(""), Joi.object({ facilityCode: whole.required(), number: whole.required() })),
  weights: Joi.object({
    base: Joi.object(Object.fromEntries([...Object.keys(parametersToCome), ...allRules.map(({ key }) => key)].map((key) => [key, whole.max(100)]))),
    sensitivity: whole,
    outOfHours: whole,
    weeklyHours: whole,
    standing: whole,
  }),
});

function* idsNamed(value: Partial<RuleSettings>): Generator<readonly [path: string, list: "sites" | "areas" | "levels", id: unknown]> {
  for (const [i, duty] of (Array.isArray(value.duties) ? value.duties : []).entries())
    for (const key of ["a", "b"] as const) {
      const named = (duty as Partial<Record<typeof key, DutySide | null>> | null)?.[key];
      if (named?.area !== undefined) yield [`duties[${i}].${key}.area`, "areas", named.area];
      if (named?.level !== undefined) yield [`duties[${i}].${key}.level`, "levels", named.level];
    }
  for (const [site, said] of Object.entries(value.sites ?? {})) {
    yield [`sites.${site}`, "sites", site];
    for (const to of Object.keys((said as { minutesTo?: object } | null)?.minutesTo ?? {})) yield [`sites.${site}.minutesTo.${to}`, "sites", to];
  }
}

function lookUp(value: Partial<RuleSettings>, facility: Facility): DataIssue[] {
  const ids = {
    sites: new Set(facility.sites.map(({ id }) => id)),
    areas: new Set(facility.areas.map(({ id }) => id)),
    levels: new Set(facility.levels.map(({ id }) => id)),
  };
  const issues: DataIssue[] = [];
  for (const [path, list, id] of idsNamed(value))
    if (typeof id === "string" && !ids[list].has(id)) issues.push(problem(path, "unknown-reference", { value: id, list }));
  const first = new Map<string, number>();
  for (const [i, duty] of (Array.isArray(value.duties) ? value.duties : []).entries()) {
    const id: unknown = (duty as { id?: unknown } | null)?.id;
    if (typeof id !== "string") continue;
    const before = first.get(id);
    if (before === undefined) first.set(id, i);
    else issues.push(problem(`duties[${i}].id`, "duplicate-id", { value: id, first: `duties[${before}]` }));
  }
  return issues;
}

/** Reads settings of rules for a register; fails with everything that is wrong at once. */
export function readRules(text: string, facility: Facility): Result<RuleSettings, readonly DataIssue[]> {
  let value: unknown;
  try {
    value = JSON.parse(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);
  } catch (error) {
    return failure([problem("", "not-json", { value: quoted(text.slice(0, 40)), reason: (error as Error).message })]);
  }
  const error = rulesSchema.validate(value, { abortEarly: false, convert: false, errors: { render: false } }).error;
  const shape = error?.details.map(asIssue) ?? [];
  const isObject = typeof value === "object" && value !== null && !Array.isArray(value);
  const references = isObject ? lookUp(value as Partial<RuleSettings>, facility) : [];
  return shape.length + references.length > 0 ? failure([...shape, ...references]) : success(value as RuleSettings);
}
