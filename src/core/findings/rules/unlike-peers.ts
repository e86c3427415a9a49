import type { Position } from "../../compile/position-index";
import { groupBy } from "../../kernel/compare";
import { rule, sources, standards } from "../rule";

/** Somebody reaches an area that hardly anybody else of their department does. */
export const unlikePeers = rule({
  key: "unlike-peers",
  base: 18,
  source: sources(standards.nist("AC-6(7)"), standards.iso("5.18")),
  parameters: { peers: 5, percent: 10 },
  find: (judged, { peers: least, percent }) => {
    const inDepartment = groupBy(
      judged.holders.filter((holder) => holder.cardholder !== undefined && judged.opensAnything(holder)),
      ({ cardholder = -1 }) => judged.lives.cardholder(cardholder).department,
    );
    return {
      flags: [...inDepartment].flatMap(([department, members]) => {
        const peers = members.length - 1;
        if (department === undefined || peers < least) return [];
        const reaching = new Map<Position, number>();
        for (const member of members) for (const area of judged.areasInRow(judged.rowOf(member))) reaching.set(area, (reaching.get(area) ?? 0) + 1);
        return members.flatMap((holder) => {
          const areas = judged.areasInRow(judged.rowOf(holder));
          const othersIn = (area: Position): number => (reaching.get(area) ?? 0) - 1;
          const isUnlike = (area: Position | undefined): boolean => area !== undefined && areas.has(area) && othersIn(area) * 100 <= percent * peers;
          return [...areas].flatMap((area) =>
            !isUnlike(area) || isUnlike(judged.chainOfArea(area)[1])
              ? []
              : [{ subject: { kind: "cardholder" as const, id: holder.id }, distinct: [judged.area(area).id], proof: { peers, reach: othersIn(area) } }],
          );
        });
      }),
    };
  },
});
