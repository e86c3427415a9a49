import type { Position } from "../../compile/position-index";
import { greatest } from "../../kernel/compare";
import { minutesADay } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import type { Judged } from "../judged";
import { rule, standards } from "../rule";
import type { FlagOf, Subject, Untold } from "../flag";
import { writtenMinute } from "../written";

/** The latest use of some credentials. */
const lastUseOf = (judged: Judged, credentials: readonly Position[]): EpochMinute =>
  greatest(credentials.map((credential) => judged.lastUse(credential) ?? -Infinity)) as EpochMinute;

/** A credential in use, or a contractor, whose end is near. */
export const endsSoon = rule({
  key: "ends-soon",
  base: 6,
  source: standards.practice,
  parameters: { days: 14, usedDays: 30 },
  find: (judged, { days, usedDays }) => {
    const { lives, asOf } = judged;
    const flags: FlagOf<"ends-soon">[] = [];
    const untold: Untold[] = [];
    const isSoon = (end: EpochMinute): boolean => asOf < end && end <= asOf + days * minutesADay;
    const observe = (subject: Subject, end: EpochMinute, credentials: readonly Position[], doors: readonly Position[]): void => {
      const last = lastUseOf(judged, credentials);
      if (last >= judged.daysBefore(usedDays)) flags.push({ subject, proof: { end: writtenMinute(end), lastUse: writtenMinute(last) } });
      else if (!credentials.every((credential) => judged.statedLastUse(credential) !== undefined)) {
        const cannot = judged.untoldAt(subject.id, judged.sitesConcerned(doors), () => usedDays);
        if (cannot) untold.push(cannot);
      }
    };
    judged.facility.credentials.forEach(({ id }, i) => {
      const end = lives.windowOfCredential(i).until;
      if (lives.isLive(i) && isSoon(end)) observe({ kind: "credential", id }, end, [i], judged.doorsInRow(judged.liveRow(i)));
    });
    for (const holder of judged.holders) {
      if (holder.cardholder === undefined) continue;
      const { type } = lives.cardholder(holder.cardholder);
      const { from, until } = lives.windowOfCardholder(holder.cardholder);
      if (type === "contractor" && lives.hasActiveStatus(holder.cardholder) && from <= asOf && isSoon(until))
        observe({ kind: "cardholder", id: holder.id }, until, holder.credentials, judged.doorsOf(holder));
    }
    return { flags, untold };
  },
});
