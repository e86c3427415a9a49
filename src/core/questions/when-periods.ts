import { addDays, addMonths, civilDay, weekdayNumber, yearMonthDay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { dateOf, dayAt, monthOf, yearAt } from "./when-dates";
import type { Found } from "./when-piece";
import { isWord } from "./when-piece";
import type { Token } from "./when-tokens";
import { mondayOf, namedWeekday, relative } from "./when-weekdays";

/** A weekend, week, month or year, or some days of a month: `next week`, `June 2027`, `24–31 December`. */
export function periodPiece(tokens: readonly Token[], at: number, today: CivilDay): Found {
  const which = isWord(tokens[at], ...relative) ? (tokens[at] as Token).text : undefined;
  const unit = tokens[at + (which === undefined ? 0 : 1)];
  const step = which === "next" ? 1 : which === "last" ? -1 : 0;
  const { year, month } = yearMonthDay(today);
  const used = which === undefined ? 1 : 2;
  if (isWord(unit, "weekend")) {
    if (which === undefined && isWord(tokens[at + 1], "nights", "mornings", "afternoons", "evenings"))
      return { piece: { says: "days", days: { kind: "weekend" } }, used: 1 };
    const bare = weekdayNumber(today) >= 5 ? addDays(mondayOf(today), 5) : namedWeekday(today, 5, undefined);
    const saturday =
      which === "this" || which === undefined
        ? which === "this"
          ? addDays(mondayOf(today), 5)
          : bare
        : which === "next"
          ? weekdayNumber(today) >= 5
            ? addDays(mondayOf(today), 12)
            : bare
          : addDays(mondayOf(today), -2);
    return { piece: { says: "dates", from: saturday, to: addDays(saturday, 1) }, used };
  }
  if (which !== undefined && isWord(unit, "week")) {
    const monday = addDays(mondayOf(today), step * 7);
    return { piece: { says: "dates", from: monday, to: addDays(monday, 6), week: true }, used };
  }
  if (which !== undefined && isWord(unit, "month")) {
    const first = addMonths(civilDay(year, month, 1), step);
    return { piece: { says: "dates", from: first, to: addDays(addMonths(first, 1), -1) }, used };
  }
  if (which !== undefined && isWord(unit, "year"))
    return { piece: { says: "dates", from: civilDay(year + step, 1, 1), to: civilDay(year + step, 12, 31) }, used };
  const named = monthOf(unit);
  if (named !== undefined && dayAt(tokens, at + used) === undefined) {
    const stated = which === undefined ? yearAt(tokens, at + 1) : undefined;
    // The present or the coming one, whole; "next June" the first that begins after today, "last June" the last that is over.
    const coming =
      which === "last"
        ? named < month
          ? year
          : year - 1
        : which === "next"
          ? named > month
            ? year
            : year + 1
          : named >= month || which === "this"
            ? year
            : year + 1;
    const first = civilDay(stated ?? coming, named, 1);
    return { piece: { says: "dates", from: first, to: addDays(addMonths(first, 1), -1) }, used: used + (stated === undefined ? 0 : 1) };
  }
  const stated = which === undefined ? yearAt(tokens, at) : undefined;
  if (stated !== undefined && stated >= 1) return { piece: { says: "dates", from: civilDay(stated, 1, 1), to: civilDay(stated, 12, 31) }, used: 1 };
  // "24–31 December"
  const start = at + (isWord(tokens[at], "from", "between") ? 1 : 0);
  const joins = tokens[start + 1]?.kind === "dash" || isWord(tokens[start + 1], "to", "until", "till") || (start > at && isWord(tokens[start + 1], "and"));
  const [from, to, of] = [dayAt(tokens, start), joins ? dayAt(tokens, start + 2) : undefined, monthOf(tokens[start + 3])];
  if (from !== undefined && to !== undefined && of !== undefined) {
    const text = tokens
      .slice(at, start + 4)
      .map((token) => token.text)
      .join(" ");
    const given = yearAt(tokens, start + 4);
    const last = dateOf(today, to, of, given);
    const first = last === undefined ? undefined : dateOf(last, from, of, yearMonthDay(last).year);
    const all = start - at + 4 + (given === undefined ? 0 : 1);
    if (last === undefined || first === undefined) return { obstacle: { why: "impossible-date", text }, used: all };
    return first <= last ? { piece: { says: "dates", from: first, to: last }, used: all } : { obstacle: { why: "backward", text }, used: all };
  }
  return undefined;
}
