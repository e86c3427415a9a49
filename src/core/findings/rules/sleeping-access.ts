import { minutesADay } from "../../time/civil-day";
import { doorsOfRow } from "../../table/access-rows";
import { rule, sources, standards } from "../rule";

/** A credential out of use that would open something sensitive the moment somebody makes it active. */
export const sleepingAccess = rule({
  key: "sleeping-access",
  base: 16,
  source: sources(standards.nist("AC-2(3)"), standards.practice),
  parameters: { days: 30, sensitivity: 2 },
  find: (judged, { days, sensitivity }) => {
    const { lives, facility, asOf } = judged;
    return {
      flags: facility.credentials.flatMap(({ id, status }, i) => {
        if (lives.isMarkedActive(i) && asOf + days * minutesADay >= lives.laterStart(i)) return [];
        const holder = lives.holderOf(i);
        if (holder !== undefined && lives.hasLeft(holder)) return [];
        const { awake } = judged;
        const doors = Array.from(doorsOfRow(awake.rows, awake.liveRow(i))).filter((door) => judged.isSensitive(door, sensitivity));
        if (doors.length === 0) return [];
        const proof = { status, areas: judged.sensitiveAreasOf(doors, sensitivity), doors: doors.length };
        return [{ subject: { kind: "credential" as const, id }, proof }];
      }),
    };
  },
});
