import { credentialLife } from "../../compile/lives";
import { formatMinute } from "../../time/instant";
import type { FindingRule, Observation } from "../finding";

export const expiredActive: FindingRule<"expired-active"> = {
  key: "expired-active",
  source: "NIST SP 800-53 r5 AC-2(3) (cited from memory)",
  base: 18,
  parameters: {},
  observe: ({ compiled, asOf }) => {
    const { facility, vocabulary, objects } = compiled;
    const observations: Observation<"expired-active">[] = [];
    facility.credentials.forEach((credential, position) => {
      if ((objects.cards.until[position] as number) > asOf) return;
      const { inactiveFrom, window } = credentialLife(credential, vocabulary);
      if (inactiveFrom <= asOf || window.until > asOf) return;
      observations.push({
        subject: { kind: "credential", id: credential.id },
        ...(credential.cardholder !== undefined && { cardholder: credential.cardholder }),
        distinct: [],
        proof: { end: formatMinute(window.until), by: vocabulary.windows.of(credential).outward.until === window.until ? "until" : "expiry" },
        credentials: [position],
        since: window.until,
      });
    });
    return { observations };
  },
};
