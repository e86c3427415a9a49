import { carriersOf } from "../carrying";
import { rule, sources, standards } from "../rule";

/** Somebody opens sensitive doors by a single exception instead of by a level. */
export const byException = rule({
  key: "by-exception",
  base: 16,
  source: sources(standards.nist("PE-2"), standards.practice),
  parameters: { sensitivity: 2 },
  find: (judged, { sensitivity }) => {
    const { facility, compiled, lives } = judged;
    return {
      flags: facility.grants.flatMap(({ id, to, open, effect }, position) => {
        if (effect === "block" || open.level !== undefined || open.bundle !== undefined || to.group !== undefined) return [];
        const credentials =
          to.cardholder === undefined
            ? [compiled.credentialById.get(to.credential) ?? -1]
            : lives.credentialsOf(compiled.cardholderById.get(to.cardholder) ?? -1);
        const covered = [...compiled.waysOf(position).keys()].filter((door) => judged.isSensitive(door, sensitivity));
        const doors = covered.filter((door) =>
          credentials.some((credential) =>
            carriersOf(judged)
              .at(credential, door)
              .some(({ grant }) => grant === position),
          ),
        );
        if (doors.length === 0) return [];
        const subject = to.cardholder === undefined ? { kind: "credential" as const, id: to.credential } : { kind: "cardholder" as const, id: to.cardholder };
        return [{ subject, distinct: [id], proof: { doors: judged.doorIds(doors) } }];
      }),
    };
  },
});
