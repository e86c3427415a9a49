import { applyChanges } from "@/core/drafting/apply-changes";
import { settleDraft } from "@/core/drafting/settle-draft";
import { checkFacility } from "@/core/facility/check-facility";
import { issueWords } from "@/intake/formats/facility/issue-words";
import { errorsOf } from "./draft-effect";
import type { ClosingOutcome } from "./draft-outcomes";
import { openDraft, withChanges } from "./draft-register";
import type { Account } from "../../ports/accounts";
import type { NewSnapshot } from "../../ports/snapshots";
import type { Report } from "../../ports/progress";
import { snapshotOf } from "../../intake/preview-contents";
import { demand } from "../../rights";
import type { Services } from "../../services";
import { readOwnership } from "./show-draft";
import { openRegister } from "../open-register";
import { openOccasions } from "../../certification/occasions";
import { checkOrders } from "../../certification/check-orders";
import { lookForFindings } from "../../findings/look-for-findings";

const refused = (...reasons: readonly string[]): ClosingOutcome => ({ outcome: "refused", reasons });
const reasonsShown = 10;

/** The source that a snapshot names where Nomade itself changed what it owns. */
export const ownSource = (draft: number): string => `Nomade, draft ${draft}`;

/**
 * Closes a draft as it was seen: what Nomade owns becomes a snapshot, what sources own becomes orders, all or nothing. Refused
 * where something clashes or does not hold, or where the draft or the register was changed meanwhile.
 */
export async function closeDraft(
  services: Services,
  account: Account,
  id: number,
  seen: { readonly revision: number; readonly snapshot: number },
  report: Report,
): Promise<ClosingOutcome> {
  demand(account, "edit-drafts");
  report({ step: "checking", done: 0, of: 1 });
  const open = await openDraft(services, account, id);
  if (open?.draft.state !== "open") return refused("This draft is open no more.");
  const { draft, register, changes } = open;
  if (draft.revision !== seen.revision || register.snapshot.id !== seen.snapshot)
    return refused("The draft or the register was changed since this page was opened. Look at it again, then close it.");
  if (changes.length === 0) return refused("There is nothing in this draft. Drop it instead.");
  const { rebased } = withChanges(open);
  const clashing = rebased.filter(({ clashes }) => clashes.length > 0).length;
  if (clashing > 0)
    return refused(`${clashing} ${clashing === 1 ? "change clashes" : "changes clash"} with what the register says by now. Decide which shall hold first.`);
  const errors = errorsOf(open);
  if (errors.length > 0) return refused(...errors.slice(0, reasonsShown).map(({ name, message }) => `${name}: ${message}`));
  const { applied, orders } = settleDraft(rebased, await readOwnership(services));

  let snapshot: NewSnapshot | undefined;
  if (applied.length > 0) {
    const checked = checkFacility(applyChanges(register.compiled.facility, applied).facility);
    if (!checked.ok)
      return refused(
        "What Nomade owns cannot be applied before its orders are carried out:",
        ...checked.error.slice(0, reasonsShown).map((issue) => `${issue.path}: ${issueWords(issue)}`),
      );
    // Rows that the register lacks it lacks still: answers go on saying so.
    snapshot = snapshotOf(services, { checked: checked.value, fileHash: "", leftOut: register.snapshot.leftOut, files: [], brings: {} }, ownSource(id));
  }
  const closed = await services.drafts.close(
    { id, revision: draft.revision, onSnapshot: register.snapshot.id },
    { orders, snapshot },
    account,
    services.now(),
    report,
  );
  if (closed.outcome !== "closed") return refused("The draft or the register was changed just now. Look at it again, then close it.");
  if (closed.snapshot !== undefined) {
    report({ step: "findings", done: 0, of: 1 });
    await lookForFindings(services, closed.snapshot);
    const stored = await openRegister(services, closed.snapshot);
    if (stored) {
      await checkOrders(services, stored);
      await openOccasions(services, stored);
    }
  }
  return { outcome: "closed", snapshot: closed.snapshot, orders: orders.length };
}
