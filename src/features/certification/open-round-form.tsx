"use client";

import { Button, TextInput } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useForm } from "@mantine/form";
import { useState } from "react";
import type { HolderId } from "@/core/facility/holder-id";
import { typedDate } from "@/core/questions/typed-date";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { TaskProgress } from "../shell/task-progress";
import { dateHere } from "../words/times";

const longestName = 255;

/** Opens a round over a snapshot under the number of a task; gives why it was refused, or leads to the round. */
export type OpenRound = (round: {
  readonly name: string;
  readonly due: string;
  readonly snapshot: number;
  readonly task: string;
  readonly about?: HolderId | undefined;
}) => Promise<string | undefined>;

/** Name and due date of a new round, about one holder where one is given; `proposed` is a name for it. */
export function OpenRoundForm({
  open,
  snapshot,
  about,
  name: proposed,
}: {
  readonly open: OpenRound;
  readonly snapshot: number;
  readonly about: HolderId | undefined;
  readonly name: string;
}) {
  const { busy, refused, run } = useAction();
  const [task] = useState(() => crypto.randomUUID());
  const [typed, setTyped] = useState("");
  const form = useForm<{ readonly name: string; readonly due: string | null }>({
    initialValues: { name: proposed.slice(0, longestName), due: null },
    validate: {
      name: (name) => (name.trim() === "" ? "Give the round a name." : null),
      due: (due) => (due === null ? `${typed === "" ? "The due date is missing" : `${typed} could not be read as one date`}. Write it as 31 Dec 2026.` : null),
    },
  });
  return (
    <form noValidate onSubmit={form.onSubmit(({ name, due }) => run(() => open({ name, due: due ?? "", snapshot, task, about })))}>
      <TextInput label="Name" placeholder="Winter review" required mt="sm" {...form.getInputProps("name")} />
      <DateInput
        label="Due"
        placeholder="31 Dec 2026"
        valueFormat="D MMM YYYY"
        dateParser={(text) => typedDate(text, dateHere()) ?? null}
        onInput={(event) => setTyped(event.currentTarget.value)}
        // What cannot be read stays where it is, for whoever typed it to see.
        fixOnBlur={typed === "" || typedDate(typed, dateHere()) !== undefined}
        minDate={new Date()}
        required
        mt="xs"
        {...form.getInputProps("due")}
      />
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      <Button type="submit" mt="sm" loading={busy}>
        Open the round
      </Button>
      {busy && <TaskProgress at="/certification/task" task={task} name={form.values.name} />}
    </form>
  );
}
