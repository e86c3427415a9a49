import { localDateText, zoneOf } from "../../time/zone";
import type { CompiledCredential } from "../../compile/compiled-facility";
import { required } from "../../kernel/invariant";
import { instantOf } from "../../facility/time-rules";
import { doorsOfRow } from "../../table/access-rows";
import { liveIn } from "../../paths/timetable";
import { exactTimeframe } from "../../paths/timeframe";
import { ordinary } from "../../paths/paths";
import { minutesADay } from "../../time/civil-day";
import { formatMinute, minuteDown } from "../../time/instant";
import type { EpochMinute } from "../../time/instant";
import { coversPeriod } from "../../events/coverage";
import { coveredAtDoor } from "../use";
import type { FindingContext, FindingRule, Observation } from "../finding";
import { oncePerRow } from "../reach";

const parameters = { days: 90 };

const at = (text: string | undefined): EpochMinute | undefined => (text === undefined ? undefined : minuteDown(instantOf(text)));

/** Dates before the export that events cover, of the days of the rule, at the sites at which a row opens doors (all sites, where it opens none); the least of them. */
function coveredDays({ compiled, asOf, use, ahead }: FindingContext, row: number): number {
  const own = doorsOfRow(ahead.rows, row);
  const doors = own.length > 0 ? [...own] : compiled.doors.map(({ position }) => position);
  const bySite = new Map(doors.map((door) => [required(compiled.doors[door], "positions are valid").door.site, door]));
  return Math.min(parameters.days, ...[...bySite.values()].map((door) => coveredAtDoor(compiled, use, door, asOf, parameters.days)));
}

/** The later of what the source and the events say about the last use. */
function lastUseOf(context: FindingContext, { credential }: CompiledCredential): EpochMinute | undefined {
  const stated = at(credential.lastUse);
  const seen = context.use.lastUse(credential.id);
  return stated === undefined || (seen ?? -Infinity) > stated ? seen : stated;
}

export const unused: FindingRule = {
  key: "unused",
  title: "Active, and not used for a long time",
  source: "PCI DSS v4.0.1 8.2.6 (90 days); NIST SP 800-53 r5 AC-2(3) (both cited from memory)",
  base: 22,
  parameters,
  speaksOfUse: true,
  observe: (context) => {
    const { compiled, asOf } = context;
    const start = (asOf - parameters.days * minutesADay) as EpochMinute;
    const now = exactTimeframe(compiled, asOf, (asOf + 1) as EpochMinute, ordinary);
    const coveredOf = oncePerRow((row) => coveredDays(context, row));
    const observations: Observation[] = [];
    let untold = 0;
    let least = Infinity;
    for (const credential of compiled.credentials) {
      if (liveIn(now, credential).length === 0) continue;
      const last = lastUseOf(context, credential);
      const given = at(credential.credential.issuedAt) ?? credential.life.window.from;
      if (last !== undefined ? last >= start : given > start) continue;
      const covered = coveredOf(context.ahead.liveRow(credential.position));
      // What the source itself states as the last use needs no events; that there was none does.
      if (!coversPeriod(covered, parameters.days) && credential.credential.lastUse === undefined) {
        untold++;
        least = Math.min(least, covered);
        continue;
      }
      const { id } = credential.credential;
      observations.push({
        subject: { kind: "credential", id },
        ...(credential.holder && { cardholder: credential.holder.cardholder.id }),
        proof: { days: parameters.days, ...(last !== undefined && { lastUse: formatMinute(last) }), coveredDays: covered },
        sentence:
          last === undefined
            ? `Active, and not used in ${parameters.days} days, of which events cover ${covered}.`
            : `Active, and not used since ${localDateText(zoneOf(compiled.facility.timeZone), last)}.`,
        remedy: `Suspend credential ${id} until it is asked for.`,
        credentials: [credential],
        since: last ?? (Number.isFinite(given) ? given : start),
      });
    }
    return {
      observations,
      ...(untold > 0 && {
        cannotTell: { reason: `events cover ${least} of ${parameters.days} days where they open doors`, concerned: untold },
      }),
    };
  },
};
