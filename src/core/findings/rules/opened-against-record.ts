import { heldAgainstRecord } from "../against-record";
import { rule, standards } from "../rule";
import type { FlagOf, Untold } from "../flag";
import { writtenSecond } from "../written";

/** A door that let somebody in although the record before and after says that it does not. */
export const openedAgainstRecord = rule({
  key: "opened-against-record",
  base: 38,
  source: standards.nist("PE-6, AU-6"),
  parameters: { days: 30 },
  find: (judged, { days }) => {
    if (judged.earlier.length === 0) return { flags: [], without: "documents" };
    const flags: FlagOf<"opened-against-record">[] = [];
    const untold: Untold[] = [];
    for (const { door, credential, events } of heldAgainstRecord(judged, days, ({ granted }) => granted)) {
      const against = events.flatMap(({ event, before, after }) => {
        if (!before || !after) {
          untold.push({ id: door });
          return [];
        }
        if (before.free || after.free) return [];
        const open = [before, after].filter(({ reason }) => reason === "open").length;
        if (open === 1) untold.push({ id: door });
        return open === 0 ? [{ second: event.second, before: before.reason, after: after.reason }] : [];
      });
      const [first] = against;
      if (!first) continue;
      const last = against.reduce((latest, one) => (one.second > latest.second ? one : latest), first);
      const proof = { events: against.length, last: writtenSecond(last.second), before: last.before, after: last.after };
      flags.push({ subject: { kind: "door", id: door }, distinct: [credential], proof });
    }
    return { flags, untold };
  },
});
