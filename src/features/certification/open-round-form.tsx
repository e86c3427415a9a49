"use client";

import { Button, NumberInput, Select, TextInput } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useForm } from "@mantine/form";
import { useState } from "react";
import type { RoundTerms } from "@/core/certification/round-terms";
import { usualTerms } from "@/core/certification/round-terms";
import { typedDate } from "@/core/questions/typed-date";
import type { NewRound } from "@/operations/certification/open-round";
import type { PreviewedDocket } from "@/operations/certification/preview-round";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { TaskProgress } from "../shell/task-progress";
import { dateHere } from "../words/times";
import type { AskedRound } from "./round-address";

const longestName = 255;

/** Opens a round over a snapshot under the number of a task; gives why it was refused, or leads to the round. */
export type OpenRound = (round: NewRound & { readonly task: string }) => Promise<string | undefined>;

/** Days as people list them: "7, 1"; undefined where it is no such list. */
export function daysOf(text: string): number[] | undefined {
  const parts = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  if (parts.length > 10 || parts.some((days) => !Number.isInteger(days) || days < 0 || days > 365)) return undefined;
  return [...new Set(parts)].sort((a, b) => b - a);
}

interface Values {
  readonly name: string;
  readonly due: string | null;
  readonly undecided: RoundTerms["undecided"];
  readonly remind: string;
  readonly escalate: string;
  readonly orderDays: number | string;
  readonly pilot: string | null;
}

const notDays = "Write days as whole numbers up to 365, such as 7, 1.";

/** How a new round is run: name, due date, what undecided lines count as, when certifiers are reminded, and who goes first. */
export function OpenRoundForm({
  open,
  snapshot,
  asked,
  name: proposed,
  dockets,
}: {
  readonly open: OpenRound;
  readonly snapshot: number;
  readonly asked: AskedRound;
  /** A name for it. */
  readonly name: string;
  readonly dockets: readonly PreviewedDocket[];
}) {
  const { busy, refused, run } = useAction();
  const [task] = useState(() => crypto.randomUUID());
  const [typed, setTyped] = useState("");
  const form = useForm<Values>({
    initialValues: {
      name: proposed.slice(0, longestName),
      due: null,
      undecided: usualTerms.undecided,
      remind: usualTerms.remind.join(", "),
      escalate: usualTerms.escalate.join(", "),
      orderDays: usualTerms.orderDays,
      pilot: null,
    },
    validate: {
      name: (name) => (name.trim() === "" ? "Give the round a name." : null),
      due: (due) => (due === null ? `${typed === "" ? "The due date is missing" : `${typed} could not be read as one date`}. Write it as 31 Dec 2026.` : null),
      remind: (text) => (daysOf(text) ? null : notDays),
      escalate: (text) => (daysOf(text) ? null : notDays),
      orderDays: (days) => (Number.isInteger(days) ? null : "Write a whole number of days, up to 365."),
    },
  });
  const openIt = ({ name, due, undecided, remind, escalate, orderDays, pilot }: Values): void => {
    const terms: RoundTerms = { ...asked, undecided, remind: daysOf(remind) ?? [], escalate: daysOf(escalate) ?? [], orderDays: Number(orderDays) };
    run(() => open({ name, due: due ?? "", snapshot, terms, task, ...(pilot !== null && { pilot }) }));
  };
  return (
    <form noValidate onSubmit={form.onSubmit(openIt)}>
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
      <Select
        label="What nobody decides counts as"
        data={[
          { value: "keep", label: "kept" },
          { value: "withdraw", label: "withdrawn" },
        ]}
        allowDeselect={false}
        mt="xs"
        {...form.getInputProps("undecided")}
      />
      <TextInput label="Reminders, days before" description="Planned with the round; nothing is sent by mail yet." mt="xs" {...form.getInputProps("remind")} />
      <TextInput label="Escalation to their managers, days after" mt="xs" {...form.getInputProps("escalate")} />
      <NumberInput label="Orders are to be carried out within, days" min={1} max={365} mt="xs" {...form.getInputProps("orderDays")} />
      {dockets.length > 1 && (
        <Select
          label="One docket first"
          description="The others wait until you let them begin."
          placeholder="all at once"
          clearable
          searchable
          data={dockets.map(({ id, certifier }) => ({ value: id, label: certifier }))}
          mt="xs"
          {...form.getInputProps("pilot")}
        />
      )}
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
