import type { Authorisation } from "../../facility/document";
import { present } from "../../events/told-card";
import { membershipsOf } from "../held";
import { rule, sources, standards } from "../rule";
import type { FlagOf } from "../flag";

const isAuthorised = ({ authorised }: { readonly authorised?: Authorisation }): boolean =>
  [authorised?.by, authorised?.at, authorised?.reference].some((text) => present(text) !== undefined);

/** Something without an authorisation where others of its kind have one. */
export const notAuthorised = rule({
  key: "not-authorised",
  base: 14,
  source: sources(standards.nist("PE-2"), standards.practice),
  parameters: {},
  find: (judged) => {
    const { facility, lives } = judged;
    const flags: FlagOf<"not-authorised">[] = [];
    if (facility.grants.some(isAuthorised))
      for (const grant of facility.grants)
        if (grant.effect !== "block" && !lives.isOver(lives.windowOfGrant(grant)) && !isAuthorised(grant))
          flags.push({ subject: { kind: "grant", id: grant.id }, proof: {} });
    if (facility.credentials.some(isAuthorised))
      facility.credentials.forEach((credential, i) => {
        if (lives.isMarkedActive(i) && !lives.isOver(lives.windowOfCredential(i)) && !isAuthorised(credential))
          flags.push({ subject: { kind: "credential", id: credential.id }, proof: {} });
      });
    if (facility.memberships.some(isAuthorised))
      facility.cardholders.forEach(({ id }, cardholder) => {
        const counts = new Map<string, number>();
        for (const membership of membershipsOf(judged, cardholder))
          if (!lives.isOver(lives.windowOfMembership(membership)) && !isAuthorised(membership))
            counts.set(membership.group, (counts.get(membership.group) ?? 0) + 1);
        for (const [group, memberships] of counts) flags.push({ subject: { kind: "cardholder", id }, distinct: ["membership", group], proof: { memberships } });
      });
    return { flags };
  },
});
