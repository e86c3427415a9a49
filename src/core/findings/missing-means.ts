import type { CompiledCredential, CompiledDoor } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { candidateDoors } from "../paths/candidates";
import { allowedIn, entryMetIn } from "../paths/timetable";
import { meetsEntry } from "../paths/entry";
import { timelineAt } from "../table/access-rows";
import { alikeOf } from "../table/alike";
import { never } from "../table/timelines";
import { nothing } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";
import type { EntryRule } from "../facility/document";
import type { Judged } from "./judged";

const entryRules = ["card", "card+pin", "pin", "card-or-pin"] as const satisfies readonly EntryRule[];

interface Wanting {
  /** Whether it could be this that is wanting at a door, before it is looked at by whom and when the door is opened. */
  readonly couldBe: (door: CompiledDoor, met: IntervalSet) => boolean;
  /** Whether a door stays shut for want of it, by when the credential may open it and when it meets the entry rule. */
  readonly isIt: (allowed: IntervalSet, met: IntervalSet) => boolean;
}

/**
 * Doors that nobody's credential of its holder opens although this one may, and that stay shut for want of something. Cost: the doors that could be wanting of
 * each distinct profile, life and row of a holder, not of each credential.
 */
export function doorsWanting(
  judged: Judged,
  isAsked: (credential: CompiledCredential) => boolean,
  { couldBe, isIt }: Wanting,
): (credential: Position) => readonly Position[] {
  const { compiled, timeframe, ahead } = judged;
  const { profileOf } = alikeOf(compiled);
  const known = new Map<string, readonly Position[]>();
  /** By what a credential can present at a reader: when that will do at each door, undefined where nothing could be wanting. */
  const metBy = new Map<string, readonly (IntervalSet | undefined)[]>();
  const metAt = (credential: CompiledCredential): readonly (IntervalSet | undefined)[] => {
    const presents = entryRules.map((rule) => meetsEntry(credential, rule)).join();
    let met = metBy.get(presents);
    if (!met) {
      met = compiled.doors.map((door) => {
        const minutes = entryMetIn(timeframe, credential, door);
        return couldBe(door, minutes) ? minutes : undefined;
      });
      metBy.set(presents, met);
    }
    return met;
  };
  return (position) => {
    const credential = judged.credential(position);
    if (!isAsked(credential)) return [];
    const row = judged.rowOf(judged.holderOfCredential(position));
    const key = `${profileOf[position] as number} ${ahead.liveOfCredential[position] as number} ${row}`;
    let doors = known.get(key);
    if (!doors) {
      const met = metAt(credential);
      doors = candidateDoors(compiled, credential, (door) => met[door] !== undefined && timelineAt(ahead.rows, row, door) === never).filter((door) =>
        isIt(allowedIn(compiled, timeframe, credential, door), met[door] ?? nothing),
      );
      known.set(key, doors);
    }
    return doors;
  };
}
