import { always } from "../../time/instant";
import { minuteOf } from "../lives";
import { rule, sources, standards } from "../rule";
import type { FlagOf, Untold } from "../flag";
import { own } from "../settings";
import { writtenMinute } from "../written";
import { neverUsed, neverUsedOf } from "./never-used";

/** A live credential that has not been used for long. */
export const unused = rule({
  key: "unused",
  base: 22,
  source: sources(standards.pci("8.2.6 (90 days)"), standards.nist("AC-2(3)")),
  parameters: { days: 90 },
  find: (judged, { days }) => {
    const { lives } = judged;
    const limit = judged.daysBefore(days);
    const neverDays = own(own(judged.settings.parameters, neverUsed.key), "days") ?? neverUsed.parameters.days;
    const wantingFor = judged.wantingFor(days);
    const flags: FlagOf<"unused">[] = [];
    const untold: Untold[] = [];
    judged.facility.credentials.forEach((credential, i) => {
      if (!lives.isLive(i)) return;
      const last = judged.lastUse(i);
      if (last !== undefined && last >= limit) return;
      const { from } = lives.windowOfCredential(i);
      const stated = minuteOf(credential.issuedAt) ?? (from === always ? undefined : from);
      if (stated !== undefined && stated > limit) return;
      const never = neverUsedOf(judged, i, neverDays);
      if (never && "proof" in never) return;
      const sites = credential.lastUse === undefined ? wantingFor(judged.sitesOfRow(judged.liveRow(i))) : undefined;
      if (sites) untold.push({ id: credential.id, sites });
      else
        flags.push({
          subject: { kind: "credential", id: credential.id },
          proof: { days, lastUse: last === undefined ? undefined : writtenMinute(last) },
          since: last ?? stated ?? limit,
        });
    });
    return { flags, untold };
  },
});
