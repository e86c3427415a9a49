import { inactiveFrom } from "../../compile/lives";
import { required } from "../../kernel/invariant";
import { lastOf } from "../../events/event-book";
import { always } from "../../time/instant";
import type { EpochMinute } from "../../time/instant";
import { rule, standards } from "../rule";
import type { FlagOf, Untold } from "../flag";
import { writtenMinute, writtenSecond } from "../written";

/** A credential that was tried, or used, after it was lost, returned or ended. */
export const lostInUse = rule({
  key: "lost-in-use",
  base: 50,
  source: standards.nist("PE-3"),
  parameters: { days: 90 },
  find: (judged, { days }) => {
    const { lives, events } = judged;
    const flags: FlagOf<"lost-in-use">[] = [];
    const untold: Untold[] = [];
    judged.facility.credentials.forEach((credential, i) => {
      const within = events.of(i).filter(({ minute }) => minute >= judged.daysBefore(days));
      if (within.length === 0) return;
      const byStatus = inactiveFrom(credential);
      const isUndated = byStatus === always;
      const since = Math.min(isUndated ? Infinity : byStatus, lives.windowOfCredential(i).until) as EpochMinute;
      const found = within.filter(({ minute }) => minute >= since);
      if (found.length > 0)
        flags.push({
          subject: { kind: "credential", id: credential.id },
          proof: {
            since: writtenMinute(since),
            events: found.length,
            granted: found.filter(({ granted }) => granted).length,
            last: writtenSecond(required(lastOf(found), "there are some").second),
          },
          since,
        });
      else if (isUndated) untold.push({ id: credential.id });
    });
    return { flags, untold };
  },
});
