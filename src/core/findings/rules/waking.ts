import { minutesADay } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import { rule, sources, standards } from "../rule";
import { writtenMinute } from "../written";

/** A credential that begins soon and will open something sensitive. */
export const waking = rule({
  key: "waking",
  base: 10,
  source: sources(standards.nist("AC-2(3)"), standards.practice),
  parameters: { days: 30, sensitivity: 2 },
  find: (judged, { days, sensitivity }) => {
    const { lives, facility, asOf, end } = judged;
    return {
      flags: facility.credentials.flatMap(({ id }, i) => {
        if (!lives.isMarkedActive(i) || asOf >= lives.laterStart(i)) return [];
        const live = lives.liveWindow(i);
        const from = Math.max(live.from, asOf + 1) as EpochMinute;
        if (from >= Math.min(live.until, end, asOf + days * minutesADay + 1)) return [];
        const doors = judged.doorsInRow(judged.liveRow(i)).filter((door) => judged.isSensitive(door, sensitivity));
        if (doors.length === 0) return [];
        const proof = { from: writtenMinute(from), areas: judged.sensitiveAreasOf(doors, sensitivity), doors: doors.length };
        return [{ subject: { kind: "credential" as const, id }, proof }];
      }),
    };
  },
});
