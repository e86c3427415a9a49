import type { Position } from "../../compile/position-index";
import { rememberedByList } from "../../kernel/remembered";
import { carriersOf } from "../carrying";
import type { PathsByDoor } from "../carrying";
import { lazily } from "../flag";
import type { FlagOf } from "../flag";
import { rule, standards } from "../rule";

/** A sensitive door that stays open for somebody when one of its grants is taken away. */
export const hiddenPath = rule({
  key: "hidden-path",
  base: 10,
  source: standards.practice,
  parameters: { sensitivity: 2 },
  find: (judged, { sensitivity }) => {
    const carriers = carriersOf(judged);
    /** The sensitive doors to which several grants carry; worked out once for all who have the same paths. */
    const severalWays = rememberedByList((lists: readonly PathsByDoor[]) => {
      const grantsOf = new Map<Position, Set<Position>>();
      for (const paths of lists)
        for (const [door, carrying] of paths) {
          if (!judged.isSensitive(door, sensitivity)) continue;
          const grants = grantsOf.get(door) ?? new Set<Position>();
          grantsOf.set(door, grants);
          for (const { grant } of carrying) grants.add(grant);
        }
      return [...grantsOf].flatMap(([door, grants]) =>
        grants.size < 2
          ? []
          : [{ distinct: judged.doorIds([door]), proof: { grants: Array.from(grants, (grant) => judged.facility.grants[grant]?.id ?? "") } }],
      );
    });
    return {
      flags: lazily(function* (): Generator<FlagOf<"hidden-path">> {
        for (const holder of judged.holders)
          for (const { distinct, proof } of severalWays(carriers.ofHolder(holder))) yield { subject: holder, distinct, proof };
      }),
    };
  },
});
