import { candidateDoors } from "../../paths/candidates";
import { allowedIn, entryMetIn } from "../../paths/timetable";
import { meet } from "../carrying";
import { rule, standards } from "../rule";

/** A credential that would open doors if it came through those before them. */
export const viaMissing = rule({
  key: "via-missing",
  base: 6,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const { facility, compiled, timeframe } = judged;
    if (!compiled.doors.some(({ via }) => via !== undefined)) return { flags: [] };
    return {
      flags: facility.credentials.flatMap(({ id }, i) => {
        const credential = judged.credential(i);
        const opened = new Set(judged.doorsOf(judged.holderOfCredential(i)));
        const doors = candidateDoors(compiled, credential).filter((door) => {
          const at = judged.door(door);
          if (at.via === undefined || opened.has(door)) return false;
          return meet(allowedIn(compiled, timeframe, credential, door), entryMetIn(timeframe, credential, at));
        });
        return doors.length === 0 ? [] : [{ subject: { kind: "credential" as const, id }, proof: { doors: judged.doorIds(doors) } }];
      }),
    };
  },
});
