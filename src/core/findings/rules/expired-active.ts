import { formatMinute } from "../../time/instant";
import { lastDateText, zoneOf } from "../../time/zone";
import type { FindingRule } from "../finding";

export const expiredActive: FindingRule = {
  key: "expired-active",
  title: "Past its end, and still marked active",
  source: "NIST SP 800-53 r5 AC-2(3) (cited from memory)",
  base: 18,
  parameters: {},
  observe: ({ compiled, asOf }) => ({
    observations: compiled.credentials.all()
      .filter(({ life }) => life.inactiveFrom > asOf && life.window.until <= asOf)
      .map((credential) => {
        const { life, holder } = credential;
        const { id, expiry, until } = credential.credential;
        const end = formatMinute(life.window.until);
        return {
          subject: { kind: "credential" as const, id },
          ...(holder && { cardholder: holder.cardholder.id }),
          proof: { end, ...(until !== undefined && { until }), ...(expiry && { expiry: `${expiry.days} days after ${expiry.after}` }) },
          sentence: `Ended on ${lastDateText(zoneOf(compiled.facility.timeZone), life.window.until)} but is still marked active: it opens nothing, and one changed date brings it back.`,
          remedy: `Set credential ${id} to returned.`,
          credentials: [credential],
          since: life.window.until,
        };
      }),
  }),
};
