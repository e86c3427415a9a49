"use client";

import { Button } from "@mantine/core";
import { useEffect, useState } from "react";
import type { Progress as TaskState } from "@/operations/ports/progress";
import { Progress } from "@/ui/sheet";
import classes from "./task-progress.module.css";

const askEveryMs = 400;

const stepWords: Readonly<Record<TaskState["step"], string>> = {
  reading: "Reading the file",
  checking: "Checking every value and reference",
  storing: "Storing",
  findings: "Stored; looking for findings",
  access: "Laying out who opens what, and when",
  lines: "Putting the lines together",
  opening: "Storing the dockets",
  evidence: "Putting the evidence together",
};

function wordsOf({ step, done, of }: TaskState): string {
  if (step === "lines" && of > 1) return `${stepWords.lines}, ${done.toLocaleString("en-GB")} of ${of.toLocaleString("en-GB")} people and cards`;
  if (step !== "storing") return stepWords[step];
  return of > 0 ? `Storing, table ${Math.min(done + 1, of)} of ${of}` : `Storing, ${done.toLocaleString("en-GB")} rows so far`;
}

/** How far long work is, and a way to stop it as long as nothing of it stands. */
export function TaskProgress({
  task,
  name,
  at,
}: {
  readonly task: string;
  readonly name: string;
  readonly at: "/intake/task" | "/certification/task" | "/register/drafts/task" | "/register/events/task" | "/findings/task" | "/evidence/task";
}) {
  const [state, setState] = useState<TaskState>({ step: "reading", done: 0, of: 1 });
  const [stopping, setStopping] = useState(false);
  useEffect(() => {
    const timer = setInterval(() => {
      void fetch(`${at}/${task}`)
        .then(async (response) => {
          // Also what says that the work is over is read to its end, or the connection stays taken.
          const text = await response.text();
          if (response.ok) setState(JSON.parse(text) as TaskState);
        })
        .catch(() => undefined);
    }, askEveryMs);
    return () => clearInterval(timer);
  }, [task, at]);
  const stop = () => {
    setStopping(true);
    void fetch(`${at}/${task}`, { method: "DELETE" }).then(({ ok }) => {
      if (!ok) setStopping(false);
    });
  };
  // Work on a register begins with opening it, an intake with reading its file.
  const words = state.step === "reading" && at !== "/intake/task" ? "Opening the register" : wordsOf(state);
  return (
    <div className={classes.task} role="status">
      <p>
        {name}: {words} …
      </p>
      <Progress done={state.of === 0 ? 0 : state.done} of={state.of} label={words} />
      <Button variant="default" size="xs" mt="sm" onClick={stop} disabled={stopping || state.step === "findings"}>
        Stop
      </Button>
    </div>
  );
}
