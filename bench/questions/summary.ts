import { compileFacility } from "@/core/compile/compile-facility";
import { withAllLists } from "@/core/facility/facility";
import { usualBusinessHours, businessLines } from "@/core/findings/business-hours";
import { invariant, required } from "@/core/kernel/invariant";
import { doorsOfRow, timelineAt } from "@/core/table/access-rows";
import { pairBlocks, summaries, summaryGroups } from "@/core/table/pair-summaries";
import { subtract, totalMinutes } from "@/core/time/intervals";
import type { IntervalSet } from "@/core/time/intervals";
import { openDuring } from "@/core/time/schedule";
import type { Institute } from "../institute";
import { from, tableOf, to } from "../institute";
import type { Measurements } from "../measuring";
import { besidePeer } from "../measuring";

/** What a plain loop sums up of a cardholder, door by door: minutes open, minutes out of hours, first and last opening. */
function plainSummary({ compiled, plain }: Institute): (cardholder: string) => ReadonlyMap<string, readonly number[]> {
  const { facility } = compiled;
  const businessOf = new Map<string, IntervalSet>();
  return (cardholder) => {
    const found = new Map<string, readonly number[]>();
    for (const { id: door, site } of facility.doors) {
      const open = plain.cardholderTimetable(cardholder, door);
      if (open.length === 0) continue;
      const at = required(
        facility.sites.find((one) => one.id === site),
        "valid",
      );
      const doorAt = required(compiled.doors[required(compiled.doorById.get(door), "valid")], "valid");
      const days = doorAt.calendar === undefined ? undefined : compiled.calendars[doorAt.calendar];
      let business = businessOf.get(at.id);
      if (!business) businessOf.set(at.id, (business = openDuring(usualBusinessHours, days, doorAt.zone, from, to)));
      found.set(door, [totalMinutes(open), totalMinutes(subtract(open, business)), open[0] as number, open[open.length - 1] as number]);
    }
    return found;
  };
}

/** The whole who × where of a year, from the parsed document. */
export function measureSummary(institute: Institute, measurements: Measurements): void {
  const { document, table, compiled, doorId } = institute;
  const summed = () => {
    const made = tableOf(compileFacility(withAllLists(document)));
    return [made, summaries(made, businessLines(made, made.compiled))] as const;
  };
  let pairs = 0;
  const byGroups = (): void => {
    pairs = 0;
    for (const group of summaryGroups(...summed())) pairs += (group.to - group.from) * (group.end - group.start);
  };
  let written = 0;
  const writtenOut = (): void => {
    written = 0;
    for (const { length } of pairBlocks(...summed())) written += length;
  };

  const { people, others, share, words } = institute.samplePeople();
  const looped = besidePeer([() => byGroups, () => writtenOut], others, people, plainSummary(institute));
  const all = summaries(table, businessLines(table, compiled));
  people.forEach((cardholder, i) => {
    const row = table.rowOfCardholder(required(compiled.cardholderById.get(cardholder), "valid"));
    const found = Array.from(doorsOfRow(table.rows, row), (door) => {
      const { minutes, outOfHoursMinutes, first, last } = all.of(timelineAt(table.rows, row, door), door);
      return `${doorId(door)} ${minutes} ${outOfHoursMinutes} ${first} ${last}`;
    });
    const theirs = [...(looped.value[i] ?? [])].map(([door, numbers]) => `${door} ${numbers.join(" ")}`);
    invariant(found.sort().join("\n") === theirs.sort().join("\n"), `the plain loop sums up ${cardholder} otherwise`);
  });
  invariant(pairs === all.totals().pairs && written === pairs, "all pairs are there");
  measurements.against(
    `year summary of all ${pairs.toLocaleString("en-GB")} pairs that open, from the parsed document`,
    looped.ours[0] as number,
    "plain loop, schedules remembered",
    looped.ms * share,
    words,
  );
  measurements.against("the same with each pair written out", looped.ours[1] as number, "plain loop, schedules remembered", looped.ms * share, words);
}
