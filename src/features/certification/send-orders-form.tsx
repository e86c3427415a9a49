"use client";

import { Button, FileButton } from "@mantine/core";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { AnsweringOutcome, AnswerIssue } from "@/operations/certification/answer-orders";
import type { ApplyingOutcome } from "@/operations/certification/apply-orders";
import type { SendingOutcome, SendingPreview } from "@/operations/certification/send-orders";
import { useFetched } from "@/ui/fetched";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { changeWords } from "../words/changes";
import { capital, listWords, plural } from "../words/numbers";
import classes from "./certification.module.css";

export interface SendOrdersProps {
  readonly round: number;
  /** Orders not sent yet: those to sources, and those that Nomade carries out itself. */
  readonly unsent: number;
  readonly own: number;
  readonly sent: number;
  readonly send: (round: number, seen: number) => Promise<SendingOutcome>;
  readonly apply: (round: number, seen: number) => Promise<ApplyingOutcome>;
  readonly answer: (round: number, text: string) => Promise<AnsweringOutcome>;
}

const refusals = {
  "nothing-to-send": "There is nothing to send any more.",
  "nothing-to-apply": "There is nothing to carry out any more.",
  "changed-meanwhile": "The register or the orders changed just now. Look again, then send them.",
} as const;

function Difference({ preview }: { readonly preview: SendingPreview }) {
  const { otherwise, unknown, snapshot } = preview;
  if (otherwise.length === 0 && unknown.length === 0) return <p className={sheet.sub}>Planned anew on snapshot {snapshot}: just as they were ordered.</p>;
  return (
    <>
      {otherwise.map(({ holderName, before, after }) => (
        <div key={holderName} className={sheet.notes}>
          <b style={{ position: "static", color: "inherit" }}>{holderName}</b>: the register changed since.
          <div>
            <s>{before.map(({ described, names }) => capital(changeWords(described, names ?? {}))).join(". ")}</s>
          </div>
          <div>
            {after.length === 0
              ? "Nothing has to be changed any more."
              : after.map(({ described, names }) => capital(changeWords(described, names ?? {}))).join(". ")}
          </div>
        </div>
      ))}
      {unknown.length > 0 && <p className={sheet.sub}>The register does not have {listWords(unknown)} any more: their orders go as they were.</p>}
    </>
  );
}

/** Sends orders to their sources after they were planned anew, carries out Nomade's own, and takes what a source answers. */
export function SendOrders({ round, unsent, own, sent, send, apply, answer }: SendOrdersProps) {
  const router = useRouter();
  const [looks, look] = useState(false);
  const { busy, refused, run } = useAction();
  const [said, say] = useState<string>();
  const [issues, setIssues] = useState<readonly AnswerIssue[]>([]);
  const preview = useFetched<SendingPreview>(looks ? `/certification/${round}/sending` : undefined);
  const sendNow = (seen: number) =>
    run(async () => {
      const done = await send(round, seen);
      if (done.outcome === "refused") return refusals[done.why];
      const mailed = done.mailedTo.length === 0 ? "" : ` ${listWords(done.mailedTo)} ${done.mailedTo.length === 1 ? "gets" : "get"} theirs by mail.`;
      say(`${capital(plural(done.orders, "order is", "orders are"))} marked as sent.${mailed} Save the CSV for whoever else carries them out.`);
      look(false);
      router.refresh();
      return undefined;
    });
  const applyNow = (seen: number) =>
    run(async () => {
      const done = await apply(round, seen);
      if (done.outcome === "does-not-hold") return `It cannot be carried out: ${done.reasons.join("; ")}`;
      if (done.outcome === "refused") return refusals[done.why];
      say(`Carried out: snapshot ${done.snapshot}.`);
      look(false);
      router.refresh();
      return undefined;
    });
  const takeAnswer = (file: File | null) => {
    if (!file) return;
    run(async () => {
      setIssues([]);
      const done = await answer(round, await file.text());
      if (done.outcome === "refused") {
        setIssues(done.issues);
        return "Nothing was taken: put this right in the file first.";
      }
      say(`Taken: ${done.done} done, ${done.refused} refused.`);
      router.refresh();
      return undefined;
    });
  };
  return (
    <>
      {unsent + own > 0 && !looks && (
        <Button onClick={() => look(true)} mt="xs">
          {unsent > 0 ? `Send ${plural(unsent, "order", "orders")} …` : `Carry out ${plural(own, "order", "orders")} …`}
        </Button>
      )}
      {looks && preview.state === "awaited" && <p className={sheet.sub}>Planning them anew on the present register …</p>}
      {looks && preview.state === "failed" && <p className={sheet.grave}>They could not be planned anew. Load the page again.</p>}
      {looks && preview.state === "there" && (
        <>
          <Difference preview={preview.value} />
          {unsent > 0 && (
            <Button loading={busy} onClick={() => sendNow(preview.value.snapshot)} mt="xs">
              Mark {plural(unsent, "order", "orders")} as sent
            </Button>
          )}
          {own > 0 && (
            <Button variant="default" loading={busy} onClick={() => applyNow(preview.value.snapshot)} mt="xs">
              Carry out {plural(own, "order", "orders")} in Nomade
            </Button>
          )}
        </>
      )}
      {sent > 0 && (
        <p>
          <FileButton onChange={takeAnswer} accept="text/csv,.csv">
            {(props) => (
              <Button {...props} variant="default" size="xs" loading={busy}>
                Take in an answer as CSV
              </Button>
            )}
          </FileButton>
        </p>
      )}
      {said !== undefined && (
        <p role="status" className={sheet.sub}>
          {said}
        </p>
      )}
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      {issues.length > 0 && (
        <ul className={classes.issues}>
          {issues.map(({ line, column, value, expected }, i) => (
            <li key={i}>
              Line {line}
              {column === "" ? "" : `, ${column}`}: {value === "" ? "" : `found ${value}; `}expected {expected}.
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
