"use client";

import { Button, Checkbox, NumberInput, Select, TextInput } from "@mantine/core";
import { useState } from "react";
import type { SourceSheet } from "@/operations/intake/list-sources";
import type { SourceRhythm } from "@/operations/ports/deliveries";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import classes from "./register.module.css";

export type SaveRhythm = (source: string, rhythm: SourceRhythm) => Promise<string | undefined>;

type Looks = "comes" | "every" | "daily";

const looksOf = ({ everyMinutes, dailyAt }: SourceRhythm): Looks => (dailyAt !== undefined ? "daily" : everyMinutes !== undefined ? "every" : "comes");

const numberOf = (value: string | number): number | undefined => (typeof value === "number" && value >= 0 ? Math.round(value) : undefined);

/** How often a source is to send, whether its folder is watched, when what came is looked at, and what of it is taken in by itself. */
export function RhythmForm({ source, save }: { readonly source: SourceSheet; readonly save: SaveRhythm }) {
  const [rhythm, setRhythm] = useState<SourceRhythm>(source.rhythm);
  const { busy, refused, run } = useAction();
  const set = (part: Partial<Record<keyof SourceRhythm, number | boolean | string | undefined>>): void =>
    setRhythm(Object.fromEntries(Object.entries({ ...rhythm, ...part }).filter(([, value]) => value !== undefined && value !== false)));
  const looks = looksOf(rhythm);
  const takes = rhythm.watched === true || source.feed !== undefined;
  const isChanged = JSON.stringify(rhythm) !== JSON.stringify(source.rhythm);
  return (
    <div className={classes.rhythm}>
      <NumberInput
        size="xs"
        w={170}
        label="Overdue after (hours)"
        placeholder="as often as it did"
        min={1}
        max={100_000}
        value={rhythm.dueHours ?? ""}
        onChange={(value) => set({ dueHours: numberOf(value) === 0 ? undefined : numberOf(value) })}
      />
      <Checkbox
        size="xs"
        mb={7}
        label="Its folder is watched"
        checked={rhythm.watched === true}
        onChange={(event) => set({ watched: event.currentTarget.checked })}
      />
      {takes && (
        <>
          <Select
            size="xs"
            w={190}
            label="What arrives is checked"
            allowDeselect={false}
            value={looks}
            data={[
              { value: "comes", label: rhythm.watched === true ? "as it arrives" : "on request" },
              { value: "every", label: "every so many minutes" },
              { value: "daily", label: "once a day" },
            ]}
            onChange={(value) => set({ everyMinutes: value === "every" ? 60 : undefined, dailyAt: value === "daily" ? "06:00" : undefined })}
          />
          {looks === "every" && (
            <NumberInput
              size="xs"
              w={90}
              label="Minutes"
              min={1}
              max={100_000}
              value={rhythm.everyMinutes ?? 60}
              onChange={(value) => set({ everyMinutes: numberOf(value) || 1 })}
            />
          )}
          {looks === "daily" && (
            <TextInput
              size="xs"
              w={90}
              label="At"
              placeholder="06:00"
              value={rhythm.dailyAt ?? ""}
              onChange={(event) => set({ dailyAt: event.currentTarget.value })}
            />
          )}
          <NumberInput
            size="xs"
            w={300}
            label="Stored without review up to (people affected)"
            placeholder="somebody reviews it first"
            min={0}
            max={1_000_000}
            value={rhythm.atMostPeople ?? ""}
            onChange={(value) => set({ atMostPeople: numberOf(value) })}
          />
        </>
      )}
      {isChanged && (
        <Button size="xs" loading={busy} onClick={() => run(() => save(source.name, rhythm))}>
          Keep the rhythm
        </Button>
      )}
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
    </div>
  );
}
