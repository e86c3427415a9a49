import type { Attribute, ResourceKind } from "./attributes";
import { attributesOnPath, enterpriseSchema, schemaOf, schemas } from "./attributes";
import type { Json, JsonObject } from "./resource";
import { isList, isObject } from "./resource";

const listSchema = "urn:ietf:params:scim:api:messages:2.0:ListResponse";

/** So many resources are answered at once, at most and where nobody says. */
export const mostAtOnce = 1000;
export const usuallyAtOnce = 100;

/** A resource as it is kept. */
export interface KeptResource {
  readonly id: string;
  readonly kind: ResourceKind;
  readonly body: JsonObject;
  readonly version: number;
  /** Instants, as ISO texts of UTC. */
  readonly createdAt: string;
  readonly changedAt: string;
}

export const etagOf = (version: number): string => `W/"${version}"`;

const endpoint: Readonly<Record<ResourceKind, string>> = { User: "Users", Group: "Groups" };

export const addressOf = (base: string, kind: ResourceKind, id: string): string => `${base}/${endpoint[kind]}/${id}`;

/** Which attributes of resources are asked for (RFC 7644, 3.9): those named, or all but those named. */
export interface AskedAttributes {
  readonly only: readonly string[] | undefined;
  readonly without: readonly string[] | undefined;
}

const namesOf = (kind: ResourceKind, paths: readonly string[] | undefined): (readonly Attribute[])[] =>
  (paths ?? []).flatMap((path) => {
    const found = attributesOnPath(kind, path);
    return found ? [found] : [];
  });

function only(object: JsonObject, wanted: readonly (readonly Attribute[])[]): JsonObject {
  const byName = new Map<string, (readonly Attribute[])[]>();
  for (const [first, ...rest] of wanted) if (first) byName.set(first.name, [...(byName.get(first.name) ?? []), rest]);
  return Object.fromEntries(
    Object.entries(object).flatMap(([name, value]) => {
      const rests = byName.get(name);
      if (!rests) return [];
      if (rests.some((rest) => rest.length === 0)) return [[name, value]];
      return [[name, isList(value) ? value.map((item) => (isObject(item) ? only(item, rests) : item)) : isObject(value) ? only(value, rests) : value]];
    }),
  );
}

function without(object: JsonObject, unwanted: readonly (readonly Attribute[])[]): JsonObject {
  return Object.fromEntries(
    Object.entries(object).flatMap(([name, value]) => {
      const rests = unwanted.filter(([first]) => first?.name === name).map(([, ...rest]) => rest);
      if (rests.some((rest) => rest.length === 0)) return [];
      if (rests.length === 0) return [[name, value]];
      return [[name, isList(value) ? value.map((item) => (isObject(item) ? without(item, rests) : item)) : isObject(value) ? without(value, rests) : value]];
    }),
  );
}

/** A resource with everything that filters and answers may speak of. */
export function whole({ id, kind, body, version, createdAt, changedAt }: KeptResource, base: string): JsonObject {
  const meta = { resourceType: kind, created: createdAt, lastModified: changedAt, location: addressOf(base, kind, id), version: etagOf(version) };
  return { schemas: [schemaOf[kind], ...(enterpriseSchema in body ? [enterpriseSchema] : [])], id, ...body, meta };
}

/** A resource as it is answered. */
export function answered(resource: KeptResource, base: string, asked: AskedAttributes = { only: undefined, without: undefined }): JsonObject {
  const { kind } = resource;
  const all = whole(resource, base);
  const shown = asked.only ? only(all, namesOf(kind, asked.only)) : without(all, namesOf(kind, asked.without));
  // The id and the schemas are always told.
  const { schemas: names = [], id = "" } = all;
  return { ...shown, schemas: names, id };
}

export const listAnswer = (resources: readonly object[], total: number, startIndex: number): object => ({
  schemas: [listSchema],
  totalResults: total,
  startIndex,
  itemsPerPage: resources.length,
  Resources: resources,
});

