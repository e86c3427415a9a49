import { credentialsOf } from "../../compile/holdings";
import { inactiveFrom } from "../../compile/lives";
import { required } from "../../kernel/invariant";
import { formatMinute } from "../../time/instant";
import type { EpochMinute } from "../../time/instant";
import type { FindingRule, Observation } from "../finding";

export const leaverLive: FindingRule<"leaver-live"> = {
  key: "leaver-live",
  source: "PCI DSS v4.0.1 8.2.5 and 9.3.1.1; NIST SP 800-53 r5 PS-4; NERC CIP-004-7 R5.1 (all cited from memory)",
  base: 46,
  parameters: {},
  observe: ({ compiled, asOf }) => {
    const { facility, vocabulary, holdings, objects } = compiled;
    const observations: Observation<"leaver-live">[] = [];
    facility.cardholders.forEach((cardholder, position) => {
      // The end of a status and that of the window are told apart only of those whose use is over.
      if ((objects.holders.until[position] as number) > asOf) return;
      const [byStatus, byEnd] = [inactiveFrom(cardholder), vocabulary.windows.of(cardholder).outward.until];
      const hasLeft = cardholder.status === "left" && byStatus <= asOf;
      const isOver = byEnd <= asOf;
      if (!hasLeft && !isOver) return;
      const active = credentialsOf(holdings, position).filter(
        (credential) => inactiveFrom(required(facility.credentials[credential], "positions are valid")) > asOf,
      );
      if (active.length === 0) return;
      const left = Math.min(hasLeft ? byStatus : Infinity, isOver ? byEnd : Infinity) as EpochMinute;
      const isKnown = Number.isFinite(left);
      observations.push({
        subject: { kind: "cardholder", id: cardholder.id },
        cardholder: cardholder.id,
        distinct: [],
        proof: {
          status: cardholder.status,
          ...(isKnown && { left: formatMinute(left), leftBy: hasLeft && left === byStatus ? ("status" as const) : ("end" as const) }),
          credentials: Array.from(active, (credential) => required(facility.credentials[credential], "positions are valid").id),
        },
        credentials: active,
        ...(isKnown && { since: left }),
      });
    });
    return { observations };
  },
};
