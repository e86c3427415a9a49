import { compareAccess } from "@/core/compare/compare-access";
import { compileFacility } from "@/core/compile/compile-facility";
import { withAllLists } from "@/core/facility/facility";
import { invariant } from "@/core/kernel/invariant";
import { subtract, totalMinutes } from "@/core/time/intervals";
import type { Institute } from "../institute";
import { from, later, tableOf, to } from "../institute";
import type { Measurements } from "../measuring";
import { besidePeer } from "../measuring";
import { PlainLoop } from "../plain";

/** Who gained, lost or has other hours at which door, from one document to another, both compiled. */
export function measureComparison(institute: Institute, measurements: Measurements): void {
  const { document, table, world, compiled, plain } = institute;
  const second = later(document);
  const after = tableOf(compileFacility(withAllLists(second)), world);
  let changes = 0;
  const round = (): void => {
    changes = 0;
    for (const { kind, changes: list } of compareAccess(table, after)) if (kind === "cardholder") changes += list.length;
  };

  const { people, others, share, words } = institute.samplePeople();
  const plainAfter = new PlainLoop(second, from, to);
  const looped = besidePeer([() => round], others, people, (cardholder) => {
    const found: string[] = [];
    for (const { id: door } of compiled.facility.doors) {
      const [was, is] = [plain.cardholderTimetable(cardholder, door), plainAfter.cardholderTimetable(cardholder, door)];
      const [more, less] = [totalMinutes(subtract(is, was)), totalMinutes(subtract(was, is))];
      if (more + less > 0) found.push(`${door} ${more} ${less}`);
    }
    return found.sort().join("\n");
  });
  const told = new Map<string, string>();
  for (const { kind, id, changes: list } of compareAccess(table, after))
    if (kind === "cardholder")
      told.set(
        id,
        list
          .map(({ door, minutesMore, minutesLess }) => `${door} ${minutesMore} ${minutesLess}`)
          .sort()
          .join("\n"),
      );
  people.forEach((cardholder, i) => invariant((told.get(cardholder) ?? "") === looped.value[i], `the plain loop compares ${cardholder} otherwise`));
  measurements.against(
    `comparison of two documents, ${changes.toLocaleString("en-GB")} changes, minutes counted`,
    looped.ours[0] as number,
    "plain loop, schedules remembered",
    looped.ms * share,
    words,
  );
}
