import type { Filter } from "scim2-parse-filter";
import { parse } from "scim2-parse-filter";
import type { Attribute, ResourceKind } from "./attributes";
import { attributeNamed, attributesOnPath } from "./attributes";
import type { Json, JsonObject } from "./resource";
import { isList, isObject } from "./resource";
import { ScimError } from "./scim-error";

const longest = 4000;
const mostBrackets = 50;

const wrong = (message: string): ScimError => new ScimError(400, message, "invalidFilter");

/**
 * The library takes a backslash in a text for itself, where JSON, whose texts these are (RFC 7644, 3.4.2.2), has it begin an escape: a text with escapes
 * other than of quotation marks is written as the library reads it.
 */
function withPlainTexts(filter: string): string {
  return filter.replace(/"(?:[^"\\]|\\.)*"/g, (literal) => {
    let text: unknown;
    try {
      text = JSON.parse(literal);
    } catch {
      return literal;
    }
    if (typeof text !== "string" || !literal.includes("\\")) return literal;
    if ([...text].some((sign) => sign < " ") || text.endsWith("\\"))
      throw wrong(`The text ${literal} cannot be looked for; expected one without control characters.`);
    return `"${text.replace(/"/g, '\\"')}"`;
  });
}

/** Whether a resource fits; and, of a filter that asks for one value of one attribute, which. */
export interface ReadFilter {
  readonly fits: (resource: JsonObject) => boolean;
  readonly only: { readonly attribute: "userName" | "externalId" | "id"; readonly value: string } | undefined;
}

type Test = (value: Json | undefined) => boolean;

const folded = (attribute: Attribute | undefined, text: string): string => (attribute?.caseExact ? text : text.toLowerCase());

const isThere = (value: Json | undefined): boolean =>
  value !== undefined && value !== null && value !== "" && !(isList(value) && value.length === 0) && !(isObject(value) && Object.keys(value).length === 0);

function comparison(attribute: Attribute, op: string, asked: boolean | null | number | string): Test {
  const isOrder = op === "gt" || op === "ge" || op === "lt" || op === "le";
  if (attribute.type === "boolean" && (isOrder || (op !== "eq" && op !== "ne")))
    throw wrong(`${attribute.name} is true or false; expected eq or ne, not ${op}.`);
  if (asked === null) {
    if (op !== "eq" && op !== "ne") throw wrong(`Nothing can be ${op} null; expected eq or ne.`);
    return (value) => isThere(value) === (op === "ne");
  }
  const isMoment = attribute.type === "dateTime";
  const read = (value: Json | undefined): string | number | boolean | undefined => {
    if (typeof value === "boolean" || typeof value === "number") return value;
    if (typeof value !== "string") return undefined;
    return isMoment ? Date.parse(value) : folded(attribute, value);
  };
  const other = read(asked);
  if (isMoment && (typeof other !== "number" || Number.isNaN(other)))
    throw wrong(`${attribute.name} is compared with ${JSON.stringify(asked)}; expected a moment such as 2026-03-02T08:00:00Z.`);
  return (value) => {
    const own = read(value);
    if (op === "ne") return own !== other;
    if (own === undefined || other === undefined) return false;
    switch (op) {
      case "eq":
        return own === other;
      case "co":
        return String(own).includes(String(other));
      case "sw":
        return String(own).startsWith(String(other));
      case "ew":
        return String(own).endsWith(String(other));
      case "gt":
        return own > other;
      case "ge":
        return own >= other;
      case "lt":
        return own < other;
      default:
        return own <= other;
    }
  };
}

/** Whether one of the values at an attribute passes; what has none is tested as nothing. */
function anyAt(names: readonly string[], value: Json | undefined, test: Test): boolean {
  if (isList(value)) return value.length === 0 ? test(undefined) : value.some((item) => anyAt(names, item, test));
  const [name, ...rest] = names;
  if (name === undefined) return test(value);
  return isObject(value) && Object.hasOwn(value, name) ? anyAt(rest, value[name], test) : test(undefined);
}

