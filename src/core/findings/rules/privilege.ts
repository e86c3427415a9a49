import { holderCounts } from "../held";
import { rule, sources, standards } from "../rule";
import type { FlagOf } from "../flag";

const privileges = ["lockdownPass", "pinExempt", "extraTime", "holdOpen", "passbackExempt", "firstIn"] as const;

/** A privilege that auditors ask about first, of a person, or given by a level. */
export const privilege = rule({
  key: "privilege",
  base: 14,
  source: sources(standards.nist("AC-6"), standards.practice),
  parameters: {},
  find: (judged) => {
    const flags: FlagOf<"privilege">[] = [];
    for (const holder of judged.holders) {
      if (holder.cardholder === undefined || !judged.opensAnything(holder)) continue;
      const cardholder = judged.lives.cardholder(holder.cardholder);
      for (const name of privileges) if (cardholder[name]) flags.push({ subject: { kind: "cardholder", id: holder.id }, distinct: [name], proof: {} });
    }
    const { levels } = holderCounts(judged);
    judged.facility.levels.forEach(({ id, rows = [] }, level) => {
      const holders = levels.get(level) ?? 0;
      if (holders === 0) return;
      for (const action of new Set(rows.flatMap(({ actions = [] }) => actions)))
        if (action !== "open" && action !== "") flags.push({ subject: { kind: "level", id }, distinct: [action], proof: { holders } });
    });
    return { flags };
  },
});
