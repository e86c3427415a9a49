import type { DocumentDayRule } from "@/core/facility/document";
import { dayRuleOf } from "@/core/facility/time-rules";
import { covers } from "@/core/time/calendar";
import { civilDay, daysInMonth, weekdays, yearMonthDay } from "@/core/time/civil-day";
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
    (rule.days.length === 0 && rule.positions.length + rule.yearDays.length + rule.weeks.length > 0)
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
  return start === end && otherDays.length === 0 ? asNth(rule, start) : undefined;
}

/** Years of every kind: each weekday on which one begins, with a leap day and without. */
const [firstOfKinds, lastOfKinds] = [2001, 2028];

/**
 * The same rule as the n-th weekday of a month, however it says that: `4TH`, the fourth of all Thursdays, or that among the 22nd to the 28th. What comes in a
 * month by its weekdays and days is told by the kind of year alone, so that a rule that comes on the same dates in each kind always does.
 */
function asNth(rule: RecurrenceRule, start: CivilDay): DocumentDayRule | undefined {
  const [month, otherMonth] = rule.months;
  const weekday = weekdays[rule.days[0]?.weekday ?? -1];
  if (month === undefined || otherMonth !== undefined || weekday === undefined || rule.yearDays.length + rule.weeks.length > 0) return undefined;
  const theirs = recurrenceDates(rule, civilDay(firstOfKinds - 1, 1, 1), civilDay(firstOfKinds, 1, 1), civilDay(lastOfKinds, 12, 31)).join();
  for (const n of [1, 2, 3, 4, 5, -1] as const) {
    const nth = { month, weekday, n };
    const when = dayRuleOf({ name: "", dayType: "", nth });
    // The first instance is the event's own date; a rule of ours has none of its own.
    if (!covers(when, start)) continue;
    const ours: CivilDay[] = [];
    for (let year = firstOfKinds; year <= lastOfKinds; year++)
      for (let day = 1; day <= daysInMonth(year, month); day++) if (covers(when, civilDay(year, month, day))) ours.push(civilDay(year, month, day));
    if (ours.join() === theirs) return { nth };
  }
  return undefined;
}

/** Whether a span of every year passes the end of February, where its length differs in leap years. */
function holdsLeapDay(start: CivilDay, end: CivilDay): boolean {
  const { year } = yearMonthDay(start);
  return [year, year + 1].some((one) => {
    const march = civilDay(one, 3, 1);
    return start < march && march <= end;
  });
}
