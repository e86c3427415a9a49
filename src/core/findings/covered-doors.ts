import type { Position } from "../compile/position-index";
import { groupBy } from "../kernel/compare";
import type { Judged } from "./judged";

export interface GroupCover {
  readonly doors: ReadonlySet<Position>;
  /** Whether an allow that is not over is given straight to the group. */
  readonly isGiven: boolean;
}

/** The doors that allows not over, to a group or a group above it, cover; by group. */
export function doorsOfGroups(judged: Judged): (group: Position) => GroupCover {
  const { facility, compiled, lives } = judged;
  const given = groupBy(
    facility.grants.flatMap((grant, position) =>
      grant.to.group === undefined || grant.effect === "block" || lives.isOver(lives.windowOfGrant(grant)) ? [] : [{ group: grant.to.group, position }],
    ),
    ({ group }) => group,
  );
  return (group) => {
    const grants = compiled.chainOf(group).map((above) => given.get(facility.groups[above]?.id ?? "") ?? []);
    return {
      doors: new Set(grants.flatMap((own) => own.flatMap(({ position }) => [...compiled.waysOf(position).keys()]))),
      isGiven: (grants[0] ?? []).length > 0,
    };
  };
}
