import type { CalendarEntry, HolidayCalendar } from "../time/calendar";
import { addDays, addMonths, civilDay, weekdayNumber, yearMonthDay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { horizonMonths } from "../time/horizon";

/** A date on which a calendar says something. */
export interface MarkedDay {
  readonly date: CivilDay;
  readonly name: string;
  readonly dayType: string;
  readonly priority: number;
  /** Entries that would have it otherwise, in order of their strength. */
  readonly beaten: readonly { readonly name: string; readonly dayType: string; readonly priority: number }[];
  /** It falls on a weekday on which business is closed anyway. */
  readonly closedAnyway: boolean;
}

export interface YearSheet {
  /** First of the month with which the sheet begins, and how many months it has. */
  readonly from: CivilDay;
  readonly months: number;
  readonly days: readonly MarkedDay[];
  /** The day types on the sheet, those of the strongest entries first. */
  readonly dayTypes: readonly string[];
  /** The last date that was typed in; undefined where all entries repeat by themselves, or there are none. */
  readonly enteredUntil: CivilDay | undefined;
  /** Entries typed in for certain dates of which the last lies on the sheet: after it, that day is an ordinary one. */
  readonly runningOut: readonly { readonly name: string; readonly dayType: string; readonly last: CivilDay }[];
}

const lastTyped = ({ when }: CalendarEntry): CivilDay | undefined => (when.rule === "on" ? when.date : when.rule === "span" ? when.to : undefined);

/** The 13 months from the month of a date, with every date on which the calendar has its say. */
export function yearSheet(calendar: HolidayCalendar, at: CivilDay): YearSheet {
  const { year, month } = yearMonthDay(at);
  const from = civilDay(year, month, 1);
  const end = addMonths(from, horizonMonths);
  const days: MarkedDay[] = [];
  for (let date = from; date < end; date = addDays(date, 1)) {
    const reading = calendar.read(date);
    if (!reading) continue;
    const { name, dayType, priority } = reading.winner;
    days.push({
      date,
      name,
      dayType,
      priority,
      beaten: reading.beaten.map((one) => ({ name: one.name, dayType: one.dayType, priority: one.priority })),
      closedAnyway: weekdayNumber(date) > 4,
    });
  }
  const typed = calendar.entries.flatMap((entry) => {
    const last = lastTyped(entry);
    return last === undefined ? [] : [{ name: entry.name, dayType: entry.dayType, last }];
  });
  const lastOf = new Map<string, { readonly name: string; readonly dayType: string; readonly last: CivilDay }>();
  for (const one of typed) {
    const key = `${one.name} ${one.dayType}`;
    const known = lastOf.get(key);
    if (!known || known.last < one.last) lastOf.set(key, one);
  }
  // A rule that repeats under the same name goes on where the dates that were typed in end.
  const repeats = new Set(calendar.entries.filter((entry) => lastTyped(entry) === undefined).map(({ name, dayType }) => `${name} ${dayType}`));
  return {
    from,
    months: horizonMonths,
    days,
    dayTypes: [...new Set([...days].sort((a, b) => b.priority - a.priority || a.date - b.date).map(({ dayType }) => dayType))],
    enteredUntil: typed.length === 0 ? undefined : (Math.max(...typed.map(({ last }) => last)) as CivilDay),
    runningOut: [...lastOf].filter(([key, { last }]) => !repeats.has(key) && last >= from && last < end).map(([, one]) => one),
  };
}
