import { carryingPaths } from "../carrying";
import { rule, standards } from "../rule";

/** A sensitive door that stays open for somebody when one of its grants is taken away. */
export const hiddenPath = rule({
  key: "hidden-path",
  base: 10,
  source: standards.practice,
  parameters: { sensitivity: 2 },
  find: (judged, { sensitivity }) => ({
    flags: judged.holders.flatMap((holder) =>
      judged.doorsOf(holder).flatMap((door) => {
        if (!judged.isSensitive(door, sensitivity)) return [];
        const grants = new Set(holder.credentials.flatMap((credential) => carryingPaths(judged, credential, door).map(({ grant }) => grant.grant.id)));
        const distinct = judged.doorIds([door]);
        return grants.size < 2 ? [] : [{ subject: { kind: holder.kind, id: holder.id }, distinct, proof: { grants: [...grants] } }];
      }),
    ),
  }),
});
