import { present } from "../../events/told-card";
import { isPresent } from "../certifier-of";
import { rule, sources, standards } from "../rule";

/** A contractor or visitor who opens doors and for whom nobody answers. */
export const noSponsor = rule({
  key: "no-sponsor",
  base: 16,
  source: sources(standards.nist("PS-7"), standards.practice),
  parameters: {},
  find: (judged) => ({
    flags: judged.holders.flatMap((holder) => {
      if (holder.cardholder === undefined) return [];
      const { id, type, sponsor, company } = judged.lives.cardholder(holder.cardholder);
      if ((type !== "contractor" && type !== "visitor") || !judged.opensAnything(holder)) return [];
      const missing = [
        ...(sponsor === undefined ? ["sponsor"] : isPresent(judged, sponsor) ? [] : ["sponsor-left"]),
        ...(type === "contractor" && present(company) === undefined ? ["company"] : []),
      ];
      return missing.length === 0 ? [] : [{ subject: { kind: "cardholder" as const, id }, proof: { missing } }];
    }),
  }),
});
