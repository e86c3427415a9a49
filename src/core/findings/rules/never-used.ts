import type { Position } from "../../compile/position-index";
import { always } from "../../time/instant";
import type { Judged } from "../judged";
import { minuteOf } from "../lives";
import { rule, sources, standards } from "../rule";
import type { FlagOf, Untold } from "../flag";
import { localDate, writtenMinute } from "../written";

/** So many dates back is as far as anybody looks for a use that never was. */
const longestDates = 3653;

/** A credential that was given a while ago and has never been used. */
export const neverUsed = rule({
  key: "never-used",
  base: 20,
  source: sources(standards.nist("AC-2(3)"), standards.practice),
  parameters: { days: 30 },
  find: (judged, { days }) => {
    const flags: FlagOf<"never-used">[] = [];
    const untold: Untold[] = [];
    judged.facility.credentials.forEach((_, i) => {
      const found = neverUsedOf(judged, i, days);
      if (found && "proof" in found) flags.push(found);
      else if (found) untold.push(found);
    });
    return { flags, untold };
  },
});

/** The same of one credential, as the rule about long unused ones asks it: what was never used is flagged once. */
export function neverUsedOf(judged: Judged, position: Position, days: number): FlagOf<"never-used"> | Untold | undefined {
  const { lives, asOf } = judged;
  const credential = lives.credential(position);
  if (credential.firstUse !== undefined || credential.lastUse !== undefined || !lives.isLive(position)) return undefined;
  if (judged.events.lastGrantedOf(position) !== undefined) return undefined;
  const { from } = lives.windowOfCredential(position);
  const given = minuteOf(credential.issuedAt) ?? (from === always ? undefined : from);
  if (given === undefined || given > judged.daysBefore(days)) return undefined;
  const isFar = given < judged.daysBefore(longestDates);
  const datesSince = (site: string): number => {
    const zone = judged.zoneOfSite(site);
    return isFar ? longestDates : Math.min(longestDates, localDate(zone, asOf) - localDate(zone, given));
  };
  return (
    judged.untoldAt(credential.id, judged.sitesOfRow(judged.liveRow(position)), datesSince) ?? {
      subject: { kind: "credential", id: credential.id },
      proof: { given: writtenMinute(given) },
      since: given,
    }
  );
}
