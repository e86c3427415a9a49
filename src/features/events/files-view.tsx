"use client";

import { Button } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { EventFile } from "@/operations/ports/events";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { RecordLink } from "../evidence/record-link";
import { TaskProgress } from "../shell/task-progress";
import { capital, plural } from "../words/numbers";
import { clockText, secondOnClock } from "../words/times";

/** The files that events came in; each can be taken back with all that was counted from it. */
export function EventFilesView({
  files,
  mayWithdraw,
  withdraw,
  timeZone,
}: {
  readonly files: readonly EventFile[];
  readonly mayWithdraw: boolean;
  readonly withdraw: (file: number, task: string) => Promise<boolean>;
  readonly timeZone: string;
}) {
  const router = useRouter();
  const [asked, setAsked] = useState<number>();
  const [task, setTask] = useState<string>();
  const { busy, refused, run } = useAction();
  const takeBack = (file: number): void => {
    const number = crypto.randomUUID();
    setTask(number);
    run(async () => {
      const isDone = await withdraw(file, number);
      setAsked(undefined);
      router.refresh();
      return isDone ? undefined : "It was taken back already.";
    });
  };
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={files.length === 0 ? "No files of events yet" : capital(plural(files.length, "file of events", "files of events"))}
        reference={<Link href="/register/events">Events</Link>}
        lead="An event counts once, however many files bring it. Taking a file back takes all that was counted from it; what another file brought too stays."
      />
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      {busy && task !== undefined && <TaskProgress at="/register/events/task" task={task} name="Taking the file back" />}
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">File</th>
            <th scope="col">Source</th>
            <th scope="col" className={sheet.number}>
              Events
            </th>
            <th scope="col" className={sheet.number}>
              There before
            </th>
            <th scope="col">From</th>
            <th scope="col">To</th>
            <th scope="col">Taken in</th>
            {mayWithdraw && <th scope="col" aria-label="Take back" />}
          </tr>
        </thead>
        <tbody>
          {files.map(({ id, name, source, rows, repeated, from, to, takenAt }) => (
            <tr key={id}>
              <td>
                {name}
                <div>
                  <RecordLink of={{ on: [`event file ${id}`] }} words="record" />
                </div>
              </td>
              <td>{source === "" ? "–" : source}</td>
              <td className={sheet.number}>{rows.toLocaleString("en-GB")}</td>
              <td className={sheet.number}>{repeated.toLocaleString("en-GB")}</td>
              <td>{from === undefined ? "–" : secondOnClock(from, timeZone)}</td>
              <td>{to === undefined ? "–" : secondOnClock(to, timeZone)}</td>
              <td>{clockText(takenAt)}</td>
              {mayWithdraw && (
                <td>
                  {asked === id ? (
                    <Button size="xs" color="madder" loading={busy} onClick={() => takeBack(id)}>
                      Take all of it back
                    </Button>
                  ) : (
                    <Button size="xs" variant="default" disabled={busy} onClick={() => setAsked(id)}>
                      Take back …
                    </Button>
                  )}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </Sheet>
  );
}
