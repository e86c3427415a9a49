import { compileFacility } from "@/core/compile/compile-facility";
import type { OwnershipProfile } from "@/core/facility/ownership";
import { checkOrders } from "../certification/check-orders";
import { openOccasions } from "../certification/occasions";
import { countEventsBy, findingsIn, keepFindings } from "../findings/look-for-findings";
import { openRegister } from "../register/open-register";
import type { Actor } from "../ports/record";
import type { Report } from "../ports/progress";
import type { PrintedIssue } from "../ports/snapshots";
import type { IntakeContents } from "./preview-contents";
import { broughtDocument, snapshotOf } from "./preview-contents";
import type { IntakeOutcome, Services } from "../services";

/** Stores the text of a facility document, as far as its source owns what is in it, as a new snapshot, all or nothing, and looks for its findings. */
export async function storeFacility(
  services: Services,
  text: string,
  source: string,
  who: Actor,
  report: Report,
  { owns, leaveOut, on }: { readonly owns: OwnershipProfile; readonly leaveOut: number; readonly on?: number | null } = { owns: {}, leaveOut: 0 },
): Promise<IntakeOutcome> {
  report({ step: "checking", done: 0, of: 1 });
  const document = await broughtDocument(services, text, source, owns);
  if ("errors" in document) return { outcome: "refused", ...document };
  if (document.brought.leftOut !== leaveOut)
    return {
      outcome: "refused",
      errors: document.remainder.refused.map(({ column, value, reason }) => ({
        level: "error",
        path: column,
        code: "refused-row",
        message: `Found ${value}; ${reason}.`,
      })),
      errorCount: document.remainder.refused.length,
    };
  return storeContents(services, document.brought, source, who, report, on);
}

const changedMeanwhile = (snapshot: number): PrintedIssue => ({
  level: "error",
  path: "",
  code: "changed-meanwhile",
  message: `Snapshot ${snapshot} was stored after this was read, so that what it would do now is not what was shown. Nothing was stored; read the file again.`,
});

/**
 * Stores a checked facility as a new snapshot, all or nothing. Its findings are worked out before it takes the place of the one before: a register
 * of which they cannot be does not become the present one. Where `on` names the snapshot that its effect was shown against, it is refused once another
 * has been stored: what it would do now, nobody has seen. With `takesBack` it is what was before an intake that was wrong.
 */
export async function storeContents(
  services: Services,
  brought: IntakeContents,
  source: string,
  who: Actor,
  report: Report,
  on?: number | null,
  takesBack?: { readonly id: number; readonly reason: string },
): Promise<IntakeOutcome> {
  const next = snapshotOf(services, brought, source);
  const isNew = (await services.snapshots.latest())?.hash !== next.hash;
  report({ step: "access", done: 0, of: 1 });
  const compiled = isNew ? compileFacility(next.normal) : undefined;
  const people = brought.delivery?.people;
  const named = people && source !== "" ? { source, people: new Set(people) } : undefined;
  const found = compiled && (await findingsIn(services, compiled, undefined, named));
  let stored: Awaited<ReturnType<Services["snapshots"]["store"]>> | undefined;
  try {
    stored = takesBack
      ? await services.snapshots.takeBack(takesBack, next, who, services.now(), report)
      : await services.snapshots.store(next, who, services.now(), report, on);
  } finally {
    // What was counted for a register that did not become the present one would speak falsely of the one that is.
    const present = found && stored?.outcome !== "stored" ? await openRegister(services) : undefined;
    if (present) await countEventsBy(services, present.compiled);
  }
  const { outcome, id, changes } = stored;
  if (outcome === "changed-meanwhile") return { outcome: "refused", errors: [changedMeanwhile(id)], errorCount: 1 };
  if (outcome === "unchanged") return { outcome, what: next.normal.name, snapshot: id };
  report({ step: "findings", done: 0, of: 1 });
  // The snapshot can do without them: they are looked for again when somebody asks, should this be cut off here.
  if (found && compiled) await keepFindings(services, id, compiled, found);
  const snapshot = compiled && (await services.snapshots.byId(id));
  if (snapshot) {
    await checkOrders(services, { snapshot, compiled });
    await openOccasions(services, { snapshot, compiled });
  }
  // What was laid out for them is kept, so that the first question finds it.
  if (compiled) await services.layOut(next, compiled);
  return { outcome, what: next.normal.name, snapshot: id, rows: changes.added };
}
