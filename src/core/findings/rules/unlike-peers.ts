import type { Position } from "../../compile/position-index";
import { groupBy } from "../../kernel/compare";
import { remembered } from "../../kernel/remembered";
import type { RowNumber } from "../../table/access-rows";
import type { FlagOf } from "../flag";
import { lazily } from "../flag";
import { holds } from "../judged";
import type { Holder, Judged } from "../judged";
import { rule, sources, standards } from "../rule";

/** An area, and how many of the peers reach it. */
interface Unlike {
  readonly distinct: readonly string[];
  readonly proof: { readonly peers: number; readonly reach: number };
}

/** The areas that those of a department with a certain row reach and hardly any of the others. Cost: the areas of each distinct row of the department. */
function unlikeIn(judged: Judged, members: readonly Holder[], percent: number): (row: RowNumber) => readonly Unlike[] {
  const peers = members.length - 1;
  const reaching = new Map<Position, number>();
  for (const [row, same] of groupBy(members, (member) => judged.rowOf(member)))
    for (const area of judged.areasInRow(row)) reaching.set(area, (reaching.get(area) ?? 0) + same.length);
  return remembered((row: RowNumber) => {
    const areas = judged.areasInRow(row);
    const others = (area: Position): number => (reaching.get(area) ?? 0) - 1;
    const isUnlike = (area: Position): boolean => others(area) * 100 <= percent * peers;
    const found: Unlike[] = [];
    for (const area of areas) {
      if (!isUnlike(area)) continue;
      const above = judged.chainOfArea(area)[1];
      if (above !== undefined && holds(areas, above) && isUnlike(above)) continue;
      found.push({ distinct: [judged.area(area).id], proof: { peers, reach: others(area) } });
    }
    return found;
  });
}

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
      flags: lazily(function* (): Generator<FlagOf<"unlike-peers">> {
        for (const [department, members] of inDepartment) {
          if (department === undefined || members.length - 1 < least) continue;
          const unlike = unlikeIn(judged, members, percent);
          for (const holder of members) for (const { distinct, proof } of unlike(judged.rowOf(holder))) yield { subject: holder, distinct, proof };
        }
      }),
    };
  },
});
