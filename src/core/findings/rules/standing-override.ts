import { required } from "../../kernel/invariant";
import { overrideCovers } from "../../paths/paths";
import { rule, sources, standards } from "../rule";

/** Somebody who passes everywhere, or everywhere at some sites, without a grant. */
export const standingOverride = rule({
  key: "standing-override",
  base: 40,
  source: sources(standards.nist("AC-6"), standards.iso("8.2")),
  parameters: {},
  find: (judged) => ({
    flags: judged.holders.flatMap((holder) => {
      if (holder.cardholder === undefined || !judged.lives.cardholder(holder.cardholder).override) return [];
      const compiled = required(judged.compiled.cardholders.at(holder.cardholder), "positions are valid");
      const doors = judged.doorsOf(holder).filter((door) => overrideCovers({ holder: compiled }, judged.door(door)));
      if (doors.length === 0) return [];
      const sites = [...new Set(doors.map((door) => judged.siteOf(door)))];
      return [{ subject: { kind: "cardholder" as const, id: holder.id }, proof: { sites, doors: doors.length } }];
    }),
  }),
});
