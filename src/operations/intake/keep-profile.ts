import type { SourceProfile } from "@/intake/profile/source-profile";
import type { Actor } from "@/operations/ports/record";
import type { Services } from "@/operations/services";

/** Keeps how a source's files were read; what is known of those that did not come this time stays. */
export async function keepProfile(services: Services, source: string, profile: SourceProfile | undefined, who: Actor): Promise<void> {
  if (!profile || source === "") return;
  const before = await services.sources.profile(source);
  const named = new Set(profile.tables.map(({ name }) => name));
  const tables = [...profile.tables, ...(before?.tables.filter(({ name }) => !named.has(name)) ?? [])];
  const calendars = { ...before?.calendars, ...profile.calendars };
  await services.sources.putProfile(source, { ...before, ...profile, tables, ...(Object.keys(calendars).length > 0 && { calendars }) }, who, services.now());
}
