"use client";

import { Select } from "@mantine/core";
import { useState } from "react";
import type { ComingDay } from "@/core/register/coming-days";
import { formatClock, formatCivilDay, weekdayNumber } from "@/core/time/civil-day";
import type { ScheduleSheet } from "@/operations/register/show-object";
import sheet from "@/ui/sheet.module.css";
import { WeekDrawing } from "@/ui/week-drawing";
import classes from "./register.module.css";

const dayNames = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const minutesADay = 1440;

function dayWords({ open, entry, clockChange }: ComingDay): string {
  const hours: string[] = [];
  for (let i = 0; i < open.length; i += 2) hours.push(`${formatClock(open[i] ?? 0)}–${formatClock(open[i + 1] ?? 0)}`);
  return [
    hours.length === 0 ? "closed" : hours.join(", "),
    entry ? `${entry.name} (${entry.dayType})` : "",
    clockChange === 0 ? "" : `the clock is put ${clockChange > 0 ? "back" : "forward"} ${Math.abs(clockChange)} min`,
  ]
    .filter(Boolean)
    .join("; ");
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
      <div className={classes.coming} role="list" aria-label="Coming days">
        {site?.days.map((day) => (
          <div key={day.date} role="listitem" className={day.unlike ? `${classes.comingDay} ${classes.unlike}` : classes.comingDay} title={dayWords(day)} aria-label={`${formatCivilDay(day.date)}: ${dayWords(day)}`}>
            <span>
              {dayNames[weekdayNumber(day.date)]} {formatCivilDay(day.date).slice(5)}
            </span>
            <span>
              <span className={classes.track} style={{ display: "block" }}>
                {day.open.map((from, i) =>
                  i % 2 === 1 ? null : <span key={from} style={{ left: `${(100 * from) / minutesADay}%`, width: `${(100 * ((day.open[i + 1] ?? from) - from)) / minutesADay}%` }} />,
                )}
              </span>
              {(day.entry ?? day.clockChange !== 0) && <span className={sheet.sub}>{day.entry ? day.entry.name : `clock ${day.clockChange > 0 ? "back" : "forward"}`}</span>}
            </span>
          </div>
        ))}
      </div>
    </>
  );
}
