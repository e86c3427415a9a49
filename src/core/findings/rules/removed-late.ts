import { Lives } from "../lives";
import { rule, sources, standards } from "../rule";
import type { FlagOf, Untold } from "../flag";
import { writtenMinute } from "../written";

/** A credential of somebody who left was still live a while later, by what an earlier document says. */
export const removedLate = rule({
  key: "removed-late",
  base: 40,
  source: sources(standards.cip("R5.1"), standards.pci("8.2.5")),
  parameters: { hours: 24, lookBackDays: 90 },
  find: (judged, { hours, lookBackDays }) => {
    if (judged.earlier.length === 0) return { flags: [], without: "documents" };
    const flags: FlagOf<"removed-late">[] = [];
    const untold: Untold[] = [];
    const earlier = judged.earlier.map(({ compiled, asOf }) => ({ compiled, asOf, lives: new Lives(compiled, asOf) }));
    const all = [...earlier, { compiled: judged.compiled, asOf: judged.asOf, lives: judged.lives }];
    judged.facility.cardholders.forEach(({ id }, cardholder) => {
      if (!judged.lives.hasLeft(cardholder)) return;
      const left = judged.lives.leftAt(cardholder);
      if (left === undefined || left < judged.daysBefore(lookBackDays)) return;
      const liveIn = ({ compiled, lives }: (typeof all)[number]): string[] => {
        const then = compiled.cardholderById.get(id);
        return then === undefined
          ? []
          : lives
              .credentialsOf(then)
              .filter((credential) => lives.isLive(credential))
              .map((credential) => lives.credential(credential).id);
      };
      const late = earlier.filter(({ asOf }) => asOf > left + hours * 60).findLast((document) => liveIn(document).length > 0);
      if (late)
        flags.push({
          subject: { kind: "cardholder", id },
          proof: {
            left: writtenMinute(left),
            lastLive: writtenMinute(late.asOf),
            hours: Math.floor((late.asOf - left) / 60),
            credentials: liveIn(late),
          },
          since: left,
        });
      else if (!all.some((document) => document.asOf >= left && document.asOf <= left + hours * 60 && liveIn(document).length === 0)) untold.push({ id });
    });
    return { flags, untold };
  },
});
