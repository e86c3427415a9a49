import { addDays, weekdayNumber, weekdays } from "../time/civil-day";
import type { CivilDay, Weekday } from "../time/civil-day";
import { plainDate } from "./when-dates";
import type { Found } from "./when-piece";
import { isWord } from "./when-piece";
import type { Token } from "./when-tokens";

const fullWeekdays = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];
const shortWeekdays: Readonly<Record<string, number>> = { mon: 0, tue: 1, tues: 1, wed: 2, weds: 2, thu: 3, thur: 3, thurs: 3, fri: 4, sat: 5, sun: 6 };

/** 0 for Monday to 6; and whether it is said in the plural. */
export function weekdayOf(token: Token | undefined): { readonly weekday: number; readonly plural: boolean } | undefined {
  if (token?.kind !== "word") return undefined;
  const text = token.text.replace(/\.$/, "");
  const short = shortWeekdays[text];
  if (short !== undefined && Object.hasOwn(shortWeekdays, text)) return { weekday: short, plural: false };
  const weekday = fullWeekdays.findIndex((day) => day === text || `${day}s` === text);
  return weekday < 0 ? undefined : { weekday, plural: text.endsWith("s") && fullWeekdays[weekday] !== text };
}

export const mondayOf = (date: CivilDay): CivilDay => addDays(date, -weekdayNumber(date));

/** A weekday by itself: bare, today or the first after; next, the first after today; last, the last before; this, of this ISO week. */
export function namedWeekday(today: CivilDay, weekday: number, which: string | undefined): CivilDay {
  const ahead = (weekday - weekdayNumber(today) + 7) % 7;
  if (which === "this") return addDays(mondayOf(today), weekday);
  if (which === "next") return addDays(today, ahead === 0 ? 7 : ahead);
  return which === "last" ? addDays(today, ahead - 7) : addDays(today, ahead);
}

export const relative = ["next", "last", "this"];

/** A weekday, several of them, or a date that begins with its weekday. */
export function weekdayPiece(tokens: readonly Token[], at: number, today: CivilDay): Found {
  const which = isWord(tokens[at], ...relative) ? (tokens[at] as Token).text : undefined;
  const each = isWord(tokens[at], "every", "each");
  const start = at + (which === undefined && !each ? 0 : 1);
  const named = weekdayOf(tokens[start]);
  if (!named) return undefined;
  const { weekday, plural } = named;
  // "Mon–Fri", "Monday to Friday"
  const until = tokens[start + 1]?.kind === "dash" || isWord(tokens[start + 1], "to", "through", "till", "until") ? weekdayOf(tokens[start + 2]) : undefined;
  // "from Friday to Sunday" is the coming span, and read as one.
  if (until && which === undefined && !isWord(tokens[at - 1], "from", "between")) {
    const count = ((until.weekday - weekday + 7) % 7) + 1;
    const days = Array.from({ length: count }, (_, i) => (weekday + i) % 7)
      .sort((a, b) => a - b)
      .map((number) => weekdays[number] as Weekday);
    return { piece: { says: "days", days: { kind: "weekdays", weekdays: days } }, used: start + 3 - at };
  }
  if (plural || each) {
    let next = start + 1;
    const found = new Set([weekday]);
    for (;;) {
      const skip = tokens[next]?.kind === "comma" || isWord(tokens[next], "and") ? 1 : 0;
      const more = skip === 1 ? weekdayOf(tokens[next + 1]) : undefined;
      if (!more || !(more.plural || each)) break;
      found.add(more.weekday);
      next += 2;
    }
    return {
      piece: { says: "days", days: { kind: "weekdays", weekdays: [...found].sort((a, b) => a - b).map((number) => weekdays[number] as Weekday) } },
      used: next - at,
    };
  }
  // "Sat 28 November": the weekday must be that of the date.
  const skip = tokens[start + 1]?.kind === "comma" ? 1 : 0;
  const date = which === undefined ? plainDate(tokens, start + 1 + skip, today) : undefined;
  if (date && "piece" in date && date.piece.says === "date" && !isWord(tokens[start + 1 + skip], "today", "tonight", "tomorrow", "yesterday")) {
    const used = 1 + skip + date.used;
    if (weekdayNumber(date.piece.date) === weekday) return { piece: date.piece, used };
    return {
      obstacle: {
        why: "other-weekday",
        text: tokens
          .slice(start, start + used)
          .map(({ text }) => text)
          .join(" "),
        weekday: weekdays[weekdayNumber(date.piece.date)] as Weekday,
      },
      used,
    };
  }
  if (date && "obstacle" in date) return { ...date, used: 1 + skip + date.used };
  return { piece: { says: "date", date: namedWeekday(today, weekday, which), ...(which === undefined && { weekdayOnly: true }) }, used: start + 1 - at };
}
