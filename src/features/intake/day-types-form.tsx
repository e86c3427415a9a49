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
import type { Mapping } from "./mapping-form";

/** The events of a calendar's file with the day type that each makes of its dates. */
export function DayTypesForm({
  events: { file, events, calendars, others, readTo },
  busy,
  onRead,
}: {
  readonly events: CalendarEvents;
  readonly busy: boolean;
  readonly onRead: (mapping: Mapping) => void;
}) {
  const [given, setGiven] = useState<Readonly<Record<string, string>>>({});
  const [forAll, setForAll] = useState("");
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
        disabled={events.every(({ summary, dayType }) => typeOf(summary, dayType).trim() === dayType)}
        onClick={() =>
          onRead({ [file]: { dayTypes: Object.fromEntries(events.map(({ summary, dayType }) => [summary, typeOf(summary, dayType).trim() || dayType])) } })
        }
      >
        Read it so
      </Button>
    </section>
  );
}
