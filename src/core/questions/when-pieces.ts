import { addDays } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { monthNames, plainDate } from "./when-dates";
import { clockAt, clockText, hoursRange, namedHours } from "./when-hours";
import { dayTypePiece } from "./when-names";
import { periodPiece } from "./when-periods";
import type { Found, Obstacle, PieceContext } from "./when-piece";
import { isWord, timeOf } from "./when-piece";
import type { LocalTime } from "./when";
import type { Token } from "./when-tokens";
import { relative, weekdayOf, weekdayPiece } from "./when-weekdays";

interface Endpoint {
  readonly date: CivilDay | undefined;
  readonly minuteOfDay: number | undefined;
  readonly used: number;
}

/** A date, a time of the day or both, as one end of a span. */
function endpointAt(tokens: readonly Token[], at: number, today: CivilDay): Endpoint | { readonly obstacle: Obstacle; readonly used: number } | undefined {
  const day =
    weekdayOf(tokens[at]) && !weekdayOf(tokens[at])?.plural
      ? weekdayPiece(tokens, at, today)
      : (plainDate(tokens, at, today) ?? (isWord(tokens[at], ...relative) ? weekdayPiece(tokens, at, today) : undefined));
  if (day && "obstacle" in day) return day;
  const date = day?.piece.says === "date" ? day.piece.date : undefined;
  if (day && date === undefined) return undefined;
  const used = day?.used ?? 0;
  const skip = date !== undefined && (tokens[at + used]?.kind === "comma" || isWord(tokens[at + used], "at")) ? 1 : 0;
  const clock = clockAt(tokens, at + used + skip, false);
  if (date === undefined && !clock) return undefined;
  return { date, minuteOfDay: clock?.minuteOfDay, used: used + (clock ? skip + clock.used : 0) };
}

/** "from 24 December to 2 January", "28 Nov 22:00 – 29 Nov 06:00", "until 31 March". */
function spanPiece(tokens: readonly Token[], at: number, today: CivilDay): Found {
  if (isWord(tokens[at], "until", "till")) {
    const end = endpointAt(tokens, at + 1, today);
    if (end && "obstacle" in end) return { ...end, used: end.used + 1 };
    if (end?.date === undefined || end.minuteOfDay !== undefined) return undefined;
    return end.date < today
      ? {
          obstacle: {
            why: "backward",
            text: tokens
              .slice(at, at + 1 + end.used)
              .map(({ text }) => text)
              .join(" "),
          },
          used: 1 + end.used,
        }
      : { piece: { says: "dates", from: today, to: end.date }, used: 1 + end.used };
  }
  const opened = isWord(tokens[at], "from", "between") ? 1 : 0;
  // "24 – 31 December" and the like are read elsewhere; here each end is whole.
  const start = endpointAt(tokens, at + opened, today);
  if (start && "obstacle" in start) return opened === 1 ? { ...start, used: start.used + 1 } : undefined;
  if (start?.date === undefined) return undefined;
  const joint = tokens[at + opened + start.used];
  if (!(joint?.kind === "dash" || isWord(joint, "to", "till", "until", "through") || (isWord(tokens[at], "between") && isWord(joint, "and")))) return undefined;
  const end = endpointAt(tokens, at + opened + start.used + 1, start.date);
  if (!end) return undefined;
  const used = opened + start.used + 1 + end.used;
  if ("obstacle" in end) return { ...end, used };
  const text = tokens
    .slice(at, at + used)
    .map((token) => token.text)
    .join(" ");
  if (end.date !== undefined && start.minuteOfDay === undefined && end.minuteOfDay === undefined)
    return start.date <= end.date ? { piece: { says: "dates", from: start.date, to: end.date }, used } : { obstacle: { why: "backward", text }, used };
  const from: LocalTime = timeOf(start.date, start.minuteOfDay ?? 0);
  const endDate = end.date ?? (end.minuteOfDay !== undefined && end.minuteOfDay <= (start.minuteOfDay ?? 0) ? addDays(start.date, 1) : start.date);
  const to = end.minuteOfDay === undefined ? timeOf(addDays(endDate, 1), 0) : timeOf(endDate, end.minuteOfDay);
  const isForward = from.date < to.date || (from.date === to.date && from.minuteOfDay < to.minuteOfDay);
  return isForward ? { piece: { says: "span", from, to }, used } : { obstacle: { why: "backward", text }, used };
}

function fixedPiece(tokens: readonly Token[], at: number): Found {
  if (isWord(tokens[at], "now")) return { piece: { says: "now" }, used: 1 };
  if (isWord(tokens[at], "any", "all") && isWord(tokens[at + 1], "time")) return { piece: { says: "any" }, used: 2 };
  if (isWord(tokens[at], "anytime", "always", "ever")) return { piece: { says: "any" }, used: 1 };
  if (isWord(tokens[at], "weekends")) return { piece: { says: "days", days: { kind: "weekend" } }, used: 1 };
  if (isWord(tokens[at], "every", "each") && isWord(tokens[at + 1], "weekend")) return { piece: { says: "days", days: { kind: "weekend" } }, used: 2 };
  if (isWord(tokens[at], "weekdays") || (isWord(tokens[at], "every", "each") && isWord(tokens[at + 1], "weekday")))
    return { piece: { says: "days", days: { kind: "weekdays", weekdays: ["mon", "tue", "wed", "thu", "fri"] } }, used: isWord(tokens[at], "weekdays") ? 1 : 2 };
  if (isWord(tokens[at], "daily")) return { piece: { says: "days", days: { kind: "every-day" } }, used: 1 };
  if (isWord(tokens[at], "every", "each") && isWord(tokens[at + 1], "day")) return { piece: { says: "days", days: { kind: "every-day" } }, used: 2 };
  if (isWord(tokens[at], "midnight")) return { piece: { says: "midnight" }, used: 1 };
  if (tokens[at]?.kind === "comma" || isWord(tokens[at], "at", "on", "in", "the", "during", "of", "o'clock", "oclock"))
    return { piece: { says: "nothing" }, used: 1 };
  return undefined;
}

/** What the tokens from one on say; undefined where nothing is known of them. The longest reading that a writing allows comes first. */
export function pieceAt(tokens: readonly Token[], at: number, context: PieceContext): Found {
  const { today } = context;
  const clock = (): Found => {
    const found = clockAt(tokens, at, false);
    const token = tokens[at];
    if (!found) return undefined;
    // "6.12" may be a time, or 6 December.
    if (token?.kind === "dotted") {
      const [day, month] = token.parts;
      if (month >= 1 && month <= 12 && day >= 1 && day <= 31)
        return {
          obstacle: { why: "two-readings", text: token.text, readings: [`at ${clockText(found.minuteOfDay)}`, `${day} ${monthNames[month - 1] ?? ""}`] },
          used: 1,
        };
    }
    return { piece: { says: "clock", minuteOfDay: found.minuteOfDay }, used: found.used };
  };
  return (
    spanPiece(tokens, at, today) ??
    hoursRange(tokens, at) ??
    periodPiece(tokens, at, today) ??
    dayTypePiece(tokens, at, context) ??
    namedHours(tokens, at, context) ??
    weekdayPiece(tokens, at, today) ??
    plainDate(tokens, at, today) ??
    clock() ??
    fixedPiece(tokens, at)
  );
}
