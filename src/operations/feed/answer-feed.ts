import Joi from "joi";
import type { AskedAttributes } from "@/intake/formats/people/scim/answers";
import { resourceTypes, schemaAnswers, serviceProviderConfig, listAnswer } from "@/intake/formats/people/scim/answers";
import { errorBody, ScimError } from "@/intake/formats/people/scim/scim-error";
import type { ResourceKind } from "../ports/feeds";
import type { Services } from "../services";
import type { FeedAnswer, FeedRequest } from "./feed-request";
import { changeResource, createResource, endResource, readOne, replaceResource } from "./keep-resource";
import type { AskedList } from "./list-resources";
import { listResources } from "./list-resources";

const kinds: ReadonlyMap<string, ResourceKind> = new Map([
  ["Users", "User"],
  ["Groups", "Group"],
]);

const notAllowed = (allowed: string): FeedAnswer => ({
  status: 405,
  body: errorBody(new ScimError(405, `This can only be asked for by ${allowed}.`)),
  headers: { allow: allowed },
});

const listOf = (text: string | undefined): readonly string[] | undefined =>
  text === undefined
    ? undefined
    : text
        .split(",")
        .map((name) => name.trim())
        .filter((name) => name !== "");

function wholeNumber(name: string, text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  if (!/^-?\d{1,9}$/.test(text)) throw new ScimError(400, `${name} is ${text.slice(0, 40)}; expected a whole number.`, "invalidValue");
  return Number(text);
}

const attributesAsked = ({ attributes, excludedAttributes }: Readonly<Record<string, string>>): AskedAttributes => ({
  only: listOf(attributes),
  without: listOf(excludedAttributes),
});

function listAsked(query: Readonly<Record<string, string>>): AskedList {
  const count = wholeNumber("count", query.count);
  return {
    filter: query.filter === "" ? undefined : query.filter,
    sortBy: query.sortBy === "" ? undefined : query.sortBy,
    descending: query.sortOrder?.toLowerCase() === "descending",
    startIndex: Math.max(1, wholeNumber("startIndex", query.startIndex) ?? 1),
    count: count === undefined ? undefined : Math.max(0, count),
    attributes: attributesAsked(query),
  };
}

const searchSchema = Joi.object<{
  schemas: readonly string[];
  filter?: string;
  sortBy?: string;
  sortOrder?: string;
  startIndex?: number;
  count?: number;
  attributes?: readonly string[];
  excludedAttributes?: readonly string[];
}>({
  schemas: Joi.array().items(Joi.string()).has(Joi.valid("urn:ietf:params:scim:api:messages:2.0:SearchRequest")).required(),
  filter: Joi.string(),
  sortBy: Joi.string(),
  sortOrder: Joi.string(),
  startIndex: Joi.number().integer(),
  count: Joi.number().integer(),
  attributes: Joi.array().items(Joi.string()).max(200),
  excludedAttributes: Joi.array().items(Joi.string()).max(200),
}).unknown();

/** A search whose terms stand in its body (RFC 7644, 3.4.3). */
function searchAsked(body: unknown): AskedList {
  const checked = searchSchema.validate(body, { abortEarly: false, convert: false });
  if (checked.error) throw new ScimError(400, checked.error.message, "invalidSyntax");
  const { filter, sortBy, sortOrder, startIndex = 1, count, attributes, excludedAttributes } = checked.value;
  return {
    filter,
    sortBy,
    descending: sortOrder?.toLowerCase() === "descending",
    startIndex: Math.max(1, startIndex),
    count: count === undefined ? undefined : Math.max(0, count),
    attributes: { only: attributes, without: excludedAttributes },
  };
}

function aboutService({ method, path: [what = "", id], query, base }: FeedRequest): FeedAnswer | undefined {
  if (what === "ServiceProviderConfig" || what === "ResourceTypes" || what === "Schemas") {
    if (method !== "GET") return notAllowed("GET");
    if (query.filter !== undefined) throw new ScimError(403, "What this service is cannot be filtered.");
    if (what === "ServiceProviderConfig") return { status: 200, body: serviceProviderConfig(base) };
    const all = what === "ResourceTypes" ? resourceTypes(base) : schemaAnswers(base);
    if (id === undefined) return { status: 200, body: listAnswer(all, all.length, 1) };
    const one = all.find((each) => each.id === id);
    if (!one) throw new ScimError(404, `There is no ${what} ${id.slice(0, 120)}.`);
    return { status: 200, body: one };
  }
  if (what === "Bulk" || what === "Me" || what === ".search") throw new ScimError(501, `${what} is not part of this service; expected Users or Groups.`);
  return undefined;
}

async function answerWithin(services: Services, source: string, request: FeedRequest): Promise<FeedAnswer> {
  const { method, path, query, base } = request;
  const about = aboutService(request);
  if (about) return about;
  const [collection = "", id, ...rest] = path;
  const kind = kinds.get(collection);
  if (!kind || rest.length > 0) throw new ScimError(404, "There is nothing at this address; expected Users or Groups.");
  const asked = attributesAsked(query);
  if (id === undefined) {
    if (method === "GET") return listResources(services, source, kind, listAsked(query), base);
    return method === "POST" ? createResource(services, source, kind, request, asked) : notAllowed("GET, POST");
  }
  if (id === ".search") return method === "POST" ? listResources(services, source, kind, searchAsked(request.body), base) : notAllowed("POST");
  switch (method) {
    case "GET":
      return readOne(services, source, kind, id, request, asked);
    case "PUT":
      return replaceResource(services, source, kind, id, request, asked);
    case "PATCH":
      return changeResource(services, source, kind, id, request, asked);
    case "DELETE":
      return endResource(services, source, kind, id, request);
    default:
      return notAllowed("GET, PUT, PATCH, DELETE");
  }
}

/** The source whose token this is; undefined where it is none that works. */
export async function sourceOfToken(services: Services, token: string): Promise<string | undefined> {
  return token === "" || token.length > 200 ? undefined : services.feeds.sourceOf(services.tokens.hashOf(token), services.now());
}

/** Answers a request of a source to the service for people; what is refused is answered by the standard, too. */
export async function answerFeed(services: Services, source: string, request: FeedRequest): Promise<FeedAnswer> {
  try {
    return await answerWithin(services, source, request);
  } catch (error) {
    if (!(error instanceof ScimError)) throw error;
    return { status: error.status, body: errorBody(error) };
  }
}
