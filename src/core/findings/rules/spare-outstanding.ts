import { always } from "../../time/instant";
import { minuteOf } from "../lives";
import { rule, standards } from "../rule";
import type { FlagOf, Untold } from "../flag";
import { writtenMinute } from "../written";

/** A card for the day that has been out for longer. */
export const spareOutstanding = rule({
  key: "spare-outstanding",
  base: 20,
  source: standards.practice,
  parameters: { days: 1 },
  find: (judged, { days }) => {
    const { lives } = judged;
    const flags: FlagOf<"spare-outstanding">[] = [];
    const untold: Untold[] = [];
    judged.facility.credentials.forEach((credential, i) => {
      if (!credential.temporary || credential.cardholder === undefined || !lives.isMarkedActive(i)) return;
      const { from } = lives.windowOfCredential(i);
      const since = minuteOf(credential.issuedAt) ?? (from === always ? minuteOf(credential.firstUse) : from);
      if (since === undefined) untold.push({ id: credential.id });
      else if (since < judged.daysBefore(days))
        flags.push({ subject: { kind: "credential", id: credential.id }, proof: { since: writtenMinute(since) }, since });
    });
    return { flags, untold };
  },
});
