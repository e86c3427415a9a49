import { meet } from "../carrying";
import { doorsWanting } from "../missing-means";
import { rule, standards } from "../rule";

/** A credential that would open doors if it came through those before them. */
export const viaMissing = rule({
  key: "via-missing",
  base: 6,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    if (!judged.compiled.doors.some(({ via }) => via !== undefined)) return { flags: [] };
    const doorsOf = doorsWanting(judged, () => true, { couldBe: ({ via }) => via !== undefined, isIt: meet });
    return {
      flags: judged.facility.credentials.flatMap(({ id }, i) => {
        const doors = doorsOf(i);
        return doors.length === 0 ? [] : [{ subject: { kind: "credential" as const, id }, proof: { doors: judged.doorIds(doors) } }];
      }),
    };
  },
});
