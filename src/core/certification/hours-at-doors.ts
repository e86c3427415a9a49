import { required } from "../kernel/invariant";
import type { Position } from "../compile/position-index";
import type { CompiledFacility } from "../compile/compiled-facility";
import { germanHours } from "../describe/german-hours";
import { hoursInWords } from "../describe/hours-words";
import { calendarAt } from "../paths/paths";
import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { contentKey } from "../time/intervals";
import type { IntervalSet } from "../time/intervals";

/** Hours in words of timetables at doors; each distinct timetable is described once. */
export function hoursAtDoors(compiled: CompiledFacility, from: EpochMinute, to: EpochMinute) {
  const known = new Map<string, { readonly words: string; readonly german: string }>();
  return (open: IntervalSet, own: Position | undefined, door: Position) => {
    const { zone, calendar } = required(compiled.doors[door], "positions are valid");
    const read = own ?? calendar;
    const key = `${zone.name} ${read ?? ""} ${contentKey(open)}`;
    let words = known.get(key);
    if (words === undefined) {
      const days = calendarAt(compiled, read);
      const described = { zone, from, to, dayTypeOn: (date: CivilDay) => days?.read(date)?.winner.dayType };
      words = { words: hoursInWords(open, described).words, german: hoursInWords(open, described, false, germanHours).words };
      known.set(key, words);
    }
    return words;
  };
}
