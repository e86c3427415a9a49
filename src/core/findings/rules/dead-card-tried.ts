import { required } from "../../kernel/invariant";
import { lastOf } from "../../events/event-book";
import { rule, sources, standards } from "../rule";
import { writtenSecond } from "../written";

/** A credential that is not live and is tried again and again. */
export const deadCardTried = rule({
  key: "dead-card-tried",
  base: 28,
  source: sources(standards.nist("PE-6"), standards.practice),
  parameters: { times: 3, days: 30 },
  find: (judged, { times, days }) => ({
    flags: judged.facility.credentials.flatMap(({ id }, i) => {
      const refused = judged.events.of(i).filter(({ granted, minute }) => !granted && minute >= judged.daysBefore(days) && !judged.lives.isLiveAt(i, minute));
      if (refused.length < times) return [];
      const last = required(lastOf(refused), "there are some");
      return [{ subject: { kind: "credential" as const, id }, proof: { refused: refused.length, last: writtenSecond(last.second) } }];
    }),
  }),
});
