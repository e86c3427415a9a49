import { greatest } from "../../kernel/compare";
import { heldAgainstRecord } from "../against-record";
import { rule, standards } from "../rule";
import type { FlagOf, Untold } from "../flag";
import { writtenSecond } from "../written";

/** A door that refused somebody although the record before and after says that it opens. */
export const refusedAgainstRecord = rule({
  key: "refused-against-record",
  base: 10,
  source: standards.nist("PE-6, AU-6"),
  parameters: { days: 30 },
  find: (judged, { days }) => {
    if (judged.earlier.length === 0) return { flags: [], without: "documents" };
    const flags: FlagOf<"refused-against-record">[] = [];
    const untold: Untold[] = [];
    for (const { door, credential, events } of heldAgainstRecord(judged, days, ({ granted }) => !granted)) {
      const against = events.filter(({ before, after }) => {
        const open = [before, after].filter((said) => said?.reason === "open").length;
        if (!before || !after || open === 1) untold.push({ id: door });
        return before && after && open === 2;
      });
      if (against.length === 0) continue;
      const last = greatest(against.map(({ event }) => event.second));
      flags.push({ subject: { kind: "door", id: door }, distinct: [credential], proof: { events: against.length, last: writtenSecond(last) } });
    }
    return { flags, untold };
  },
});
