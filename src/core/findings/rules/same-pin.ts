import { present } from "../../events/told-card";
import { compareCodePoints, groupBy } from "../../kernel/compare";
import { required } from "../../kernel/invariant";
import { entryRuleTimes } from "../../paths/entry-rule-times";
import { meet } from "../carrying";
import { rule, sources, standards } from "../rule";

/** One PIN of several holders, where it alone opens a door. */
export const samePin = rule({
  key: "same-pin",
  base: 22,
  source: sources(standards.nist("IA-5"), standards.practice),
  parameters: {},
  find: (judged) => {
    const { lives, facility, compiled, timeframe } = judged;
    const rulesAt = (door: number) => entryRuleTimes(timeframe, required(compiled.doors[door], "positions are valid"));
    const tagged = [...facility.credentials.keys()].filter((i) => lives.isMarkedActive(i) && present(lives.credential(i).pinTag) !== undefined);
    return {
      flags: [...groupBy(tagged, (i) => lives.credential(i).pinTag).values()].flatMap((those) => {
        if (new Set(those.map((i) => judged.holderOfCredential(i))).size < 2) return [];
        const doors = new Set(
          those.flatMap((i) =>
            judged
              .doorsInRow(judged.liveRow(i))
              .filter((door) => (["pin", "card-or-pin"] as const).some((entry) => meet(judged.openWith(i, door), rulesAt(door).get(entry) ?? []))),
          ),
        );
        if (doors.size === 0) return [];
        const credentials = judged.credentialIds(those).sort(compareCodePoints);
        return [{ subject: { kind: "credential" as const, id: credentials[0] ?? "" }, proof: { credentials, doors: judged.doorIds(doors) } }];
      }),
    };
  },
});
