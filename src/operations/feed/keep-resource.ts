import type { AskedAttributes } from "@/intake/formats/people/scim/answers";
import { addressOf, answered, etagOf } from "@/intake/formats/people/scim/answers";
import { patchResource } from "@/intake/formats/people/scim/patch";
import { readResource } from "@/intake/formats/people/scim/resource";
import { ScimError } from "@/intake/formats/people/scim/scim-error";
import type { FedResource, JsonObject, ResourceKind } from "../ports/feeds";
import type { Services } from "../services";
import type { FeedAnswer, FeedRequest } from "./feed-request";

const triedAtMost = 5;

const taken = (): ScimError => new ScimError(409, "Another resource has this userName; expected one that is free.", "uniqueness");
const gone = (kind: ResourceKind, id: string): ScimError => new ScimError(404, `There is no ${kind} with the id ${id.slice(0, 80)}.`);

const answerOf = (resource: FedResource, base: string, asked: AskedAttributes, status = 200): FeedAnswer => ({
  status,
  body: answered(resource, base, asked),
  headers: { etag: etagOf(resource.version), ...(status === 201 && { location: addressOf(base, resource.kind, resource.id) }) },
});

/** Whether a list of entity tags has that of a version. They are weak here, and compared as such. */
const names = (tags: string, version: number): boolean => {
  const plain = (tag: string): string => tag.trim().replace(/^W\//, "");
  return tags.trim() === "*" || tags.split(",").some((tag) => plain(tag) === plain(etagOf(version)));
};

/** Refuses a change of another version than the one that was asked for. */
function demandVersion({ version }: FedResource, { ifMatch }: FeedRequest): void {
  if (ifMatch !== undefined && !names(ifMatch, version))
    throw new ScimError(412, `The resource has version ${etagOf(version)}; expected the one that If-Match names.`);
}

async function found(services: Services, source: string, kind: ResourceKind, id: string): Promise<FedResource> {
  const resource = await services.feeds.byId(source, kind, id);
  if (!resource) throw gone(kind, id);
  return resource;
}

/** A new resource of a source (RFC 7644, 3.3). */
export async function createResource(
  services: Services,
  source: string,
  kind: ResourceKind,
  { body, base }: FeedRequest,
  asked: AskedAttributes,
): Promise<FeedAnswer> {
  const created = await services.feeds.create(source, kind, readResource(kind, body), services.now());
  if (created === "taken") throw taken();
  if (created === "too-many") throw new ScimError(507, "This source has pushed as many resources as are kept of one; expected fewer, or smaller ones.");
  return answerOf(created, base, asked, 201);
}

/** One resource (RFC 7644, 3.4.1); nothing but its tag where the asker has it so already. */
export async function readOne(
  services: Services,
  source: string,
  kind: ResourceKind,
  id: string,
  { base, ifNoneMatch }: FeedRequest,
  asked: AskedAttributes,
): Promise<FeedAnswer> {
  const resource = await found(services, source, kind, id);
  if (ifNoneMatch !== undefined && names(ifNoneMatch, resource.version)) return { status: 304, headers: { etag: etagOf(resource.version) } };
  return answerOf(resource, base, asked);
}

/** Changes a resource if it still is as the asker knows it; read and written anew where another change came between, unless a version was named. */
async function changed(
  services: Services,
  source: string,
  kind: ResourceKind,
  id: string,
  request: FeedRequest,
  to: (before: FedResource) => JsonObject,
): Promise<FedResource> {
  for (let tried = 0; tried < triedAtMost; tried++) {
    const before = await found(services, source, kind, id);
    demandVersion(before, request);
    const body = to(before);
    // What changes nothing is no new version.
    if (JSON.stringify(body) === JSON.stringify(before.body)) return before;
    const after = await services.feeds.change(source, kind, before, body, services.now());
    if (after === "taken") throw taken();
    if (after !== "changed-meanwhile") return after;
  }
  throw new ScimError(409, "The resource is being changed by others at the same time, or is too large; nothing was changed.");
}

/** A resource in the place of another (RFC 7644, 3.5.1). */
export async function replaceResource(
  services: Services,
  source: string,
  kind: ResourceKind,
  id: string,
  request: FeedRequest,
  asked: AskedAttributes,
): Promise<FeedAnswer> {
  return answerOf(await changed(services, source, kind, id, request, ({ body }) => readResource(kind, request.body, body)), request.base, asked);
}

/** A resource changed in part (RFC 7644, 3.5.2). */
export async function changeResource(
  services: Services,
  source: string,
  kind: ResourceKind,
  id: string,
  request: FeedRequest,
  asked: AskedAttributes,
): Promise<FeedAnswer> {
  return answerOf(await changed(services, source, kind, id, request, ({ body }) => patchResource(kind, id, body, request.body)), request.base, asked);
}

/** Ends a resource (RFC 7644, 3.6): to the sender it is gone; the register will say that the person left. */
export async function endResource(services: Services, source: string, kind: ResourceKind, id: string, request: FeedRequest): Promise<FeedAnswer> {
  for (let tried = 0; tried < triedAtMost; tried++) {
    const resource = await found(services, source, kind, id);
    demandVersion(resource, request);
    if (await services.feeds.end(source, kind, resource, services.now())) return { status: 204 };
  }
  throw new ScimError(409, "The resource is being changed by others at the same time; it was not ended.");
}
