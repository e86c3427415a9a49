import { rule, standards } from "../rule";

/** A sensitive door that stands open to anybody at times. */
export const doorOnlyFree = rule({
  key: "door-only-free",
  base: 28,
  source: standards.nist("PE-3"),
  parameters: { sensitivity: 2 },
  find: (judged, { sensitivity }) => ({
    flags: judged.compiled.doors.flatMap(({ position, door, zone }) => {
      const free = judged.freeAhead(position);
      if (free.length === 0 || !judged.isSensitive(position, sensitivity)) return [];
      const { minutes, week } = judged.weeksOf(zone).fullest(free);
      return [{ subject: { kind: "door" as const, id: door.id }, proof: { minutes, week } }];
    }),
  }),
});
