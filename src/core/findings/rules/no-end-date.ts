import { minutesADay } from "../../time/civil-day";
import { never } from "../../time/instant";
import type { EpochMinute } from "../../time/instant";
import { rule, sources, standards } from "../rule";
import type { FlagOf, Subject } from "../flag";
import { writtenMinute } from "../written";

/** A contractor, a visitor or a card for the day that ends never, or so late that it means never. */
export const noEndDate = rule({
  key: "no-end-date",
  base: 14,
  source: sources(standards.nist("AC-2(3)"), standards.practice),
  parameters: { farDays: 3653 },
  find: ({ lives, facility, asOf }, { farDays }) => {
    const flags: FlagOf<"no-end-date">[] = [];
    const observe = (subject: Subject, end: EpochMinute): void => {
      if (end >= asOf + farDays * minutesADay) flags.push({ subject, proof: { end: end === never ? undefined : writtenMinute(end) } });
    };
    facility.cardholders.forEach(({ id, type }, i) => {
      if ((type !== "contractor" && type !== "visitor") || lives.hasLeft(i)) return;
      if (lives.credentialsOf(i).some((credential) => lives.isMarkedActive(credential))) observe({ kind: "cardholder", id }, lives.windowOfCardholder(i).until);
    });
    facility.credentials.forEach(({ id, temporary }, i) => {
      const window = lives.windowOfCredential(i);
      if (temporary && lives.isMarkedActive(i) && !lives.isOver(window)) observe({ kind: "credential", id }, window.until);
    });
    return { flags };
  },
});
