import { greatest, groupBy } from "../../kernel/compare";
import { objectWindow } from "../../facility/time-rules";
import type { EpochMinute } from "../../time/instant";
import { rule, standards } from "../rule";
import { writtenMinute } from "../written";

/** Something that somebody must have, such as an induction, has ended, and they still open a door. */
export const requirementOver = rule({
  key: "requirement-over",
  base: 26,
  source: standards.practice,
  parameters: {},
  find: (judged) => ({
    flags: judged.holders.flatMap((holder) => {
      if (holder.cardholder === undefined || !judged.opensAnything(holder)) return [];
      const { id, requirements = [] } = judged.lives.cardholder(holder.cardholder);
      return [...groupBy(requirements, ({ name }) => name)].flatMap(([name, own]) => {
        const ended = greatest(own.map(({ until }) => (until === undefined ? Infinity : objectWindow({ until }, judged.zone, "outward").until))) as EpochMinute;
        if (ended > judged.asOf) return [];
        return [{ subject: { kind: "cardholder" as const, id }, distinct: [name], proof: { ended: writtenMinute(ended) }, since: ended }];
      });
    }),
  }),
});
