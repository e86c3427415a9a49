import type { AccessDay, YearOfAccess } from "@/core/questions/year-of-access";
import type { CivilDay } from "@/core/time/civil-day";
import { yearMonthDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { totalMinutes } from "@/core/time/intervals";
import { localTime, zoneOf } from "@/core/time/zone";
import { ChartTable } from "@/ui/chart-table";
import { YearDrawing } from "@/ui/year-drawing";
import sheet from "@/ui/sheet.module.css";
import { dayTypeWords } from "@/core/describe/english-hours";
import { hoursOfDate } from "../words/date-hours";
import { plural, shareWords } from "../words/numbers";
import { dateText, localMomentText, monthText, weekdayText } from "../words/times";
import classes from "./inquiry.module.css";

/** Minutes as whole hours. */
const hoursText = (minutes: number): string => `${Math.round(minutes / 60).toLocaleString("en-GB")} h`;

interface MonthSum {
  readonly first: CivilDay;
  readonly dates: number;
  readonly opens: number;
  readonly minutes: number;
  readonly outside: number;
}

/** What opens month by month. Minutes are those of the wall clock: one that comes twice counts once. */
export function sumsOfMonths(days: readonly AccessDay[]): MonthSum[] {
  const sums = new Map<string, MonthSum>();
  for (const { date, open, outside } of days) {
    const { year, month } = yearMonthDay(date);
    const known = sums.get(`${year} ${month}`) ?? { first: date, dates: 0, opens: 0, minutes: 0, outside: 0 };
    sums.set(`${year} ${month}`, {
      first: known.first,
      dates: known.dates + 1,
      opens: known.opens + Number(open.length > 0),
      minutes: known.minutes + totalMinutes(open),
      outside: known.outside + totalMinutes(outside),
    });
  }
  return [...sums.values()];
}

const clockWords = (minutes: number): string =>
  `the clocks go ${minutes > 0 ? "forward" : "back"} by ${Math.abs(minutes) === 60 ? "an hour" : `${Math.abs(minutes)} minutes`}`;

/** When a holder opens a door, date by date over the 13 months from the export: drawn, and as a table. */
export function YearOfPair({
  year,
  at,
  asIfLive = false,
}: {
  readonly year: YearOfAccess;
  readonly at: EpochMinute;
  /** Whether it is what would open if every card were live. */
  readonly asIfLive?: boolean;
}) {
  const { days, named, clockChanges, zone } = year;
  const [firstDay] = days;
  if (!firstDay) return null;
  const place = (date: CivilDay): number => date - firstDay.date;
  const heads = days.flatMap(({ date }, i) => {
    const { day, month, year: number } = yearMonthDay(date);
    return day === 1 ? [{ at: i, words: month === 1 ? `${monthText(month)} ${number}` : monthText(month) }] : [];
  });
  const pinned = localTime(zoneOf(zone), at);
  const opening = days.filter(({ open }) => open.length > 0).length;
  const dayOf = new Map(days.map((day) => [day.date, day]));
  const told = [
    ...named.map(({ date, name, dayType }) => ({ date, words: `${name} (${dayTypeWords(dayType)})` })),
    ...clockChanges.map(({ date, minutes }) => ({ date, words: clockWords(minutes) })),
  ].sort((a, b) => a.date - b.date);
  const [opens, live] = asIfLive ? ["would open", ", if every card were live"] : ["opens", ""];
  const sentence =
    year.first === undefined || year.end === undefined
      ? `It ${opens} at no minute of the 13 months${live}.`
      : `It ${opens} on ${plural(opening, "date", "dates")} of ${days.length}, for ${hoursText(year.minutes)} in all, ${shareWords(year.outsideMinutes, year.minutes)} of it out of hours; first on ${localMomentText(year.first, zone)}, for the last time until ${localMomentText(year.end, zone)}${live}.`;
  return (
    <section className={classes.year}>
      <h2 className={classes.section}>Date by date</h2>
      <p className={sheet.lead}>{sentence}</p>
      <YearDrawing
        days={days.map(({ open, outside }) => ({ open, hatched: outside }))}
        heads={heads}
        ticks={named.map(({ date }) => place(date))}
        rings={clockChanges.map(({ date }) => place(date))}
        pin={pinned.date >= firstDay.date && place(pinned.date) < days.length ? { at: place(pinned.date), minute: pinned.minuteOfDay } : undefined}
        label={`${sentence} The table below says the same by month.`}
      />
      <p className={sheet.sub}>
        A column for each date, hours downwards. A tick below: the calendar has its say on that date; a ring: the clocks change; the pin: the asked minute.
      </p>
      <details className={classes.behind}>
        <summary>The table behind it, and {plural(told.length, "date", "dates")} out of the ordinary</summary>
        <ChartTable
          head={["Month", "dates that it opens", "hours", "out of hours"]}
          rows={sumsOfMonths(days).map(({ first, dates, opens, minutes, outside }) => {
            const { month, year: number } = yearMonthDay(first);
            return [`${monthText(month)} ${number}`, `${opens} of ${dates}`, hoursText(minutes), shareWords(outside, minutes)];
          })}
        />
        {told.length > 0 && (
          <table className={sheet.table}>
            <thead>
              <tr>
                <th scope="col">Date</th>
                <th scope="col">What is said of it</th>
                <th scope="col">Opens</th>
              </tr>
            </thead>
            <tbody>
              {told.map(({ date, words }) => (
                <tr key={`${date} ${words}`}>
                  <td>
                    {weekdayText(date)} {dateText(date)}
                  </td>
                  <td>{words}</td>
                  <td>{hoursOfDate(dayOf.get(date)?.open ?? [])}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </details>
    </section>
  );
}
