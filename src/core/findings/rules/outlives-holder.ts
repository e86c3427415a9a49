import { never } from "../../time/instant";
import { rule, standards } from "../rule";
import { writtenMinute } from "../written";

/** A credential that ends after its cardholder does. */
export const outlivesHolder = rule({
  key: "outlives-holder",
  base: 8,
  source: standards.nist("PS-4"),
  parameters: {},
  find: ({ lives, facility, asOf }) => ({
    flags: facility.credentials.flatMap(({ id }, i) => {
      const holder = lives.holderOf(i);
      const { until: end } = lives.windowOfCredential(i);
      if (holder === undefined || !lives.isMarkedActive(i) || end <= asOf || end === never) return [];
      const holderEnd = lives.windowOfCardholder(holder).until;
      if (holderEnd <= asOf || holderEnd >= end) return [];
      return [{ subject: { kind: "credential" as const, id }, proof: { end: writtenMinute(end), holderEnd: writtenMinute(holderEnd) } }];
    }),
  }),
});
