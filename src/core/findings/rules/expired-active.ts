import { rule, standards } from "../rule";
import { writtenMinute } from "../written";

/** A credential past its end that is still marked active. */
export const expiredActive = rule({
  key: "expired-active",
  base: 18,
  source: standards.nist("AC-2(3)"),
  parameters: {},
  find: ({ lives, facility, compiled }) => ({
    flags: facility.credentials.flatMap((credential, position) => {
      const window = lives.windowOfCredential(position);
      if (!lives.isMarkedActive(position) || !lives.isOver(window)) return [];
      // The window ends at the earlier of the two: by `until`, unless that says later.
      const by = compiled.vocabulary.windows.of(credential).outward.until === window.until ? "until" : "expiry";
      return [{ subject: { kind: "credential" as const, id: credential.id }, proof: { end: writtenMinute(window.until), by }, since: window.until }];
    }),
  }),
});
