import { present } from "../../events/told-card";
import { compareCodePoints, groupBy } from "../../kernel/compare";
import { rule, standards } from "../rule";

/** Several credentials with one number, one of them at least marked active. */
export const sameNumber = rule({
  key: "same-number",
  base: 24,
  source: standards.practice,
  parameters: {},
  find: ({ lives, facility }) => {
    const numbered = [...facility.credentials.keys()].filter((i) => present(lives.credential(i).number) !== undefined);
    const same = groupBy(numbered, (i) => {
      const { number, facilityCode, issue } = lives.credential(i);
      return JSON.stringify([number, present(facilityCode) ?? null, present(issue) ?? null]);
    });
    return {
      flags: [...same.values()].flatMap((those) => {
        if (those.length < 2 || !those.some((i) => lives.isMarkedActive(i))) return [];
        const credentials = those.map((i) => lives.credential(i).id).sort(compareCodePoints);
        return [{ subject: { kind: "credential" as const, id: credentials[0] ?? "" }, proof: { credentials } }];
      }),
    };
  },
});
