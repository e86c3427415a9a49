import { rule, standards } from "../rule";

/** A level that opens doors of no importance and sensitive ones alike. */
export const levelTooWide = rule({
  key: "level-too-wide",
  base: 14,
  source: standards.nist("AC-6"),
  parameters: { sensitivity: 2 },
  find: (judged, { sensitivity }) => ({
    flags: judged.facility.levels.flatMap(({ id }) => {
      const doors = [...judged.compiled.cover({ level: id }).keys()];
      const low = doors.filter((door) => judged.sensitivityOf(door) === 0).length;
      const high = doors.filter((door) => judged.isSensitive(door, sensitivity)).length;
      return low === 0 || high === 0 ? [] : [{ subject: { kind: "level" as const, id }, proof: { low, high } }];
    }),
  }),
});
