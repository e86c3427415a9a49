import { byText } from "../kernel/compare";
import { required } from "../kernel/invariant";
import { calendarPosition, ordinary } from "../paths/paths";
import { reachOf } from "../findings/reach";
import type { Horizon } from "../table/horizon";
import { intersect, totalMinutes } from "../time/intervals";
import { holderOfLine } from "./holder-of-line";
import type { Line } from "./line";
import { doorsOfLine } from "./line-withdrawal";
import { holderOf } from "./withdrawal/wish";

/** A schedule of the register that would leave some of what a line opens, and not all of it. */
export interface NarrowingSchedule {
  readonly id: string;
  readonly name: string;
  /** Of the minutes ahead at which a door of the line opens, how many would stay, of how many. */
  readonly stays: number;
  readonly of: number;
}

/** So many are offered at most, those that leave most first. */
const offeredAtMost = 12;

/** The schedules by which a line can be narrowed. Cost: the line's doors with each schedule. */
export function narrowingSchedules(horizon: Horizon, line: Line): NarrowingSchedule[] {
  const { compiled, ahead } = horizon;
  const holder = holderOf(compiled, holderOfLine(line));
  if (!holder || line.subject.kind === "credential") return [];
  const asked = new Set(doorsOfLine(compiled, line).map((id) => required(compiled.doorById.get(id), "the doors of a line are the document's")));
  const reach = [
    ...reachOf(
      horizon.table(ordinary),
      holder.credentials.map(({ position }) => position),
    ),
  ].filter(([door]) => asked.has(door));
  const of = reach.reduce((sum, [, open]) => sum + totalMinutes(open), 0);
  const credential = holder.credentials[0];
  if (!credential || of === 0) return [];
  const offered = compiled.facility.schedules.flatMap(({ id, name }, schedule): NarrowingSchedule[] => {
    const stays = reach.reduce((sum, [door, open]) => {
      const at = required(compiled.doors[door], "positions are valid");
      return sum + totalMinutes(intersect(open, compiled.timeline(schedule, calendarPosition(credential, at), at.zone, ahead.from, ahead.to)));
    }, 0);
    return stays > 0 && stays < of ? [{ id, name, stays, of }] : [];
  });
  const byName = byText(({ name }: NarrowingSchedule) => name);
  return offered.sort((a, b) => b.stays - a.stays || byName(a, b)).slice(0, offeredAtMost);
}
