import { always } from "../../time/instant";
import type { Judged } from "../judged";
import { minuteOf } from "../lives";
import { rule, sources, standards } from "../rule";
import type { Found } from "../flag";
import { localDate, writtenMinute } from "../written";

/** So many dates back is as far as anybody looks for a use that never was. */
const longestDates = 3653;

/** A credential that was given a while ago and has never been used. */
export const neverUsed = rule({
  key: "never-used",
  base: 20,
  source: sources(standards.nist("AC-2(3)"), standards.practice),
  parameters: { days: 30 },
  find: (judged, { days }): Found => neverUsedFor(judged, days),
});

/** The same, as the rule about long unused credentials asks it: what was never used is flagged once. */
export function neverUsedFor(judged: Judged, days: number) {
  const { lives, asOf } = judged;
  const flags = [];
  const untold = [];
  for (const [i, credential] of judged.facility.credentials.entries()) {
    if (credential.firstUse !== undefined || credential.lastUse !== undefined || !lives.isLive(i)) continue;
    if (judged.events.lastGrantedOf(i) !== undefined) continue;
    const { from } = lives.windowOfCredential(i);
    const given = minuteOf(credential.issuedAt) ?? (from === always ? undefined : from);
    if (given === undefined || given > judged.daysBefore(days)) continue;
    const isFar = given < judged.daysBefore(longestDates);
    const datesSince = (site: string): number => {
      const zone = judged.zoneOfSite(site);
      return isFar ? longestDates : Math.min(longestDates, localDate(zone, asOf) - localDate(zone, given));
    };
    const cannot = judged.untoldAt(credential.id, judged.sitesOfRow(judged.liveRow(i)), datesSince);
    if (cannot) untold.push(cannot);
    else flags.push({ subject: { kind: "credential" as const, id: credential.id }, proof: { given: writtenMinute(given) }, since: given });
  }
  return { flags, untold };
}
