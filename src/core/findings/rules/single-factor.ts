import { entryRuleTimes } from "../../paths/entry-rule-times";
import { rule, sources, standards } from "../rule";

/** A door of the highest sensitivity that asks for less than card and PIN at times. */
export const singleFactor = rule({
  key: "single-factor",
  base: 18,
  source: sources(standards.nist("IA-2, PE-3"), standards.practice),
  parameters: { sensitivity: 3 },
  find: (judged, { sensitivity }) => ({
    flags: judged.compiled.doors.flatMap((at) => {
      const { position, door } = at;
      if (!judged.isSensitive(position, sensitivity)) return [];
      const rules = [...entryRuleTimes(judged.timeframe, at).keys()].filter((entry) => entry !== "card+pin");
      return rules.length === 0 ? [] : [{ subject: { kind: "door" as const, id: door.id }, proof: { rules } }];
    }),
  }),
});
