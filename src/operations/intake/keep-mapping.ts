import type { BundleMapping } from "@/intake/formats/tables/read-bundle";
import type { Actor } from "@/operations/ports/record";
import type { Services } from "@/operations/services";

/** Keeps how a source's files were understood; those of its files that did not come this time stay as they are. */
export async function keepMapping(services: Services, source: string, mapping: BundleMapping, who: Actor): Promise<void> {
  if (Object.keys(mapping).length > 0) await services.sources.put(source, { ...(await services.sources.mapping(source)), ...mapping }, who, services.now());
}
