import { hasCertifier } from "../certifier-of";
import { rule, sources, standards } from "../rule";

/** Somebody who opens doors and for whom nobody answers. */
export const noDepartment = rule({
  key: "no-department",
  base: 10,
  source: sources(standards.pci("7.2.4"), standards.iso("5.18")),
  parameters: {},
  find: (judged) => ({
    flags: judged.holders.flatMap((holder) => {
      if (holder.cardholder === undefined || !judged.opensAnything(holder) || hasCertifier(judged, holder.cardholder)) return [];
      const { id, department } = judged.lives.cardholder(holder.cardholder);
      return [{ subject: { kind: "cardholder" as const, id }, proof: { department } }];
    }),
  }),
});
