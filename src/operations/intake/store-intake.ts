import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import { demand } from "../rights";
import type { IntakeOutcome, Services } from "../services";
import { areEvents, storeFile } from "./intake-file";
import type { AskedPreview } from "./preview-intake";

/** A file as it was previewed for a source, which is the one that it is stored for unless that owns just what any other would. */
export interface AskedIntake extends AskedPreview {
  readonly previewedFor: string;
  /** How many of its rows may be left out. */
  readonly leaveOut: number;
  /** The snapshot that its effect was shown against; null for none. */
  readonly on: number | null;
}

const refused = (path: string, code: string, message: string): IntakeOutcome => ({
  outcome: "refused",
  errors: [{ level: "error", path, code, message }],
  errorCount: 1,
});

/** Stores a file that was shown, all or nothing. */
export async function storeIntake(
  services: Services,
  account: Account,
  { path, name, source, previewedFor, profile, asOf, leaveOut, on }: AskedIntake,
  report: Report,
): Promise<IntakeOutcome> {
  demand(account, "take-in");
  if (source === "" && !(await areEvents(services, path, name, profile)))
    return refused(name, "no-source", "Name the source that sends this: what it brings is its own from then on, and orders for it go there.");
  const [owns, previewed] = [await services.sources.owns(source), await services.sources.owns(previewedFor)];
  if (JSON.stringify(owns) !== JSON.stringify(previewed))
    return refused(
      name,
      "other-profile",
      `What ${source} owns is set by its profile, and this was not read by it. Choose ${source} before the file is read, so that what you see is what is stored.`,
    );
  const readAs = { profile: profile ?? (await services.sources.profile(previewedFor)), owns, ...(asOf !== undefined && { asOf }) };
  return storeFile(services, path, name, source, { signIn: account.signIn }, { leaveOut, readAs, on }, report);
}
