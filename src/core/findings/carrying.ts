import type { Position } from "../compile/position-index";
import type { AccessPath } from "../paths/paths";
import { pathsBetween } from "../paths/paths";
import { pathOpenIn } from "../paths/timetable";
import type { IntervalSet } from "../time/intervals";
import type { Judged } from "./judged";

/** Whether two sets have a minute in common. */
export function meet(a: IntervalSet, b: IntervalSet): boolean {
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    if (Math.max(a[i] as number, b[j] as number) < Math.min(a[i + 1] as number, b[j + 1] as number)) return true;
    if ((a[i + 1] as number) < (b[j + 1] as number)) i += 2;
    else j += 2;
  }
  return false;
}

/** The paths that carry: at some minute ahead at which the credential opens the door their windows hold and their schedules are open. */
export function carryingPaths(judged: Judged, credential: Position, door: Position): AccessPath[] {
  const open = judged.openWith(credential, door);
  if (open.length === 0) return [];
  const compiled = judged.credential(credential);
  return pathsBetween(judged.compiled, compiled, door).filter(
    (path) => !path.grant.blocks && meet(open, pathOpenIn(judged.timeframe, compiled, judged.door(door), path)),
  );
}
