import { rule, sources, standards } from "../rule";
import { writtenMinute } from "../written";

/** Somebody has left, and a credential of theirs is marked active. */
export const leaverLive = rule({
  key: "leaver-live",
  base: 46,
  source: sources(standards.pci("8.2.5, 9.3.1.1"), standards.nist("PS-4"), standards.cip("R5.1")),
  parameters: {},
  find: (judged) => {
    const { lives, facility } = judged;
    return {
      flags: facility.cardholders.flatMap(({ id, status }, cardholder) => {
        if (!lives.hasLeft(cardholder)) return [];
        const active = lives.credentialsOf(cardholder).filter((credential) => lives.isMarkedActive(credential));
        if (active.length === 0) return [];
        const left = lives.leftAt(cardholder);
        const proof = { status, left: left === undefined ? undefined : writtenMinute(left), credentials: judged.credentialIds(active) };
        return [{ subject: { kind: "cardholder" as const, id }, proof, since: left }];
      }),
    };
  },
});
