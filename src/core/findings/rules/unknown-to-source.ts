import { compareCodePoints } from "../../kernel/compare";
import { rule, sources, standards } from "../rule";

/** Somebody who opens doors and whom a source that lists everybody does not know. */
export const unknownToSource = rule({
  key: "unknown-to-source",
  base: 26,
  source: sources(standards.practice),
  parameters: {},
  find: (judged) => ({
    flags: judged.peopleSources.length === 0
      ? []
      : judged.holders.flatMap((holder) => {
          if (holder.cardholder === undefined || !judged.opensAnything(holder)) return [];
          const { id } = judged.lives.cardholder(holder.cardholder);
          const without = judged.peopleSources.flatMap(({ source, people }) => (people.has(id) ? [] : [source]));
          return without.length === 0 ? [] : [{ subject: { kind: "cardholder" as const, id }, proof: { sources: without.sort(compareCodePoints) } }];
        }),
  }),
});
