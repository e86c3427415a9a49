import type { RowNumber } from "../../table/access-rows";
import { required } from "../../kernel/invariant";
import { instantOf } from "../../facility/time-rules";
import type { Credential } from "../../facility/document";
import { doorsOfRow } from "../../table/access-rows";
import { minutesADay } from "../../time/civil-day";
import { formatMinute, minuteDown } from "../../time/instant";
import type { EpochMinute } from "../../time/instant";
import { coversPeriod } from "../../events/coverage";
import { coveredAtDoor } from "../use";
import type { FindingContext, FindingRule, Observation } from "../finding";
import { oncePerRow } from "../reach";

const parameters = { days: 90 };

const at = (text: string | undefined): EpochMinute | undefined => (text === undefined ? undefined : minuteDown(instantOf(text)));

/**
 * Dates before the export that events cover, of the days of the rule, at the sites at which a row opens doors (all sites with doors, where it opens
 * none); the least of them. Cost: each site once, and the doors of a row.
 */
function coverageOfRows({ compiled, asOf, use, ahead }: FindingContext): (row: RowNumber) => number {
  const sites = [...new Set(compiled.doors.map(({ door }) => door.site))];
  const siteOfDoor = new Map(sites.map((site, i) => [site, i]));
  const siteAt = Int32Array.from(compiled.doors, ({ door }) => siteOfDoor.get(door.site) ?? 0);
  const covered = sites.map((site) =>
    coveredAtDoor(
      compiled,
      use,
      required(
        compiled.doors.find(({ door }) => door.site === site),
        "sites are those of doors",
      ).position,
      asOf,
      parameters.days,
    ),
  );
  const everywhere = Math.min(parameters.days, ...covered);
  return oncePerRow((row) => {
    const doors = doorsOfRow(ahead.rows, row);
    if (doors.length === 0) return everywhere;
    let least = parameters.days;
    for (const door of doors) least = Math.min(least, covered[siteAt[door] as number] as number);
    return least;
  });
}

/** The later of what the source and the events say about the last use. */
function lastUseOf({ use }: FindingContext, credential: Credential): EpochMinute | undefined {
  const stated = at(credential.lastUse);
  const seen = use.lastUse(credential.id);
  return stated === undefined || (seen ?? -Infinity) > stated ? seen : stated;
}

/** Whether each credential is live at the export, its own life and its holder's taken together. */
function liveAtExport({ compiled: { objects }, asOf }: FindingContext): (credential: number) => boolean {
  const { cards, holders } = objects;
  return (credential) => {
    const holder = cards.holderOf[credential] as number;
    const isHeld = holder === -1 || ((holders.from[holder] as number) <= asOf && (holders.until[holder] as number) > asOf);
    return isHeld && (cards.from[credential] as number) <= asOf && (cards.until[credential] as number) > asOf;
  };
}

export const unused: FindingRule<"unused"> = {
  key: "unused",
  source: "PCI DSS v4.0.1 8.2.6 (90 days); NIST SP 800-53 r5 AC-2(3) (both cited from memory)",
  base: 22,
  parameters,
  speaksOfUse: true,
  observe: (context) => {
    const { compiled, asOf } = context;
    const start = (asOf - parameters.days * minutesADay) as EpochMinute;
    const isLive = liveAtExport(context);
    const coveredOf = coverageOfRows(context);
    const observations: Observation<"unused">[] = [];
    let untold = 0;
    let least = Infinity;
    compiled.facility.credentials.forEach((credential, position) => {
      if (!isLive(position)) return;
      const last = lastUseOf(context, credential);
      const given = at(credential.issuedAt) ?? (compiled.objects.cards.from[position] as EpochMinute);
      if (last !== undefined ? last >= start : given > start) return;
      const covered = coveredOf(context.ahead.liveRow(position));
      // What the source itself states as the last use needs no events; that there was none does.
      if (!coversPeriod(covered, parameters.days) && credential.lastUse === undefined) {
        untold++;
        least = Math.min(least, covered);
        return;
      }
      observations.push({
        subject: { kind: "credential", id: credential.id },
        ...(credential.cardholder !== undefined && { cardholder: credential.cardholder }),
        distinct: [],
        proof: { days: parameters.days, ...(last !== undefined && { lastUse: formatMinute(last) }), coveredDays: covered },
        credentials: [position],
        since: last ?? (Number.isFinite(given) ? given : start),
      });
    });
    return { observations, ...(untold > 0 && { cannotTell: { concerned: untold, covered: least, days: parameters.days } }) };
  },
};
