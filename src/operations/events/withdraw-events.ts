import type { Account } from "../ports/accounts";
import { unwatched } from "../ports/progress";
import type { Report } from "../ports/progress";
import type { Actor } from "../ports/record";
import { demand } from "../rights";
import type { Services } from "../services";
import { lookForFindings } from "../findings/look-for-findings";
import { placesNow } from "../intake/intake-file";

/** Takes a file of events back for whoever works on this machine, with all that was counted from it, and looks for findings anew; false where there is none. */
export async function takeEventsBack(services: Services, who: Actor, file: number, report: Report = unwatched): Promise<boolean> {
  report({ step: "storing", done: 0, of: 1 });
  const isDone = await services.events.withdraw(file, await placesNow(services), who, services.now());
  if (!isDone) return false;
  report({ step: "findings", done: 0, of: 1 });
  await lookForFindings(services);
  return true;
}

/** Takes a file of events back, with all that was counted from it, and looks for findings anew; false where there is no such file. */
export async function withdrawEvents(services: Services, account: Account, file: number, report: Report): Promise<boolean> {
  demand(account, "take-in");
  return takeEventsBack(services, { signIn: account.signIn }, file, report);
}
