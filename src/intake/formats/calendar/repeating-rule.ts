import type { DocumentDayRule } from "@/core/facility/document";
import { addDays, civilDay, weekdays, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { RecurrenceRule } from "./recurrence";
import { recurrenceDates } from "./recurrence";

const pad = (number: number): string => String(number).padStart(2, "0");

/** The same rule as one of a calendar entry; undefined where no such rule comes on the same dates. */
export function repeating(rule: RecurrenceRule, start: CivilDay, end: CivilDay): DocumentDayRule | undefined {
  const { year: _year, month, day } = yearMonthDay(start);
  if (
    rule.frequency !== "YEARLY" ||
    rule.interval !== 1 ||
    rule.count !== undefined ||
    rule.until !== undefined ||
    rule.positions.length + rule.yearDays.length + rule.weeks.length > 0
  )
    return undefined;
  const [byDay, ...otherDays] = rule.days;
  if (!byDay) {
    if ((rule.months.length > 0 && rule.months.join() !== String(month)) || (rule.monthDays.length > 0 && rule.monthDays.join() !== String(day)))
      return undefined;
    if (start === end) return { yearly: `${pad(month)}-${pad(day)}` };
    // A span that a leap day makes longer, or that runs longer than a year, is no span from one date of the year to another.
    const to = yearMonthDay(end);
    return end - start < 300 && !(month === 2 && day === 29) && !holdsLeapDay(start, end)
      ? { yearlyFrom: `${pad(month)}-${pad(day)}`, yearlyTo: `${pad(to.month)}-${pad(to.day)}` }
      : undefined;
  }
  const [n, weekday] = [byDay.n, weekdays[byDay.weekday]];
  if (n === undefined || weekday === undefined || start !== end || otherDays.length > 0 || rule.months.length !== 1 || rule.monthDays.length > 0)
    return undefined;
  // The first instance is the event's own date; a rule of ours has none of its own.
  return [1, 2, 3, 4, 5, -1].includes(n) && recurrenceDates(rule, addDays(start, -366), start, start).includes(start)
    ? { nth: { month: rule.months[0] ?? month, weekday, n } }
    : undefined;
}

/** Whether a span of every year passes the end of February, where its length differs in leap years. */
function holdsLeapDay(start: CivilDay, end: CivilDay): boolean {
  const { year } = yearMonthDay(start);
  return [year, year + 1].some((one) => {
    const march = civilDay(one, 3, 1);
    return start < march && march <= end;
  });
}
