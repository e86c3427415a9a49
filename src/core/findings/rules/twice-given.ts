import { carriersOf } from "../carrying";
import { rule, standards } from "../rule";

/** Doors that are given both to a credential and to its holder, so that taking one away shuts nothing. */
export const twiceGiven = rule({
  key: "twice-given",
  base: 10,
  source: standards.practice,
  parameters: {},
  find: (judged) => ({
    flags: judged.facility.credentials.flatMap(({ id, cardholder }, i) => {
      if (cardholder === undefined || judged.credential(i).ownRoutes.length === 0) return [];
      const doors = judged.doorsInRow(judged.liveRow(i)).filter((door) => {
        const paths = carriersOf(judged).at(i, door);
        return paths.some(({ by }) => by === "credential") && paths.some(({ by }) => by !== "credential");
      });
      if (doors.length === 0) return [];
      return [{ subject: { kind: "cardholder" as const, id: cardholder }, distinct: [id], proof: { doors: judged.doorIds(doors) } }];
    }),
  }),
});
