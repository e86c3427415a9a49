import Joi from "joi";
import type { Filter } from "scim2-parse-filter";
import type { Attribute, ResourceKind } from "./attributes";
import { attributeNamed, attributesOf, attributesOnPath } from "./attributes";
import { fitsValue, parsedFilter } from "./filter";
import type { Json, JsonObject } from "./resource";
import { demandPlain, isList, isObject, readResource, withOwnNames } from "./resource";
import { ScimError } from "./scim-error";

export const patchSchema = "urn:ietf:params:scim:api:messages:2.0:PatchOp";

interface Operation {
  readonly op: "add" | "remove" | "replace";
  readonly path: string | undefined;
  readonly value: Json | undefined;
}

const mostOperations = 1000;
const longestPath = 2000;

const body = Joi.object<{ schemas: readonly string[]; Operations: readonly { op: string; path?: string; value?: Json }[] }>({
  schemas: Joi.array().items(Joi.string()).has(Joi.valid(patchSchema)).required(),
  Operations: Joi.array()
    .items(
      Joi.object({
        // Some senders write them with a capital.
        op: Joi.string().insensitive().valid("add", "remove", "replace").required(),
        path: Joi.string().max(longestPath),
        value: Joi.any(),
      }).unknown(),
    )
    .min(1)
    .max(mostOperations)
    .required(),
}).unknown();

/** Where an operation reaches: an attribute, or one of an attribute's, of all values or of those that a filter picks. */
interface Target {
  /** The names of the attributes above the last, such as that of an extension. */
  readonly above: readonly Attribute[];
  readonly attribute: Attribute;
  readonly filter: string | undefined;
  readonly part: Attribute | undefined;
}

const invalidPath = (path: string): ScimError =>
  new ScimError(400, `The path ${path} leads to no attribute; expected one such as name.familyName or emails[type eq "work"].value.`, "invalidPath");

/** `attribute`, `attribute.part`, `attribute[filter]` or `attribute[filter].part`, each with the name of its schema before it or not (RFC 7644, 3.5.2). */
function targetOf(kind: ResourceKind, path: string): Target {
  const opening = path.indexOf("[");
  const closing = path.lastIndexOf("]");
  if (opening >= 0 && closing < opening) throw invalidPath(path);
  const found = attributesOnPath(kind, opening < 0 ? path : path.slice(0, opening));
  if (!found) throw invalidPath(path);
  const readOnly = found.find(({ mutability }) => mutability === "readOnly");
  if (readOnly) throw new ScimError(400, `${readOnly.name} is the service’s own; expected an attribute that can be changed.`, "mutability");
  const multiple = found.findIndex(({ multiValued }) => multiValued === true);
  if (multiple >= 0 && opening < 0)
    return { above: found.slice(0, multiple), attribute: found[multiple] as Attribute, filter: undefined, part: found[multiple + 1] };
  const attribute = found[found.length - 1] as Attribute;
  if (opening < 0) return { above: found.slice(0, -1), attribute, filter: undefined, part: undefined };
  const rest = path.slice(closing + 1);
  if (!attribute.multiValued || (rest !== "" && !rest.startsWith("."))) throw invalidPath(path);
  const part = rest === "" ? undefined : attributeNamed(attribute.subAttributes ?? [], rest.slice(1));
  if (rest !== "" && !part) throw invalidPath(path);
  return { above: found.slice(0, -1), attribute, filter: path.slice(opening + 1, closing), part };
}

/** What a filter asks to be equal, where it asks for nothing else: so a value begins that fits it. */
function begunBy(attribute: Attribute, filter: string): JsonObject | undefined {
  const read = (one: Filter): JsonObject | undefined => {
    if (one.op === "and") {
      const parts = one.filters.map(read);
      return parts.some((part) => part === undefined) ? undefined : (Object.assign({}, ...parts) as JsonObject);
    }
    const named = one.op === "eq" ? attributeNamed(attribute.subAttributes ?? [], one.attrPath) : undefined;
    return named && one.op === "eq" ? { [named.name]: one.compValue } : undefined;
  };
  return read(parsedFilter(filter));
}

const same = (a: Json, b: Json): boolean => JSON.stringify(a) === JSON.stringify(b);
/** A value that is named by its own is that one, whatever else is said of it. */
const isNamedBy = (value: Json, named: Json): boolean =>
  isObject(value) && isObject(named) && named.value !== undefined ? same(value.value ?? null, named.value) : same(value, named);

const listOf = (value: Json | undefined): readonly Json[] => (isList(value) ? value : value === undefined || value === null ? [] : [value]);

function withoutName(object: JsonObject, name: string): JsonObject {
  const { [name]: _gone, ...rest } = object;
  return rest;
}

const isNothing = (value: Json | undefined): boolean =>
  value === undefined || value === null || (isList(value) && value.length === 0) || (isObject(value) && Object.keys(value).length === 0);

const withValue = (object: JsonObject, name: string, value: Json | undefined): JsonObject =>
  isNothing(value) ? withoutName(object, name) : { ...object, [name]: value as Json };

