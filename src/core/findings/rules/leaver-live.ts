import { required } from "../../kernel/invariant";
import { formatMinute } from "../../time/instant";
import type { EpochMinute } from "../../time/instant";
import { lastDateText, localDateText, zoneOf } from "../../time/zone";
import type { FindingRule } from "../finding";

export const leaverLive: FindingRule = {
  key: "leaver-live",
  title: "Has left, and a credential is still active",
  source: "PCI DSS v4.0.1 8.2.5 and 9.3.1.1; NIST SP 800-53 r5 PS-4; NERC CIP-004-7 R5.1 (all cited from memory)",
  base: 46,
  parameters: {},
  observe: ({ compiled, asOf }) => ({
    observations: compiled.cardholders.all().flatMap((holder) => {
      const { cardholder, life } = holder;
      const byStatus = cardholder.status === "left" && life.inactiveFrom <= asOf;
      const byEnd = life.window.until <= asOf;
      if (!byStatus && !byEnd) return [];
      const active = holder.credentials
        .map((position) => required(compiled.credentials.at(position), "positions are valid"))
        .filter((credential) => credential.life.inactiveFrom > asOf);
      if (active.length === 0) return [];
      const left = Math.min(byStatus ? life.inactiveFrom : Infinity, byEnd ? life.window.until : Infinity) as EpochMinute;
      const since = Number.isFinite(left) ? left : undefined;
      const ids = active.map(({ credential }) => credential.id);
      const zone = zoneOf(compiled.facility.timeZone);
      const isEnd = byEnd && since === life.window.until && !(byStatus && since === life.inactiveFrom);
      const when = since === undefined ? "" : ` on ${isEnd ? lastDateText(zone, since) : localDateText(zone, since)}`;
      return [
        {
          subject: { kind: "cardholder" as const, id: cardholder.id },
          cardholder: cardholder.id,
          proof: { status: cardholder.status, ...(since !== undefined && { left: formatMinute(since) }), credentials: ids },
          sentence: `Left${when}; ${ids.length === 1 ? "a credential is" : `${ids.length} credentials are`} still active.`,
          remedy: `Return ${ids.length === 1 ? "the credential" : "the credentials"} ${ids.join(", ")}.`,
          credentials: active,
          ...(since !== undefined && { since }),
        },
      ];
    }),
  }),
};
