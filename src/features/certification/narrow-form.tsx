"use client";

import { Button, Checkbox, Select, Textarea } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useState } from "react";
import type { Narrowing } from "@/core/certification/decide-line";
import type { NarrowingChoices } from "@/operations/certification/narrow-line";
import { useFetched } from "@/ui/fetched";
import type { DocketWords } from "../words/docket/docket-words";
import { typedDate } from "@/core/questions/typed-date";
import { dateHere } from "../words/times";
import classes from "./docket.module.css";
import { LineEffect } from "./line-effect";

export interface NarrowFormProps {
  readonly line: number;
  readonly flagged: boolean;
  /** What was chosen before, to begin with. */
  readonly before: Narrowing | undefined;
  readonly reason: string;
  readonly words: DocketWords;
  readonly narrow: (narrowing: Narrowing, reason: string) => void;
}

/** How a line is narrowed: the hours of a schedule, a last date, or fewer doors; with what that does before it is decided. */
export function NarrowForm({ line, flagged, before, reason: reasonBefore, words, narrow }: NarrowFormProps) {
  const asked = useFetched<NarrowingChoices>(`/docket/line/narrowings?line=${line}`);
  const [schedule, setSchedule] = useState(before?.kind === "hours" ? (before.schedule ?? null) : null);
  const [until, setUntil] = useState<string | null>(before?.kind === "hours" ? (before.until ?? null) : null);
  const [shut, setShut] = useState<ReadonlySet<string>>(new Set(before?.kind === "doors" ? before.shut : []));
  const [reason, setReason] = useState(reasonBefore);
  const [typed, setTyped] = useState("");
  if (asked.state === "awaited") return <p className={classes.effect}>{words.workingOut}</p>;
  if (asked.state === "failed") return <p className={classes.effect}>{words.notWorkedOut}</p>;
  const { schedules, doors, after } = asked.value;
  const narrowing: Narrowing | undefined =
    shut.size > 0
      ? { kind: "doors", shut: doors.map(({ id }) => id).filter((id) => shut.has(id)) }
      : schedule !== null || until !== null
        ? {
            kind: "hours",
            ...(schedule !== null && { schedule, scheduleName: schedules.find(({ id }) => id === schedule)?.name ?? schedule }),
            ...(until !== null && { until }),
          }
        : undefined;
  const isUnread = typed !== "" && typedDate(typed, dateHere()) === undefined;
  return (
    <fieldset className={classes.narrow}>
      <legend>{words.narrowTo}</legend>
      {schedules.length > 0 && (
        <Select
          label={words.inHours}
          placeholder={words.inHoursNone}
          clearable
          disabled={shut.size > 0}
          data={schedules.map(({ id, name, stays, of }) => ({ value: id, label: `${name} (${words.share(stays, of)})` }))}
          value={schedule}
          onChange={setSchedule}
        />
      )}
      <DateInput
        label={words.untilDate}
        description={words.untilHint}
        placeholder="31 Dec 2026"
        valueFormat="D MMM YYYY"
        clearable
        disabled={shut.size > 0}
        dateParser={(text) => typedDate(text, dateHere()) ?? null}
        onInput={(event) => setTyped(event.currentTarget.value)}
        fixOnBlur={!isUnread}
        error={isUnread ? words.untilUnread(typed) : undefined}
        minDate={after}
        value={until}
        onChange={(value) => {
          setTyped("");
          setUntil(value);
        }}
        mt="xs"
      />
      {doors.length > 1 && (
        <Checkbox.Group
          label={words.onlyDoors}
          description={words.onlyDoorsHint}
          value={doors.map(({ id }) => id).filter((id) => !shut.has(id))}
          onChange={(kept) => setShut(new Set(doors.map(({ id }) => id).filter((id) => !kept.includes(id))))}
          mt="sm"
        >
          {doors.map(({ id, name }) => (
            <Checkbox key={id} value={id} label={name} mt={6} disabled={schedule !== null || until !== null} />
          ))}
        </Checkbox.Group>
      )}
      {flagged && (
        <Textarea label={words.why} description={words.whyHint} value={reason} onChange={(event) => setReason(event.currentTarget.value)} autosize mt="sm" />
      )}
      {narrowing !== undefined && <LineEffect line={line} narrowing={narrowing} words={words} />}
      <Button
        mt="sm"
        disabled={narrowing === undefined || isUnread || (flagged && reason.trim() === "")}
        onClick={() => narrowing && narrow(narrowing, reason)}
      >
        {words.doNarrow}
      </Button>
    </fieldset>
  );
}