/** What the service can do (RFC 7643, 5). */
export const serviceProviderConfig = (base: string): object => ({
  schemas: ["urn:ietf:params:scim:schemas:core:2.0:ServiceProviderConfig"],
  patch: { supported: true },
  bulk: { supported: false, maxOperations: 0, maxPayloadSize: 0 },
  filter: { supported: true, maxResults: mostAtOnce },
  changePassword: { supported: false },
  sort: { supported: true },
  etag: { supported: true },
  authenticationSchemes: [
    {
      type: "oauthbearertoken",
      name: "Bearer token",
      description: "A token for each source, made by an administrator.",
      specUri: "https://www.rfc-editor.org/rfc/rfc6750",
      primary: true,
    },
  ],
  meta: { resourceType: "ServiceProviderConfig", location: `${base}/ServiceProviderConfig` },
});

/** The kinds of resources (RFC 7643, 6). */
export const resourceTypes = (base: string): readonly (JsonObject & { readonly id: string })[] =>
  (["User", "Group"] as const).map((kind) => ({
    schemas: ["urn:ietf:params:scim:schemas:core:2.0:ResourceType"],
    id: kind,
    name: kind,
    endpoint: `/${endpoint[kind]}`,
    description: kind === "User" ? "A person" : "A group of people",
    schema: schemaOf[kind],
    ...(kind === "User" && { schemaExtensions: [{ schema: enterpriseSchema, required: false }] }),
    meta: { resourceType: "ResourceType", location: `${base}/ResourceTypes/${kind}` },
  }));

function described({
  name,
  type,
  description,
  multiValued,
  required,
  caseExact,
  mutability,
  returned,
  uniqueness,
  canonicalValues,
  referenceTypes,
  subAttributes,
}: Attribute): JsonObject {
  return {
    name,
    type,
    description,
    multiValued: multiValued ?? false,
    required: required ?? false,
    ...(type !== "complex" && type !== "boolean" && { caseExact: caseExact ?? false }),
    mutability: mutability ?? "readWrite",
    returned: returned ?? "default",
    ...(type !== "complex" && type !== "boolean" && { uniqueness: uniqueness ?? "none" }),
    ...(canonicalValues && { canonicalValues }),
    ...(referenceTypes && { referenceTypes }),
    ...(subAttributes && { subAttributes: subAttributes.map(described) }),
  };
}

/** The schemas with their attributes (RFC 7643, 7). */
export const schemaAnswers = (base: string): readonly (JsonObject & { readonly id: string })[] =>
  schemas.map(({ id, name, description, attributes }) => ({
    schemas: ["urn:ietf:params:scim:schemas:core:2.0:Schema"],
    id,
    name,
    description,
    attributes: attributes.map(described),
    meta: { resourceType: "Schema", location: `${base}/Schemas/${id}` },
  }));

/** What a resource is ordered by; undefined where it has nothing there. Of several values the primary one, or the first, counts (RFC 7644, 3.4.2.3). */
export function sortValue(kind: ResourceKind, path: string): ((resource: JsonObject) => string | undefined) | undefined {
  const found = attributesOnPath(kind, path);
  const last = found?.[found.length - 1];
  if (!found || !last || (last.type === "complex" && !last.subAttributes?.some(({ name }) => name === "value"))) return undefined;
  const names = [...found.map(({ name }) => name), ...(last.type === "complex" ? ["value"] : [])];
  const exact = last.caseExact === true;
  return (resource) => {
    let at: Json | undefined = resource;
    for (const name of names) {
      if (isList(at)) at = at.find((item) => isObject(item) && item.primary === true) ?? at[0];
      at = isObject(at) && Object.hasOwn(at, name) ? at[name] : undefined;
    }
    if (isList(at)) at = at[0];
    if (typeof at === "boolean") return at ? "1" : "0";
    return typeof at === "string" ? (exact ? at : at.toLowerCase()) : undefined;
  };
}
