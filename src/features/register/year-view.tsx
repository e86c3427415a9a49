"use client";

import { UnstyledButton } from "@mantine/core";
import type { ReactNode } from "react";
import { dayTypeWords } from "@/core/describe/english-hours";
import { useState } from "react";
import type { MarkedDay, YearSheet } from "@/core/register/year-sheet";
import { addMonths, addDays, formatCivilDay, weekdayNumber, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import sheet from "@/ui/sheet.module.css";
import classes from "./register.module.css";

const monthNames = ["January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"];
const dayNames = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const kindClasses = [classes.kind0, classes.kind1, classes.kind2, classes.kind3];

type Sheet = YearSheet & { readonly today: CivilDay };

function dateWords(date: CivilDay): string {
  const { year, month, day } = yearMonthDay(date);
  return `${dayNames[weekdayNumber(date)]} ${day} ${monthNames[month - 1]} ${year}`;
}

function Month({
  first,
  year,
  marked,
  selected,
  select,
}: {
  readonly first: CivilDay;
  readonly year: Sheet;
  readonly marked: ReadonlyMap<CivilDay, MarkedDay>;
  readonly selected: CivilDay | undefined;
  readonly select: (date: CivilDay) => void;
}) {
  const { year: number, month } = yearMonthDay(first);
  const end = addMonths(first, 1);
  const weeks: CivilDay[] = [];
  for (let monday = addDays(first, -weekdayNumber(first)); monday < end; monday = addDays(monday, 7)) weeks.push(monday);
  return (
    <table className={classes.month}>
      <caption>
        {monthNames[month - 1]}
        {(first === year.from || month === 1) && ` ${number}`}
      </caption>
      <tbody>
        {weeks.map((monday) => (
          <tr key={monday}>
            {Array.from({ length: 7 }, (_, i) => addDays(monday, i)).map((date) => {
              if (date < first || date >= end) return <td key={date} />;
              const day = marked.get(date);
              const kind = day ? kindClasses[Math.min(3, year.dayTypes.indexOf(day.dayType))] : undefined;
              const looks = [
                weekdayNumber(date) > 4 ? classes.weekend : "",
                kind,
                day?.closedAnyway ? classes.idle : "",
                date === year.today ? classes.today : "",
              ]
                .filter(Boolean)
                .join(" ");
              const number = yearMonthDay(date).day;
              return (
                <td key={date} className={looks}>
                  {day ? (
                    <UnstyledButton
                      className={classes.day}
                      aria-pressed={selected === date}
                      aria-label={`${dateWords(date)}: ${day.name}, ${dayTypeWords(day.dayType)}`}
                      onClick={() => select(date)}
                    >
                      {number}
                    </UnstyledButton>
                  ) : (
                    number
                  )}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function DayWords({ day }: { readonly day: MarkedDay }) {
  return (
    <div className={sheet.must} role="status">
      <b>{dateWords(day.date)}</b>
      <div>
        {day.name}: day type <b>{day.dayType}</b>, priority {day.priority}.
      </div>
      {day.beaten.length > 0 && (
        <div>It wins over {day.beaten.map(({ name, dayType, priority }) => `${name} (${dayType}, priority ${priority})`).join(" and ")}.</div>
      )}
      {day.closedAnyway && <div>It falls on a day on which business is closed anyway.</div>}
    </div>
  );
}

/** Thirteen months of a calendar: each date with its day type; the chosen one with what won and over which. */
export function YearView({ year, margin }: { readonly year: Sheet; readonly margin: ReactNode }) {
  const marked = new Map(year.days.map((day) => [day.date, day]));
  const next = year.days.find(({ date }) => date >= year.today) ?? year.days[0];
  const [selected, select] = useState(next?.date);
  const day = selected === undefined ? undefined : marked.get(selected);
  return (
    <div style={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) 300px", gap: 36 }}>
      <div>
        <div className={classes.year}>
          {Array.from({ length: year.months }, (_, i) => addMonths(year.from, i)).map((first) => (
            <Month key={first} first={first} year={year} marked={marked} selected={selected} select={select} />
          ))}
        </div>
        <p className={classes.legend}>
          {year.dayTypes.map((dayType, i) => (
            <span key={dayType}>
              <i className={kindClasses[Math.min(3, i)]} />
              {dayTypeWords(dayType)}
            </span>
          ))}
          {year.days.some(({ closedAnyway }) => closedAnyway) && (
            <span>
              <i className={`${classes.kind0} ${classes.idle}`} />
              falls on a day that is closed anyway
            </span>
          )}
          <span>
            <i className={classes.weekend} />
            weekend
          </span>
        </p>
      </div>
      <aside aria-label="Margin">
        {day && <DayWords day={day} />}
        {year.runningOut.map(({ name, last }) => (
          <div key={name} className={sheet.grave}>
            <strong>Runs out.</strong> <i>{name}</i> is entered for the last time on {formatCivilDay(last)}. After that it is an ordinary day until somebody
            types it in again.
          </div>
        ))}
        {margin}
      </aside>
    </div>
  );
}
