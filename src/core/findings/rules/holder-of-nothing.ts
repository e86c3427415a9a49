import { routesOf } from "../../paths/paths";
import { rule, standards } from "../rule";

/** A live credential that was given something and opens nothing. */
export const holderOfNothing = rule({
  key: "holder-of-nothing",
  base: 8,
  source: standards.practice,
  parameters: {},
  find: (judged) => {
    const { lives, facility } = judged;
    return {
      flags: facility.credentials.flatMap(({ id }, i) => {
        if (!lives.isLive(i) || judged.doorsInRow(judged.liveRow(i)).length > 0) return [];
        const grants = new Set<string>();
        for (const { list, membership } of routesOf(judged.credential(i))) {
          const through = membership === undefined ? undefined : facility.memberships[membership];
          if (through && lives.isOver(lives.windowOfMembership(through))) continue;
          for (const route of list.routes) {
            const grant = facility.grants[route.grant];
            if (grant && grant.effect !== "block" && !lives.isOver(lives.windowOfGrant(grant))) grants.add(grant.id);
          }
        }
        return grants.size === 0 ? [] : [{ subject: { kind: "credential" as const, id }, proof: { grants: [...grants] } }];
      }),
    };
  },
});
