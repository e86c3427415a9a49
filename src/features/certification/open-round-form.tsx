"use client";

import { Button, TextInput } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useActionState, useState } from "react";
import { typedDate } from "@/core/questions/typed-date";
import { dateHere } from "../words/times";
import { TaskProgress } from "../shell/task-progress";
import sheet from "@/ui/sheet.module.css";

export type OpenRound = (before: string | undefined, form: FormData) => Promise<string | undefined>;

/** Name and due date of a new round. */
export function OpenRoundForm({ open, snapshot }: { readonly open: OpenRound; readonly snapshot: number }) {
  const [refused, action, busy] = useActionState(open, undefined);
  const [name, setName] = useState("");
  const [task] = useState(() => crypto.randomUUID());
  const [due, setDue] = useState<string | null>(null);
  const [typed, setTyped] = useState("");
  return (
    <form action={action}>
      <input type="hidden" name="snapshot" value={snapshot} />
      <input type="hidden" name="task" value={task} />
      <TextInput label="Name" name="name" placeholder="Winter review" value={name} onChange={(event) => setName(event.currentTarget.value)} required mt="sm" />
      <DateInput
        label="Due"
        name="due"
        placeholder="31 Dec 2026"
        value={due}
        onChange={setDue}
        valueFormat="D MMM YYYY"
        dateParser={(text) => typedDate(text, dateHere()) ?? null}
        onInput={(event) => setTyped(event.currentTarget.value)}
        // What cannot be read stays where it is, for whoever typed it to see.
        fixOnBlur={typed === "" || typedDate(typed, dateHere()) !== undefined}
        minDate={new Date()}
        required
        mt="xs"
      />
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      <Button type="submit" mt="sm" loading={busy}>
        Open the round
      </Button>
      {busy && <TaskProgress at="/certification/task" task={task} name={name} />}
    </form>
  );
}