/** The attributes of a path among those of the kind, or inside brackets among those of one attribute. */
function onPath(kind: ResourceKind, within: Attribute | undefined, path: string): readonly Attribute[] {
  const found = within ? [attributeNamed(within.subAttributes ?? [], path)].filter((one) => one !== undefined) : attributesOnPath(kind, path);
  if (!found || found.length === 0)
    throw wrong(`There is no attribute ${path}${within ? ` of ${within.name}` : ` of ${kind}`}; expected one of this service’s schemas.`);
  return found;
}

function testOf(kind: ResourceKind, filter: Filter, within?: Attribute): (resource: Json | undefined) => boolean {
  switch (filter.op) {
    case "and":
    case "or": {
      const parts = filter.filters.map((part) => testOf(kind, part, within));
      return filter.op === "and" ? (resource) => parts.every((part) => part(resource)) : (resource) => parts.some((part) => part(resource));
    }
    case "not": {
      const inner = testOf(kind, filter.filter, within);
      return (resource) => !inner(resource);
    }
    case "[]": {
      const path = onPath(kind, within, filter.attrPath);
      const inner = testOf(kind, filter.valFilter, path[path.length - 1]);
      const names = path.map(({ name }) => name);
      return (resource) => anyAt(names, resource, (value) => value !== undefined && inner(value));
    }
    default: {
      const path = onPath(kind, within, filter.attrPath);
      const last = path[path.length - 1];
      // An attribute with parts is compared by its value (RFC 7643, 2.4).
      const value = last?.subAttributes && filter.op !== "pr" ? attributeNamed(last.subAttributes, "value") : undefined;
      const attribute = value ?? last;
      if (!attribute) throw wrong("There is no attribute to compare.");
      if (attribute.type === "complex" && filter.op !== "pr")
        throw wrong(`${attribute.name} has parts; expected one of them, such as ${attribute.name}.${attribute.subAttributes?.[0]?.name ?? "value"}.`);
      const test = filter.op === "pr" ? isThere : comparison(attribute, filter.op, filter.compValue);
      const names = [...path, ...(value ? [value] : [])].map(({ name }) => name);
      return (resource) => anyAt(names, resource, test);
    }
  }
}

/** The parts of `a[b].c eq d` are those of one value: the library reads them as two conditions, which several values could meet between them. */
function demandNoPartBehindBrackets(filter: string): void {
  if (/\]\s*\.\s*\w/.test(filter.replace(/"(?:[^"\\]|\\.)*"/g, '""')))
    throw wrong('A part stands behind brackets; expected it inside them, such as emails[type eq "work" and value co "@"].');
}

/** A filter as the library reads it; a `ScimError` says what is wrong with it. */
export function parsedFilter(text: string): Filter {
  if (text.length > longest) throw wrong(`The filter has ${text.length} characters; expected at most ${longest}.`);
  if ((text.match(/[([]/g) ?? []).length + (text.match(/\bnot\b/gi) ?? []).length > mostBrackets)
    throw wrong(`The filter has more than ${mostBrackets} brackets; expected at most so many.`);
  demandNoPartBehindBrackets(text);
  try {
    return parse(withPlainTexts(text));
  } catch (error) {
    throw error instanceof ScimError ? error : wrong(`The filter ${text} cannot be read; expected one such as userName eq "bjensen".`);
  }
}

/** Whether a value of an attribute that can have several fits a filter, as one stands in brackets behind its name. */
export const fitsValue = (kind: ResourceKind, attribute: Attribute, text: string): ((value: Json) => boolean) => testOf(kind, parsedFilter(text), attribute);

/** Reads a filter (RFC 7644, 3.4.2.2). Throws a `ScimError` for what cannot be read. */
export function readFilter(kind: ResourceKind, text: string): ReadFilter {
  const filter = parsedFilter(text);
  const path = "attrPath" in filter && filter.op === "eq" ? attributesOnPath(kind, filter.attrPath) : undefined;
  const [only] = path?.length === 1 ? path : [];
  const asked = filter.op === "eq" && typeof filter.compValue === "string" ? filter.compValue : undefined;
  return {
    fits: testOf(kind, filter),
    only:
      asked !== undefined && (only?.name === "userName" || only?.name === "externalId" || only?.name === "id")
        ? { attribute: only.name, value: asked }
        : undefined,
  };
}
