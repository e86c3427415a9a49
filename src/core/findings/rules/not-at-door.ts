import { doorsByUnit } from "../../units/unit-sources";
import { compareUnit } from "../../units/compare-unit";
import type { FlagOf, Untold } from "../flag";
import { rule, sources, standards } from "../rule";
import { writtenMinute } from "../written";

/**
 * A door at which the unit decides otherwise than the register says, by what it last told that it holds. Where the door stands free otherwise, which goes for
 * anybody, the finding is of the door alone. A register that is judged without anything known of units is not judged by this rule.
 */
export const notAtDoor = rule({
  key: "not-at-door",
  base: 40,
  source: sources(standards.nist("CM-3"), standards.practice),
  parameters: { reportDays: 1 },
  find: (judged, { reportDays }) => {
    const { unitReports, compiled } = judged;
    if (!unitReports) return { flags: [] };
    const reports = new Map(unitReports.map((report) => [report.unit, report]));
    const since = judged.daysBefore(reportDays);
    const flags: FlagOf<"not-at-door">[] = [];
    const untold: Untold[] = [];
    for (const [unit, doors] of doorsByUnit(compiled)) {
      const report = reports.get(unit);
      if (!report || report.at < since) untold.push(...doors.map(({ door }) => ({ id: door.id })));
      else
        for (const { door, credential, first, unit: decides, minutesMore, minutesLess } of compareUnit(judged.unitSources, unit, report.memory))
          flags.push({
            subject: { kind: "door", id: door },
            ...(credential !== undefined && { distinct: [credential] }),
            proof: { first: writtenMinute(first), controller: decides, minutes: minutesMore + minutesLess },
          });
    }
    return { flags, untold };
  },
});
