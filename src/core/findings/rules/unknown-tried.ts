import { greatest, groupBy } from "../../kernel/compare";
import { rule, standards } from "../rule";
import { writtenSecond } from "../written";

/** Something that the register does not know, tried at a sensitive door. */
export const unknownTried = rule({
  key: "unknown-tried",
  base: 26,
  source: standards.nist("PE-6"),
  parameters: { days: 30, sensitivity: 2 },
  find: (judged, { days, sensitivity }) => {
    const tried = judged.events.events.filter(
      ({ owner, at, minute }) => owner === "unknown" && at !== -1 && minute >= judged.daysBefore(days) && judged.isSensitive(at, sensitivity),
    );
    const byNumber = groupBy(tried, ({ door, credential, facilityCode, number }) =>
      JSON.stringify([door, ...(credential === undefined ? ["number", facilityCode ?? "", number ?? ""] : ["credential", credential])]),
    );
    return {
      flags: [...byNumber].map(([key, events]) => {
        const [door = "", ...distinct] = JSON.parse(key) as string[];
        const last = greatest(events.map(({ second }) => second));
        return { subject: { kind: "door" as const, id: door }, distinct, proof: { events: events.length, last: writtenSecond(last) } };
      }),
    };
  },
});
