import { totalMinutes } from "../../time/intervals";
import { meet } from "../carrying";
import { doorsWanting } from "../missing-means";
import { rule, standards } from "../rule";

/** A credential that would open doors if it had a PIN. */
export const pinMissing = rule({
  key: "pin-missing",
  base: 6,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const all = judged.end - judged.asOf;
    const doorsOf = doorsWanting(judged, ({ hasPin }) => !hasPin, {
      couldBe: (_, met) => totalMinutes(met) < all,
      isIt: (allowed, met) => allowed.length > 0 && !meet(allowed, met),
    });
    return {
      flags: judged.facility.credentials.flatMap(({ id }, i) => {
        const doors = doorsOf(i);
        return doors.length === 0 ? [] : [{ subject: { kind: "credential" as const, id }, proof: { doors: judged.doorIds(doors) } }];
      }),
    };
  },
});
