import { readFacility } from "@/intake/formats/facility/read-facility";
import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import type { Actor } from "../ports/record";
import { demand } from "../rights";
import type { IntakeOutcome, Services } from "../services";
import { storeContents } from "./store-contents";

export const shortestReason = 10;

const refused = (code: string, message: string): IntakeOutcome => ({
  outcome: "refused",
  errors: [{ level: "error", path: "", code, message }],
  errorCount: 1,
});

/** Takes a wrong intake back as a whole: what stood before it becomes a new snapshot. Only the latest can be: later ones rest on it. */
export async function takeBackSnapshot(services: Services, snapshot: number, reason: string, who: Actor, report: Report): Promise<IntakeOutcome> {
  if (reason.trim().length < shortestReason)
    return refused("no-reason", `Say why it is taken back, in at least ${shortestReason} characters; it stands in the record.`);
  const all = await services.snapshots.list();
  const [latest, before] = all;
  if (latest?.id !== snapshot)
    return refused(
      "not-the-latest",
      `Snapshot ${snapshot} is not the latest${latest ? `, which is ${latest.id}` : ""}; what came after it rests on it. Take the later ones back first.`,
    );
  if (!before) return refused("nothing-before", `Nothing was taken in before snapshot ${snapshot}, so that nothing can take its place.`);
  const checked = readFacility(await services.snapshots.frozen(before.id));
  if (!checked.ok) throw new Error(`Snapshot ${before.id} cannot be read.`);
  const full = await services.snapshots.byId(before.id);
  // It is no intake of a source: nothing is anybody's own by it.
  const contents = { checked: checked.value, fileHash: before.hash, leftOut: full?.leftOut ?? 0, files: before.files, brings: {} };
  return storeContents(services, contents, before.source, who, report, undefined, { id: snapshot, reason: reason.trim() });
}

/** The same for somebody who takes files in. */
export async function takeBackIntake(services: Services, account: Account, snapshot: number, reason: string, report: Report): Promise<IntakeOutcome> {
  demand(account, "take-in");
  return takeBackSnapshot(services, snapshot, reason, { signIn: account.signIn }, report);
}
