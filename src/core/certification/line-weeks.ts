import { compileFacility } from "../compile/compile-facility";
import type { FacilityChange } from "../facility/facility-change";
import { withChanges } from "../facility/facility-change";
import type { BusinessWeeks } from "../findings/business-hours";
import { reachOf } from "../findings/reach";
import { groupBy } from "../kernel/compare";
import { required } from "../kernel/invariant";
import { ordinary } from "../paths/paths";
import type { Horizon } from "../table/horizon";
import { contentKey, nothing, union } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";
import { holderOfLine } from "./holder-of-line";
import type { Line } from "./line";
import { doorsOfLine } from "./line-withdrawal";
import { holderOf } from "./withdrawal/wish";

/** Doors of a line whose ordinary weeks are alike, as they are and as changes would leave them: minutes 0..10080 from Monday. */
export interface WeeksOfDoors {
  readonly doors: readonly string[];
  readonly before: IntervalSet;
  readonly after: IntervalSet;
  /** What of them lies outside the business hours of the doors' sites; effects that were kept earlier do not say. */
  readonly outside?: IntervalSet;
}

/** The ordinary weeks of a line's doors beside what changes would leave of them; doors in the order of the document. */
export function weeksOfLine(horizon: Horizon, line: Line, changes: readonly FacilityChange[], business: BusinessWeeks): WeeksOfDoors[] {
  const { compiled } = horizon;
  const credentials = holderOf(compiled, holderOfLine(line))?.credentials.map(({ position }) => position) ?? [];
  const changed = compileFacility(withChanges(compiled.facility, changes), compiled);
  const [before, after] = [reachOf(horizon.week(ordinary), credentials), reachOf(horizon.beside(changed).week(ordinary), credentials)];
  const weeks = doorsOfLine(compiled, line).flatMap((id) => {
    const door = required(compiled.doorById.get(id), "the doors of a line are the document's");
    const [was, is] = [before.get(door) ?? nothing, after.get(door) ?? nothing];
    return was.length === 0 && is.length === 0 ? [] : [{ id, door, was, is }];
  });
  return [...groupBy(weeks, ({ was, is }) => `${contentKey(was)} ${contentKey(is)}`).values()].map((alike) => {
    const first = required(alike[0], "groups are not empty");
    const outside = business.outside(
      alike.map(({ door }) => door),
      union(first.was, first.is),
    );
    return { doors: alike.map(({ id }) => id), before: first.was, after: first.is, outside };
  });
}