/** The values of an attribute that can have several, changed. */
function changedValues(kind: ResourceKind, before: Json | undefined, { attribute, filter, part }: Target, { op, path, value }: Operation): Json {
  const items = listOf(before);
  const isPicked = filter === undefined ? () => true : fitsValue(kind, attribute, filter);
  if (op === "remove") {
    if (part) return items.map((item) => (isPicked(item) && isObject(item) ? withoutName(item, part.name) : item)).filter((item) => !isNothing(item));
    // Some senders name what is to go as values.
    const named = filter === undefined && value !== undefined ? listOf(withOwnNames(attribute, value)) : undefined;
    return items.filter((item) => (named ? !named.some((one) => isNamedBy(item, one)) : !isPicked(item)));
  }
  const read = part ? withOwnNames(part, value ?? null) : withOwnNames(attribute, value ?? null);
  if (filter === undefined && !part) {
    const given = listOf(read);
    if (op === "replace") return given;
    return [
      ...items.filter((item) => !given.some((one) => isNamedBy(item, one) && !same(item, one))),
      ...given.filter((one) => !items.some((item) => same(item, one))),
    ];
  }
  const picked = items.filter(isPicked);
  const into = (item: Json): Json => {
    const whole = isObject(item) ? item : {};
    if (part) return withValue(whole, part.name, read);
    const [one] = listOf(read);
    return isObject(one) ? { ...whole, ...one } : whole;
  };
  if (picked.length > 0) return items.map((item) => (isPicked(item) ? into(item) : item));
  const begun = filter !== undefined && op === "add" ? begunBy(attribute, filter) : undefined;
  if (!begun && (filter !== undefined || op === "replace"))
    throw new ScimError(400, `Nothing is at ${path ?? attribute.name}; expected a value that is there.`, "noTarget");
  return [...items, into(begun ?? {})];
}

function changedAt(kind: ResourceKind, object: JsonObject, above: readonly Attribute[], target: Target, operation: Operation): JsonObject {
  const [outer, ...rest] = above;
  if (outer) {
    const inner = object[outer.name];
    return withValue(object, outer.name, changedAt(kind, isObject(inner) ? inner : {}, rest, target, operation));
  }
  const { attribute } = target;
  const before = object[attribute.name];
  if (attribute.multiValued) return withValue(object, attribute.name, changedValues(kind, before, target, operation));
  if (operation.op === "remove") return withoutName(object, attribute.name);
  const read = withOwnNames(attribute, operation.value ?? null);
  // Of an attribute with parts those that are named are set, the others stay (RFC 7644, 3.5.2.1 and 3.5.2.3).
  return withValue(object, attribute.name, attribute.subAttributes && isObject(read) && isObject(before) ? { ...before, ...read } : read);
}

/** An operation without a path is one for each attribute that its value names; what is the service's own may be named as it is. */
function apart(kind: ResourceKind, operation: Operation, id: string): readonly Operation[] {
  const { op, path, value } = operation;
  if (path !== undefined) return [operation];
  if (op === "remove") throw new ScimError(400, "Something is to be removed without a path; expected where it stands.", "noTarget");
  if (!isObject(value)) throw new ScimError(400, "A change without a path has no object as its value; expected the attributes to change.", "invalidValue");
  return Object.entries(value).flatMap(([name, inner]) => {
    if (name.toLowerCase() === "schemas") return [];
    const found = attributesOnPath(kind, name);
    // What no schema names is not recognised and left out, as in a whole resource.
    if (!found) return [];
    if (found[0]?.name === "id" && inner === id) return [];
    if (found[0]?.mutability === "readOnly" && found[0].name !== "id") return [];
    return [{ op, path: name, value: inner }];
  });
}

/** A resource as it is after a change (RFC 7644, 3.5.2), or a `ScimError` that says why it cannot be made; all of it is made, or nothing. */
export function patchResource(kind: ResourceKind, id: string, before: JsonObject, change: unknown): JsonObject {
  if (!isObject(change)) throw new ScimError(400, "The body is no object of JSON; expected a PatchOp.", "invalidSyntax");
  demandPlain(change);
  const checked = body.validate(change, { abortEarly: false, convert: true });
  if (checked.error) throw new ScimError(400, checked.error.message, "invalidSyntax");
  let after = before;
  for (const { op, path, value } of checked.value.Operations)
    for (const one of apart(kind, { op: op.toLowerCase() as Operation["op"], path, value }, id)) {
      const { path: where = "" } = one;
      const extension = attributesOf[kind].find(({ name }) => name.startsWith("urn:") && name.toLowerCase() === where.toLowerCase());
      const target: Target = extension ? { above: [], attribute: extension, filter: undefined, part: undefined } : targetOf(kind, where);
      if (one.op !== "remove" && one.value === undefined) throw new ScimError(400, `${one.op} ${where} has no value; expected one.`, "invalidValue");
      after = changedAt(kind, after, target.above, target, one);
    }
  return readResource(kind, after, before);
}
