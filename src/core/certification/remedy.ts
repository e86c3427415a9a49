import type { FacilityChange } from "../facility/facility-change";
import { normalObject } from "../facility/normal-form";
import type { Plain } from "../facility/object-key";
import { formatInstant } from "../time/instant";
import type { HolderId } from "../facility/holder-id";
import type { Finding, FindingFacts } from "../findings/finding";
import { unreachable } from "../kernel/invariant";
import type { PlannedWithdrawal } from "./line-withdrawal";
import { withdrawDoors } from "./line-withdrawal";
import type { Horizon } from "../table/horizon";
import { withdrawalEffects } from "./withdrawal/withdrawal-effects";

/** What somebody may want to be taken away: doors from a holder, or credentials, which get a status that opens nothing. */
export type Withdrawable = { readonly holder: HolderId } & (
  { readonly doors: readonly string[] } | { readonly credentials: readonly string[]; readonly status: "returned" | "suspended" }
);

/** What would end a finding: the doors that it proves, else the credentials that it is about. */
export function withdrawableOf(finding: FindingFacts & Pick<Finding, "cardholder">): Withdrawable | undefined {
  const { subject, cardholder } = finding;
  if (subject.kind !== "cardholder" && subject.kind !== "credential") return undefined;
  const holder: HolderId = cardholder === undefined ? { kind: subject.kind, id: subject.id } : { kind: "cardholder", id: cardholder };
  switch (finding.rule) {
    case "around-the-clock":
      return { holder, doors: finding.proof.doors };
    case "leaver-live":
      return { holder, credentials: finding.proof.credentials, status: "returned" };
    case "expired-active":
      return { holder, credentials: [subject.id], status: "returned" };
    case "unused":
      // What is not used is asked back only when nobody asks for it.
      return { holder, credentials: [subject.id], status: "suspended" };
    default:
      return unreachable(finding);
  }
}

/** The best way to take it away, and all that this does. What is not in the register any more is left aside. */
export function withdraw(horizon: Horizon, what: Withdrawable): PlannedWithdrawal {
  const { compiled, ahead } = horizon;
  if ("doors" in what)
    return withdrawDoors(
      horizon,
      what.holder,
      what.doors.filter((door) => compiled.doorById.has(door)),
    );
  const changes = what.credentials.flatMap((id): FacilityChange[] => {
    const found = compiled.credentials.at(compiled.credentialById.get(id) ?? -1);
    if (!found || found.life.inactiveFrom <= ahead.from) return [];
    return [
      {
        do: "alter",
        list: "credentials",
        id,
        object: normalObject(
          { ...(found.credential as unknown as Plain), status: what.status, statusSince: formatInstant({ seconds: ahead.from * 60, fraction: "" }) },
          "credentials",
        ),
      },
    ];
  });
  return { changes, searched: "all", alternative: undefined, effects: withdrawalEffects(horizon, changes, { holder: what.holder, doors: [], stays: {} }) };
}
