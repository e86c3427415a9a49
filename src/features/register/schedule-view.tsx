"use client";

import { Select } from "@mantine/core";
import { useState } from "react";
import type { ComingDay } from "@/core/register/coming-days";
import { dayTypeWords } from "@/core/describe/english-hours";
import { groupBy } from "@/core/kernel/compare";
import { addDays, formatClock, weekdayNumber, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { ScheduleSheet } from "@/operations/register/show-object";
import sheet from "@/ui/sheet.module.css";
import { WeekDrawing } from "@/ui/week-drawing";
import { dateText } from "../words/times";
import classes from "./register.module.css";

const dayNames = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const minutesADay = 1440;

function dayWords({ open, entry, clockChange }: ComingDay): string {
  const hours: string[] = [];
  for (let i = 0; i < open.length; i += 2) hours.push(`${formatClock(open[i] ?? 0)}–${formatClock(open[i + 1] ?? 0)}`);
  return [
    hours.length === 0 ? "closed" : hours.join(", "),
    entry ? `${entry.name} (${dayTypeWords(entry.dayType)})` : "",
    clockChange === 0 ? "" : `the clock is put ${clockChange > 0 ? "back" : "forward"} ${Math.abs(clockChange)} min`,
  ]
    .filter(Boolean)
    .join("; ");
}

/** Days by week, from Monday to Sunday; undefined where a week begins before them or ends after. */
function weeksOf(days: readonly ComingDay[]): { readonly monday: CivilDay; readonly days: readonly (ComingDay | undefined)[] }[] {
  const byMonday = groupBy(days, ({ date }) => addDays(date, -weekdayNumber(date)));
  return [...byMonday].map(([monday, own]) => ({ monday, days: dayNames.map((_, weekday) => own.find(({ date }) => weekdayNumber(date) === weekday)) }));
}

/** When a day opens, drawn over its 24 hours, and why it is otherwise than usual. */
function ComingDayCell({ day }: { readonly day: ComingDay }) {
  return (
    <>
      <span className={classes.dayNumber}>{yearMonthDay(day.date).day}</span>
      <span className={classes.track}>
        {day.open.map((from, i) =>
          i % 2 === 1 ? null : (
            <span key={from} style={{ left: `${(100 * from) / minutesADay}%`, width: `${(100 * ((day.open[i + 1] ?? from) - from)) / minutesADay}%` }} />
          ),
        )}
      </span>
      {(day.entry ?? day.clockChange !== 0) && (
        <span className={classes.why}>{day.entry ? day.entry.name : `clock ${day.clockChange > 0 ? "back" : "forward"}`}</span>
      )}
    </>
  );
}

/** A schedule: its ordinary week, its rows as written, and the coming dates as they will really be at a site. */
export function ScheduleView({ schedule }: { readonly schedule: ScheduleSheet }) {
  const [siteId, setSiteId] = useState(schedule.sites[0]?.id);
  const site = schedule.sites.find(({ id }) => id === siteId);
  return (
    <>
      <div style={{ display: "flex", flexWrap: "wrap", gap: 36, alignItems: "start" }}>
        <WeekDrawing solid={schedule.week} hatched={[]} size="large" label={`Ordinary week: ${schedule.words}`} />
        <dl className={sheet.facts} style={{ margin: 0 }}>
          {schedule.rows.map(({ day, words }) => (
            <div key={day} style={{ display: "contents" }}>
              <dt>{day}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
      </div>
      <h2 className={classes.section}>The coming {site?.days.length ?? 0} days, as they will be</h2>
      <div className={classes.tools}>
        <Select
          size="xs"
          w={280}
          aria-label="At which site"
          allowDeselect={false}
          value={siteId ?? null}
          data={schedule.sites.map(({ id, name, timeZone }) => ({ value: id, label: `${name}, ${timeZone}` }))}
          onChange={(value) => value !== null && setSiteId(value)}
        />
        <span className={sheet.sub}>Tinted: otherwise than in an ordinary week, by the calendar or a change of the clock.</span>
      </div>
      <table className={classes.coming} aria-label="Coming days">
        <thead>
          <tr>
            <th scope="col">Week of</th>
            {dayNames.map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeksOf(site?.days ?? []).map(({ monday, days }) => (
            <tr key={monday}>
              <th scope="row">{dateText(monday)}</th>
              {days.map((day, i) => (
                <td
                  key={dayNames[i]}
                  className={day?.unlike ? classes.unlike : undefined}
                  title={day && `${dateText(day.date)}: ${dayWords(day)}`}
                  aria-label={day && `${dateText(day.date)}: ${dayWords(day)}`}
                >
                  {day && <ComingDayCell day={day} />}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
