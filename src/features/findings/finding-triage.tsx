"use client";

import { Button, Select, Textarea } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useForm } from "@mantine/form";
import { useHotkeys } from "@mantine/hooks";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { holderOfFinding } from "@/core/findings/about";
import type { NamedFinding } from "@/operations/findings/list-findings";
import type { WaiverRefusal } from "@/operations/findings/triage";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { newRoundHref } from "../certification/round-address";
import { useSingleKeys } from "../shell/single-keys";
import classes from "./findings.module.css";
import type { TriageOfView } from "./triage-actions";

const refusals: Readonly<Record<WaiverRefusal, string>> = {
  "no-finding": "This finding is not in the snapshot any more. Load the page again.",
  "reason-too-short": "Give a reason that somebody else understands in a year: at least ten letters.",
  "reason-too-long": "The reason is longer than 2,000 letters. Say it shorter.",
  "no-date": "Give the last date on which it holds.",
  "date-past": "That date is over. Give one that is still to come.",
  "date-too-far": "A waiver holds for a year at most: then somebody looks again. Give an earlier date.",
  "waived-already": "It is waived already, or somebody has asked for it. Load the page again.",
};

interface TriageProps extends TriageOfView {
  readonly finding: NamedFinding;
}

function WaiverForm({ finding, snapshot, secondPersonFrom, actions, close }: TriageProps & { readonly close: () => void }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const form = useForm({ initialValues: { reason: "", until: null as string | null } });
  const waive = form.onSubmit(({ reason, until }) =>
    run(async () => {
      const done = await actions.waive({ snapshot, fingerprint: finding.fingerprint, reason, until: until ?? "" });
      if (done.outcome === "refused") return refusals[done.why];
      close();
      router.refresh();
      return undefined;
    }),
  );
  return (
    <form className={classes.form} onSubmit={waive}>
      <Textarea label="Why it may stay" autosize minRows={2} data-autofocus autoFocus {...form.getInputProps("reason")} />
      <DateInput label="Until, that date included" valueFormat="D MMM YYYY" clearable {...form.getInputProps("until")} />
      {finding.risk >= secondPersonFrom && (
        <p className={sheet.sub}>It weighs {secondPersonFrom} or more: it is hidden only when somebody else confirms the waiver.</p>
      )}
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      <div className={classes.buttons}>
        <Button type="submit" size="xs" loading={busy}>
          {finding.risk >= secondPersonFrom ? "Ask for the waiver" : "Waive it"}
        </Button>
        <Button size="xs" variant="default" onClick={close}>
          Leave it
        </Button>
      </div>
    </form>
  );
}

function NoteForm({ finding, actions, close }: TriageProps & { readonly close: () => void }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const form = useForm({ initialValues: { note: "" } });
  const keep = form.onSubmit(({ note }) =>
    run(async () => {
      if (!(await actions.note(finding.fingerprint, note))) return "Write something, of at most 2,000 letters.";
      close();
      router.refresh();
      return undefined;
    }),
  );
  return (
    <form className={classes.form} onSubmit={keep}>
      <Textarea label="A note for whoever looks next" autosize minRows={2} autoFocus {...form.getInputProps("note")} />
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      <div className={classes.buttons}>
        <Button type="submit" size="xs" loading={busy}>
          Keep the note
        </Button>
        <Button size="xs" variant="default" onClick={close}>
          Leave it
        </Button>
      </div>
    </form>
  );
}

/** What can be done about the selected finding, by button or key. */
export function FindingTriage(props: TriageProps) {
  const { finding, signIn, assignees, actions } = props;
  const router = useRouter();
  const [open, setOpen] = useState<"waiver" | "note">();
  const { busy, refused, run } = useAction();
  const [singleKeys] = useSingleKeys();
  const { waiver } = finding;
  const holder = holderOfFinding(finding);
  const close = (): void => setOpen(undefined);
  const task = (assignee: string | undefined): void =>
    run(async () => {
      const isDone = await actions.assign(finding.fingerprint, assignee);
      router.refresh();
      return isDone ? undefined : "This account cannot take it any more. Load the page again.";
    });
  useHotkeys([
    ["w", () => singleKeys && !waiver && setOpen("waiver")],
    ["n", () => singleKeys && setOpen("note")],
    ["c", () => singleKeys && holder && router.push(newRoundHref(holder))],
    ["t", () => singleKeys && task(finding.assignee === signIn ? undefined : signIn)],
  ]);
  const settle = (act: (id: number) => Promise<boolean>, failed: string): void => {
    if (!waiver) return;
    run(async () => {
      const isDone = await act(waiver.id);
      router.refresh();
      return isDone ? undefined : failed;
    });
  };
  return (
    <section aria-label="What to do about it">
      {waiver && (
        <div className={sheet.must}>
          {waiver.confirmedBy === undefined ? (
            <>
              <b>{waiver.madeBy} asks to waive it</b> until {waiver.until}: {waiver.reason}
            </>
          ) : (
            <>
              <b>Waived until {waiver.until}</b> by {waiver.madeBy}
              {waiver.confirmedBy !== waiver.madeBy && `, confirmed by ${waiver.confirmedBy}`}: {waiver.reason}
            </>
          )}
          <div className={classes.buttons}>
            {waiver.confirmedBy === undefined && waiver.madeBy !== signIn && (
              <Button size="xs" loading={busy} onClick={() => settle(actions.confirm, "Somebody was quicker. Load the page again.")}>
                Confirm it
              </Button>
            )}
            <Button size="xs" variant="default" loading={busy} onClick={() => settle(actions.end, "It has ended already.")}>
              {waiver.confirmedBy === undefined ? (waiver.madeBy === signIn ? "Take it back" : "Refuse it") : "End the waiver"}
            </Button>
          </div>
          {waiver.confirmedBy === undefined && waiver.madeBy === signIn && (
            <p className={sheet.sub}>Somebody else has to confirm it; until then nothing is hidden.</p>
          )}
        </div>
      )}
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      {open === "waiver" && <WaiverForm {...props} close={close} />}
      {open === "note" && <NoteForm {...props} close={close} />}
      {open === undefined && (
        <div className={classes.buttons}>
          {!waiver && (
            <Button size="xs" variant="default" onClick={() => setOpen("waiver")}>
              Waive …
            </Button>
          )}
          <Button size="xs" variant="default" onClick={() => setOpen("note")}>
            Note …
          </Button>
          {holder && (
            <Button size="xs" variant="default" component={Link} href={newRoundHref(holder)}>
              Into a round …
            </Button>
          )}
        </div>
      )}
      <Select
        size="xs"
        mt={10}
        label="Whose task it is"
        placeholder="nobody’s yet"
        clearable
        searchable
        disabled={busy}
        value={finding.assignee ?? null}
        data={[...assignees]}
        onChange={(assignee) => task(assignee ?? undefined)}
      />
    </section>
  );
}
