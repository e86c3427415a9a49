"use client";

import { Autocomplete, Button } from "@mantine/core";
import { useState } from "react";
import type { CivilDay } from "@/core/time/civil-day";
import { parseCivilDay } from "@/core/time/civil-day";
import type { CalendarEvents } from "@/operations/services";
import { plural } from "../words/numbers";
import { dateText } from "../words/times";
import sheet from "@/ui/sheet.module.css";
import classes from "./intake.module.css";

/** The events of a calendar's file with the day type that each makes of its dates. */
export function DayTypesForm({
  events: { file, events, calendars, others, readTo, into, couldGoTo, unnamed },
  busy,
  onRead,
}: {
  readonly events: CalendarEvents;
  readonly busy: boolean;
  readonly onRead: (calendars: Readonly<Record<string, { readonly calendar?: string; readonly dayTypes: Readonly<Record<string, string>> }>>) => void;
}) {
  const [given, setGiven] = useState<Readonly<Record<string, string>>>({});
  const [forAll, setForAll] = useState("");
  const [goesTo, setGoesTo] = useState(into);
  const typeOf = (summary: string, dayType: string): string => given[summary] ?? dayType;
  const types = [...new Set(["public", "company", "season", ...events.map(({ dayType }) => dayType)])];
  const all = (dayType: string): void => {
    setForAll(dayType);
    if (dayType.trim() !== "") setGiven(Object.fromEntries(events.map(({ summary }) => [summary, dayType.trim()])));
  };
  return (
    <section>
      <h2 className={classes.section}>What each event makes of its dates</h2>
      <p className={sheet.sub}>The day type is what schedules have rows for. It is kept with the source when the file is stored.</p>
      {calendars.length > 1 && (
        <p>
          The file holds {calendars.length} calendars: {calendars.map(({ name, entries }) => `${name} (${plural(entries, "entry", "entries")})`).join(", ")}.
        </p>
      )}
      {others.length > 0 && <p className={sheet.sub}>Not read, since they are no events: {others.map(({ name, count }) => `${count} ${name}`).join(", ")}.</p>}
      {unnamed.map(({ dayType, people }) => (
        <p key={dayType}>
          No schedule has rows for the day type <b>{dayType}</b>: it shuts nothing and opens nothing by itself. The calendar holds for{" "}
          {plural(people, "person", "people")}.
        </p>
      ))}
      {into !== undefined && (
        <Autocomplete
          size="xs"
          w={260}
          mb="xs"
          label="It goes to the calendar"
          description="one of the register, which it takes the place of, or the id of a new one"
          value={goesTo ?? ""}
          data={couldGoTo.map(({ id }) => id)}
          onChange={setGoesTo}
        />
      )}
      <Autocomplete size="xs" w={200} label="All of them are" placeholder="as each says" value={forAll} data={types} onChange={all} />
      <table className={sheet.table} style={{ maxWidth: 620 }}>
        <thead>
          <tr>
            <th scope="col">Event</th>
            <th scope="col" className={sheet.number}>
              Entries
            </th>
            <th scope="col">Taken in as</th>
            <th scope="col">Day type</th>
          </tr>
        </thead>
        <tbody>
          {events.map(({ summary, dayType, entries, spelledOut, goesOn }) => (
            <tr key={summary}>
              <td>{summary === "" ? "without a name" : summary}</td>
              <td className={sheet.number}>{entries}</td>
              <td>
                {!spelledOut
                  ? "as it says"
                  : `its dates${goesOn ? `, up to ${dateText(parseCivilDay(readTo) ?? (0 as CivilDay))}: it goes on after that` : ""}`}
              </td>
              <td>
                <Autocomplete
                  size="xs"
                  w={180}
                  aria-label={`Day type of ${summary}`}
                  data={types}
                  value={typeOf(summary, dayType)}
                  onChange={(value) => setGiven({ ...given, [summary]: value })}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button
        mt="sm"
        loading={busy}
        disabled={(goesTo === into || goesTo?.trim() === "") && events.every(({ summary, dayType }) => typeOf(summary, dayType).trim() === dayType)}
        onClick={() =>
          onRead({
            [file]: {
              ...(goesTo !== undefined && goesTo !== into && { calendar: goesTo.trim() }),
              dayTypes: Object.fromEntries(events.map(({ summary, dayType }) => [summary, typeOf(summary, dayType).trim() || dayType])),
            },
          })
        }
      >
        Read it so
      </Button>
    </section>
  );
}
