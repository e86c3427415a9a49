import type { ArrivedFile, TakenByItself, WaitReason } from "../ports/deliveries";
import type { Report } from "../ports/progress";
import { system } from "../ports/record";
import type { IntakePreview, Services } from "../services";
import { storeFile } from "./intake-file";
import { previewWaiting } from "./preview-intake";

/** Why somebody has to look at what a file would bring before it is stored; none where nobody has to. */
function reasonsToWait(preview: IntakePreview, atMostPeople: number | undefined): WaitReason[] {
  const why: WaitReason[] = atMostPeople === undefined ? [{ code: "looks-first" }] : [];
  switch (preview.kind) {
    case "refused":
      return [preview.needsProfile === true ? { code: "needs-profile" } : { code: "refused", count: preview.errorCount }];
    case "events":
      return preview.leftOut > 0 ? [...why, { code: "left-out", count: preview.leftOut }] : why;
    default: {
      const people = preview.effect?.people ?? 0;
      if (preview.leftOut > 0) why.push({ code: "left-out", count: preview.leftOut });
      if (preview.tables?.asOfFrom === "clock") why.push({ code: "no-moment" });
      if (preview.tables && preview.tables.unread.length > 0) why.push({ code: "unread", count: preview.tables.unread.length });
      if (atMostPeople !== undefined && people > atMostPeople) why.push({ code: "effect", people, atMost: atMostPeople });
      return why;
    }
  }
}

/**
 * Takes in what arrived from a source if it fits the source's profile without a question and changes the access of no more people than is said; else it waits,
 * with the reasons, and nothing is stored.
 */
export async function takeByItself(services: Services, { path, name, source, asOf }: ArrivedFile, report: Report): Promise<TakenByItself> {
  const preview = await previewWaiting(services, { path, name, source, profile: undefined, asOf }, report);
  const { atMostPeople } = await services.sources.rhythm(source);
  const why = reasonsToWait(preview, atMostPeople);
  if (why.length > 0) return { outcome: "waits", why };
  const readAs = {
    profile: await services.sources.profile(source),
    owns: await services.sources.owns(source),
    ...(asOf !== undefined && { asOf }),
  };
  const on = preview.kind === "facility" ? preview.on : undefined;
  const stored = await storeFile(services, path, name, source, system, { leaveOut: 0, readAs, ...(on !== undefined && { on }) }, report);
  return stored.outcome === "refused" ? { outcome: "waits", why: [{ code: "refused", count: stored.errorCount }] } : { outcome: "taken" };
}
