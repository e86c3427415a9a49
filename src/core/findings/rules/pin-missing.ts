import { candidateDoors } from "../../paths/candidates";
import { allowedIn, entryMetIn } from "../../paths/timetable";
import { meet } from "../carrying";
import { rule, standards } from "../rule";

/** A credential that would open doors if it had a PIN. */
export const pinMissing = rule({
  key: "pin-missing",
  base: 6,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const { facility, compiled, timeframe } = judged;
    return {
      flags: facility.credentials.flatMap(({ id }, i) => {
        const credential = judged.credential(i);
        if (credential.hasPin) return [];
        const opened = new Set(judged.doorsOf(judged.holderOfCredential(i)));
        const doors = candidateDoors(compiled, credential).filter((door) => {
          if (opened.has(door)) return false;
          const allowed = allowedIn(compiled, timeframe, credential, door);
          return allowed.length > 0 && !meet(allowed, entryMetIn(timeframe, credential, judged.door(door)));
        });
        return doors.length === 0 ? [] : [{ subject: { kind: "credential" as const, id }, proof: { doors: judged.doorIds(doors) } }];
      }),
    };
  },
});
