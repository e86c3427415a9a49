import { compareCodePoints } from "@/core/kernel/compare";
import type { AskedAttributes } from "@/intake/formats/people/scim/answers";
import { answered, listAnswer, mostAtOnce, sortValue, usuallyAtOnce, whole } from "@/intake/formats/people/scim/answers";
import type { ReadFilter } from "@/intake/formats/people/scim/filter";
import { readFilter } from "@/intake/formats/people/scim/filter";
import { ScimError } from "@/intake/formats/people/scim/scim-error";
import type { FedResource, ResourceKind } from "../ports/feeds";
import type { Services } from "../services";
import type { FeedAnswer } from "./feed-request";

/** What of the resources of a kind is asked for (RFC 7644, 3.4.2 and 3.4.3). */
export interface AskedList {
  readonly filter: string | undefined;
  readonly sortBy: string | undefined;
  readonly descending: boolean;
  /** From 1 on. */
  readonly startIndex: number;
  readonly count: number | undefined;
  readonly attributes: AskedAttributes;
}

interface Found {
  readonly total: number;
  readonly resources: readonly FedResource[];
}

async function withOnly(services: Services, source: string, kind: ResourceKind, { only }: ReadFilter): Promise<FedResource[]> {
  if (!only) return [];
  if (only.attribute !== "id") return services.feeds.find(source, kind, only.attribute, only.value);
  const resource = await services.feeds.byId(source, kind, only.value);
  return resource ? [resource] : [];
}

/** Goes through all resources of a kind, keeps of each what its order needs, and reads those that are answered. */
async function lookThrough(
  services: Services,
  source: string,
  kind: ResourceKind,
  asked: AskedList,
  filter: ReadFilter | undefined,
  base: string,
  count: number,
): Promise<Found> {
  const by = asked.sortBy === undefined ? undefined : sortValue(kind, asked.sortBy);
  if (asked.sortBy !== undefined && !by)
    throw new ScimError(400, `There is no attribute ${asked.sortBy} to order by; expected one of this service’s schemas.`, "invalidPath");
  const skip = asked.startIndex - 1;
  const shown: FedResource[] = [];
  const ordered: { id: string; value: string | undefined }[] = [];
  let total = 0;
  for await (const resource of services.feeds.each(source, kind)) {
    const all = whole(resource, base);
    if (filter && !filter.fits(all)) continue;
    total++;
    if (by) ordered.push({ id: resource.id, value: by(all) });
    else if (total > skip && shown.length < count) shown.push(resource);
  }
  if (!by) return { total, resources: shown };
  // What has nothing to be ordered by comes last; in the other order first (RFC 7644, 3.4.2.3).
  ordered.sort((a, b) =>
    a.value === undefined || b.value === undefined ? Number(a.value === undefined) - Number(b.value === undefined) : compareCodePoints(a.value, b.value),
  );
  if (asked.descending) ordered.reverse();
  for (const { id } of ordered.slice(skip, skip + count)) {
    const resource = await services.feeds.byId(source, kind, id);
    if (resource) shown.push(resource);
  }
  return { total, resources: shown };
}

/** The resources of a kind that fit, in parts. */
export async function listResources(services: Services, source: string, kind: ResourceKind, asked: AskedList, base: string): Promise<FeedAnswer> {
  const filter = asked.filter === undefined ? undefined : readFilter(kind, asked.filter);
  const count = Math.min(mostAtOnce, asked.count ?? usuallyAtOnce);
  const skip = asked.startIndex - 1;
  let found: Found;
  if (filter?.only && asked.sortBy === undefined) {
    const fitting = (await withOnly(services, source, kind, filter)).filter((resource) => filter.fits(whole(resource, base)));
    found = { total: fitting.length, resources: fitting.slice(skip, skip + count) };
  } else if (!filter && asked.sortBy === undefined)
    found = { total: await services.feeds.count(source, kind), resources: count === 0 ? [] : await services.feeds.page(source, kind, skip, count) };
  else found = await lookThrough(services, source, kind, asked, filter, base, count);
  return {
    status: 200,
    body: listAnswer(
      found.resources.map((resource) => answered(resource, base, asked.attributes)),
      found.total,
      asked.startIndex,
    ),
  };
}
