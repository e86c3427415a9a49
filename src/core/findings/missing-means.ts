import type { CompiledCredential, CompiledDoor } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { candidateDoors } from "../paths/candidates";
import { allowedIn, entryMetIn } from "../paths/timetable";
import { alikeOf } from "../table/alike";
import type { IntervalSet } from "../time/intervals";
import type { Judged } from "./judged";

interface Wanting {
  /** Whether it could be this that is wanting at a door, before it is looked at by whom and when the door is opened. */
  readonly couldBe: (door: CompiledDoor, met: IntervalSet) => boolean;
  /** Whether a door stays shut for want of it, by when the credential may open it and when it meets the entry rule. */
  readonly isIt: (allowed: IntervalSet, met: IntervalSet) => boolean;
}

/**
 * Doors that nobody's credential of its holder opens although this one may, and that stay shut for want of something. Cost: the doors of each
 * distinct profile, life and row of a holder, not of each credential.
 */
export function doorsWanting(
  judged: Judged,
  isAsked: (credential: CompiledCredential) => boolean,
  { couldBe, isIt }: Wanting,
): (credential: Position) => readonly Position[] {
  const { compiled, timeframe, ahead } = judged;
  const { profileOf } = alikeOf(compiled);
  const known = new Map<string, readonly Position[]>();
  return (position) => {
    const credential = judged.credential(position);
    if (!isAsked(credential)) return [];
    const row = judged.rowOf(judged.holderOfCredential(position));
    const key = `${profileOf[position] as number} ${ahead.liveOfCredential[position] as number} ${row}`;
    let doors = known.get(key);
    if (!doors) {
      const opened = new Set(judged.doorsInRow(row));
      doors = candidateDoors(compiled, credential).filter((door) => {
        if (opened.has(door)) return false;
        const at = judged.door(door);
        const met = entryMetIn(timeframe, credential, at);
        return couldBe(at, met) && isIt(allowedIn(compiled, timeframe, credential, door), met);
      });
      known.set(key, doors);
    }
    return doors;
  };
}
