import type { Result } from "../kernel/result";
import { failure, success } from "../kernel/result";
import { addDays, formatCivilDay, weekdayNumber } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import type { Piece, SaidPiece, WhenRefusal } from "./when-piece";
import { timeOf } from "./when-piece";
import type { DayFilter, HoursOfDay, SiteWhen, Within } from "./when";

interface CombineContext {
  readonly today: CivilDay;
  /** For how long recurs what no span limits. */
  readonly within: Within;
}

type Says = Piece["says"];
type PieceOf<S extends Says> = Extract<Piece, { readonly says: S }>;

/** The pieces by what they say, each at most once. */
class Pieces {
  private readonly bySays = new Map<Says, SaidPiece>();
  readonly twice: SaidPiece[] = [];

  constructor(said: readonly SaidPiece[]) {
    for (const one of said)
      if (this.bySays.has(one.piece.says)) this.twice.push(one);
      else this.bySays.set(one.piece.says, one);
  }

  get<S extends Says>(says: S): PieceOf<S> | undefined {
    return this.bySays.get(says)?.piece as PieceOf<S> | undefined;
  }

  text(says: Says): string {
    return this.bySays.get(says)?.text ?? "";
  }

  /** Whether there is nothing beside what is named. */
  only(...says: readonly Says[]): boolean {
    return [...this.bySays.keys()].every((one) => says.includes(one));
  }
}

const recurring = (days: DayFilter, hours: HoursOfDay, within: Within): SiteWhen => ({ kind: "recurring", days, hours, within });
const everyDay: DayFilter = { kind: "every-day" };
const allDay: HoursOfDay = { kind: "all-day" };

function onDate(date: CivilDay, clock: number | undefined, hours: HoursOfDay | undefined): SiteWhen {
  if (clock !== undefined) return { kind: "moment", at: timeOf(date, clock) };
  if (hours === undefined || hours.kind === "all-day") return { kind: "dates", from: date, to: date };
  if (hours.kind === "between")
    return { kind: "span", from: timeOf(date, hours.start), to: timeOf(hours.end <= hours.start ? addDays(date, 1) : date, hours.end) };
  return recurring(everyDay, hours, { kind: "dates", from: date, to: date });
}

/** What pieces mean together; a failure names those that do not go with the others. */
export function combinePieces(said: readonly SaidPiece[], { today, within }: CombineContext): Result<SiteWhen, WhenRefusal> {
  const pieces = new Pieces(said);
  const refuse = (...notUnderstood: readonly string[]): Result<SiteWhen, WhenRefusal> =>
    failure({ understood: said.map(({ text }) => text).filter((text) => !notUnderstood.includes(text)), notUnderstood });
  if (pieces.twice.length > 0) return refuse(...pieces.twice.map(({ text }) => text));
  if (pieces.get("any")) return pieces.only("any") ? success({ kind: "any" }) : refuse(pieces.text("any"));
  if (pieces.get("now")) return pieces.only("now") ? success({ kind: "now" }) : refuse(pieces.text("now"));
  const [named, days, dates, span] = [pieces.get("date"), pieces.get("days"), pieces.get("dates"), pieces.get("span")];
  const [clock, hours] = [pieces.get("clock")?.minuteOfDay, pieces.get("hours")];
  // "Saturday next week"
  const date = named?.weekdayOnly && dates?.week ? addDays(dates.from, weekdayNumber(named.date)) : named?.date;
  if (pieces.get("midnight")) {
    if (pieces.only("midnight")) return success({ kind: "moment", at: { date: addDays(today, 1), minuteOfDay: 0 } });
    if (date === undefined) return refuse(pieces.text("midnight"));
    const readings = [`${formatCivilDay(date)} 00:00`, `${formatCivilDay(addDays(date, 1))} 00:00`] as const;
    return failure({
      understood: [pieces.text("date")],
      notUnderstood: [],
      obstacle: { why: "two-readings", text: said.map(({ text }) => text).join(" "), readings },
    });
  }
  if (clock !== undefined && hours && !hours.tonight) return refuse(pieces.text("clock"));
  if (hours?.tonight && !pieces.only("hours", "clock")) return refuse(pieces.text("hours"));
  if (span)
    return pieces.only("span")
      ? success({ kind: "span", from: span.from, to: span.to })
      : refuse(...said.filter(({ piece }) => piece.says !== "span").map(({ text }) => text));
  if (date !== undefined) {
    if (days) return refuse(pieces.text("days"));
    if (dates && !(named?.weekdayOnly && dates.week)) return refuse(pieces.text("dates"));
    return success(onDate(date, clock, hours?.hours));
  }
  const limited: Within = dates ? { kind: "dates", from: dates.from, to: dates.to } : within;
  // 24:00 of each date is 00:00 of the next: which dates are meant then would not be plain.
  if (clock === 1440 && (days || dates)) return refuse(pieces.text("clock"));
  const part: HoursOfDay | undefined = clock === undefined ? hours?.hours : { kind: "clock", minuteOfDay: clock };
  if (days) return success(recurring(days.days, part ?? allDay, limited));
  if (dates) return success(part && part.kind !== "all-day" ? recurring(everyDay, part, limited) : { kind: "dates", from: dates.from, to: dates.to });
  if (hours?.recurs) return success(recurring(everyDay, hours.hours, within));
  return success(onDate(today, clock, hours?.hours));
}
