import { rule, standards } from "../rule";

/** An area that more people reach than it allows for. */
export const tooManyHolders = rule({
  key: "too-many-holders",
  base: 20,
  source: standards.nist("PE-2"),
  parameters: {},
  find: (judged) => ({
    flags: judged.facility.areas.flatMap(({ id, maxHolders }, area) => {
      const holders = judged.reachCounts("all").get(area) ?? 0;
      return maxHolders === undefined || holders <= maxHolders ? [] : [{ subject: { kind: "area" as const, id }, proof: { holders, maxHolders } }];
    }),
  }),
});
