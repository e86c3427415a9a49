import type { Position } from "../../compile/position-index";
import { carriersOf } from "../carrying";
import { rule, standards } from "../rule";

/** A sensitive door that stays open for somebody when one of its grants is taken away. */
export const hiddenPath = rule({
  key: "hidden-path",
  base: 10,
  source: standards.practice,
  parameters: { sensitivity: 2 },
  find: (judged, { sensitivity }) => {
    const carriers = carriersOf(judged);
    return {
      flags: judged.holders.flatMap((holder) => {
        const grantsOf = new Map<Position, Set<Position>>();
        for (const credential of holder.credentials)
          for (const paths of carriers.of(credential))
            for (const [door, carrying] of paths) {
              if (!judged.isSensitive(door, sensitivity)) continue;
              const grants = grantsOf.get(door) ?? new Set<Position>();
              grantsOf.set(door, grants);
              for (const { grant } of carrying) grants.add(grant);
            }
        return [...grantsOf].flatMap(([door, grants]) =>
          grants.size < 2
            ? []
            : [
                {
                  subject: { kind: holder.kind, id: holder.id },
                  distinct: judged.doorIds([door]),
                  proof: { grants: Array.from(grants, (grant) => judged.facility.grants[grant]?.id ?? "") },
                },
              ],
        );
      }),
    };
  },
});
