import { addDays } from "../time/civil-day";
import { monthOf } from "./when-dates";
import type { Found, PieceContext } from "./when-piece";
import { isWord, timeOf } from "./when-piece";
import type { Token } from "./when-tokens";

/** Hours that have a name: `Saturday night` ends with such, `out of hours`, `tonight`. */
export function namedHours(tokens: readonly Token[], at: number, { today, parts }: PieceContext): Found {
  const token = tokens[at];
  const each = isWord(token, "every", "each");
  const general = each || (isWord(token, "at") && isWord(tokens[at + 1], "night"));
  const word = tokens[at + (general || isWord(token, "this") ? 1 : 0)];
  if (isWord(token, "last") && isWord(tokens[at + 1], "night"))
    return { piece: { says: "span", from: timeOf(addDays(today, -1), parts.night[0]), to: timeOf(today, parts.night[1]) }, used: 2 };
  const between = ([start, end]: readonly [number, number], recurs: boolean): Found => ({
    piece: { says: "hours", hours: { kind: "between", start, end }, recurs },
    used: word === token ? 1 : 2,
  });
  for (const name of ["morning", "afternoon", "evening", "night"] as const) {
    if (isWord(word, name)) return between(parts[name], general);
    if (isWord(word, `${name}s`)) return between(parts[name], true);
  }
  if (isWord(token, "tonight"))
    return { piece: { says: "hours", hours: { kind: "between", start: parts.night[0], end: parts.night[1] }, recurs: false, tonight: true }, used: 1 };
  if (isWord(token, "overnight")) return between(parts.night, true);
  if (isWord(token, "out") && isWord(tokens[at + 1], "of") && isWord(tokens[at + 2], "hours"))
    return { piece: { says: "hours", hours: { kind: "out-of-hours" }, recurs: true }, used: 3 };
  if (isWord(token, "outside") && isWord(tokens[at + 1], "business") && isWord(tokens[at + 2], "hours"))
    return { piece: { says: "hours", hours: { kind: "out-of-hours" }, recurs: true }, used: 3 };
  if (isWord(token, "business") && isWord(tokens[at + 1], "hours")) return { piece: { says: "hours", hours: { kind: "business" }, recurs: true }, used: 2 };
  if (isWord(token, "all") && isWord(tokens[at + 1], "day")) return { piece: { says: "hours", hours: { kind: "all-day" }, recurs: false }, used: 2 };
  return undefined;
}

/** A time of the day; a bare number only where a range is read. */
export function clockAt(tokens: readonly Token[], at: number, bareNumbers: boolean): { readonly minuteOfDay: number; readonly used: number } | undefined {
  const token = tokens[at];
  if (token?.kind === "clock") return { minuteOfDay: token.minuteOfDay, used: 1 };
  if (isWord(token, "noon", "midday")) return { minuteOfDay: 720, used: 1 };
  if (bareNumbers && isWord(token, "midnight")) return { minuteOfDay: 1440, used: 1 };
  if (token?.kind === "dotted" && !token.isDate) {
    const [hour, minute] = token.parts;
    return hour < 24 && minute < 60 ? { minuteOfDay: hour * 60 + minute, used: 1 } : undefined;
  }
  if (bareNumbers && token?.kind === "number" && token.value <= 24 && /^\d{1,2}$/.test(token.text)) return { minuteOfDay: token.value * 60, used: 1 };
  return undefined;
}

/** "22–06", "from 22 to 4", "between 8:00 and 10:00". */
export function hoursRange(tokens: readonly Token[], at: number): Found {
  const opened = isWord(tokens[at], "from", "between") ? 1 : 0;
  const start = clockAt(tokens, at + opened, true);
  if (!start) return undefined;
  const joint = tokens[at + opened + start.used];
  const joins = joint?.kind === "dash" || isWord(joint, "to", "till", "until") || (isWord(tokens[at], "between") && isWord(joint, "and"));
  const end = joins ? clockAt(tokens, at + opened + start.used + 1, true) : undefined;
  if (!end) return undefined;
  const used = opened + start.used + 1 + end.used;
  // "24–31 December" and "28 November to 3 December" are dates.
  if (monthOf(tokens[at + used]) !== undefined) return undefined;
  const text = tokens
    .slice(at, at + used)
    .map((token) => token.text)
    .join(" ");
  const [a, b] = [tokens[at + opened], tokens[at + opened + start.used + 1]];
  if (a?.kind === "number" && b?.kind === "clock" && /m/.test(b.text) && start.minuteOfDay <= 720) {
    // "8 to 10 pm": the first may be in the morning or in the evening.
    return {
      obstacle: {
        why: "two-readings",
        text,
        readings: [
          `${clockText(start.minuteOfDay)} to ${clockText(end.minuteOfDay)}`,
          `${clockText((start.minuteOfDay + 720) % 1440)} to ${clockText(end.minuteOfDay)}`,
        ],
      },
      used,
    };
  }
  if (start.minuteOfDay % 1440 === end.minuteOfDay % 1440) return { obstacle: { why: "backward", text }, used };
  return { piece: { says: "hours", hours: { kind: "between", start: start.minuteOfDay % 1440, end: end.minuteOfDay }, recurs: false }, used };
}

export const clockText = (minute: number): string => `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}`;
