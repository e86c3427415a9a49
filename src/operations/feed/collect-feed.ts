import type { FeedTable } from "@/intake/formats/people/scim/people-tables";
import { tablesOfFeed } from "@/intake/formats/people/scim/people-tables";
import type { Services } from "../services";

/** What a source has pushed until a moment, as tables to take in. */
export interface CollectedFeed {
  readonly asOf: string;
  readonly tables: readonly FeedTable[];
}

/** Collects what a source has pushed; undefined where it has pushed nothing. */
export async function collect(services: Services, source: string): Promise<CollectedFeed | undefined> {
  const asOf = services.now();
  const resources = await services.feeds.all(source);
  return resources.length === 0 ? undefined : { asOf, tables: tablesOfFeed(resources) };
}
