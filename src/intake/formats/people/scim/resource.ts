import Joi from "joi";
import type { Attribute, ResourceKind } from "./attributes";
import { attributeNamed, attributesOf, enterpriseSchema, schemaOf } from "./attributes";
import { ScimError } from "./scim-error";

/** A value of JSON, and an object of it; what a resource says without its id and `meta`. */
export type Json = string | number | boolean | null | readonly Json[] | JsonObject;
export interface JsonObject {
  readonly [name: string]: Json;
}

export const isList = (value: unknown): value is readonly Json[] => Array.isArray(value);
export const isObject = (value: unknown): value is JsonObject => typeof value === "object" && value !== null && !isList(value);

const longestText = 1000;
const mostValues = 200;
export const mostMembers = 100_000;

/** Some senders write truth as a text. */
const truth: ReadonlyMap<Json, boolean> = new Map([
  ["true", true],
  ["True", true],
  ["false", false],
  ["False", false],
]);

/**
 * A value with the standard’s own names for its attributes, in their spelling. What no schema names is not recognised and left out, and so is what only the
 * service may set, as the standard has it (RFC 7643, 2.2; RFC 7644, 3.3). An empty list and `null` are the same as nothing (RFC 7643, 2.5).
 */
export function withOwnNames(attribute: Attribute, value: Json): Json {
  if (attribute.type === "boolean") return truth.get(value) ?? value;
  if (attribute.multiValued) {
    // A single value where several may stand is one of them.
    const items = isList(value) ? value : value === null ? [] : [value];
    return items.map((item) => inside(attribute, item)).filter((item) => !(isObject(item) && Object.keys(item).length === 0));
  }
  // A list where one value belongs, as some send a manager.
  return inside(attribute, isList(value) && value.length === 1 ? (value[0] ?? null) : value);
}

function inside({ subAttributes }: Attribute, value: Json): Json {
  if (!subAttributes) return value;
  // A manager or a member that is only named is the one with that id.
  if (typeof value === "string" && attributeNamed(subAttributes, "value")) return { value };
  return isObject(value) ? objectWithOwnNames(subAttributes, value) : value;
}

export function objectWithOwnNames(attributes: readonly Attribute[], object: JsonObject): JsonObject {
  const own: [string, Json][] = [];
  for (const [name, value] of Object.entries(object)) {
    const attribute = attributeNamed(attributes, name);
    // Addresses and the kind of a member follow from its id.
    if (!attribute || attribute.mutability === "readOnly" || attribute.name === "$ref") continue;
    const read = withOwnNames(attribute, value);
    if (read !== null && !(isList(read) && read.length === 0)) own.push([attribute.name, read]);
  }
  return Object.fromEntries(own);
}

function schemaOfAttribute(attribute: Attribute): Joi.Schema {
  const one = (): Joi.Schema => {
    switch (attribute.type) {
      case "boolean":
        return Joi.boolean().strict();
      case "complex":
        return Joi.object(Object.fromEntries((attribute.subAttributes ?? []).map((inner) => [inner.name, schemaOfAttribute(inner)])));
      default:
        return Joi.string().allow("").max(longestText);
    }
  };
  const many = Joi.array()
    .items(one())
    .max(attribute.name === "members" ? mostMembers : mostValues);
  const schema = attribute.multiValued ? many : one();
  return attribute.required ? schema.invalid("").required() : schema;
}

const bodies: Readonly<Record<ResourceKind, Joi.ObjectSchema>> = {
  User: Joi.object(Object.fromEntries(attributesOf.User.map((attribute) => [attribute.name, schemaOfAttribute(attribute)]))),
  Group: Joi.object(Object.fromEntries(attributesOf.Group.map((attribute) => [attribute.name, schemaOfAttribute(attribute)]))),
};

/** Names that would reach beyond an object’s own values. */
const forbidden = new Set(["__proto__", "constructor", "prototype"]);
const deepest = 12;

/** Refuses what no resource and no change may hold: names that lead beyond their object, and depths that nothing here has. */
export function demandPlain(value: unknown, depth = 0): void {
  if (typeof value !== "object" || value === null) return;
  if (depth > deepest)
    throw new ScimError(400, `The body is nested more than ${deepest} deep; expected a resource of this service’s schemas.`, "invalidSyntax");
  for (const [name, inner] of Object.entries(value)) {
    if (forbidden.has(name)) throw new ScimError(400, `An attribute is called ${name}; expected names of this service’s schemas.`, "invalidSyntax");
    demandPlain(inner, depth + 1);
  }
}

/** Of several values at most one is the primary one (RFC 7643, 2.4): where a change names another, that before is so no more. */
function withOnePrimary(value: Json, before: Json | undefined): Json {
  if (!isList(value)) return value;
  const items = value;
  const primaries = items.filter((item) => isObject(item) && item.primary === true);
  if (primaries.length < 2) return value;
  const earlier = new Set((isList(before) ? before : []).flatMap((item) => (isObject(item) && item.primary === true ? [item.value] : [])));
  const fresh = primaries.filter((item) => isObject(item) && !earlier.has(item.value ?? null));
  const kept = fresh[fresh.length - 1] ?? primaries[primaries.length - 1];
  return items.map((item) => (isObject(item) && item.primary === true && item !== kept ? { ...item, primary: false } : item));
}

/** Each member once. */
function withoutRepetition(members: Json): Json {
  if (!isList(members)) return members;
  const byId = new Map(members.map((member) => [isObject(member) ? member.value : member, isObject(member) ? { value: member.value ?? "" } : member]));
  return [...byId.values()];
}

/** What a resource says, in its own form, or a `ScimError` that names every fault. */
export function readResource(kind: ResourceKind, body: unknown, before?: JsonObject): JsonObject {
  if (!isObject(body)) throw new ScimError(400, "The body is no object of JSON; expected a resource.", "invalidSyntax");
  demandPlain(body);
  const { schemas } = body;
  if (schemas !== undefined && !(isList(schemas) && schemas.some((one) => typeof one === "string" && one.toLowerCase() === schemaOf[kind].toLowerCase())))
    throw new ScimError(400, `The schemas do not name ${schemaOf[kind]}; expected that one.`, "invalidSyntax");
  const own = objectWithOwnNames(attributesOf[kind], body);
  const emails = own.emails === undefined ? undefined : withOnePrimary(own.emails, before?.emails);
  const members = own.members === undefined ? undefined : withoutRepetition(own.members);
  const resource: JsonObject = { ...own, ...(emails !== undefined && { emails }), ...(members !== undefined && { members }) };
  const checked = bodies[kind].validate(resource, { abortEarly: false, convert: false });
  if (checked.error) throw new ScimError(400, checked.error.message, "invalidValue");
  return resource;
}

/** A text of a resource; undefined where there is none, or it is empty. */
export function textOf(object: Json | undefined, ...path: readonly string[]): string | undefined {
  let at: Json | undefined = object;
  for (const name of path) at = isObject(at) && Object.hasOwn(at, name) ? at[name] : undefined;
  return typeof at === "string" && at.trim() !== "" ? at.trim() : undefined;
}

export const enterpriseText = (user: JsonObject, ...path: readonly string[]): string | undefined => textOf(user, enterpriseSchema, ...path);
