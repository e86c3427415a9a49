"use client";

import { Button } from "@mantine/core";
import { useState } from "react";
import sheet from "@/ui/sheet.module.css";
import { TaskProgress } from "../shell/task-progress";

type Made = { readonly hash: string } | { readonly why: string };

/** Makes the evidence pack of a round and saves it, while showing how far it is. */
export function EvidencePack({ round }: { readonly round: number }) {
  const [task, setTask] = useState<string>();
  const [made, setMade] = useState<Made>();
  const make = async (number: string): Promise<Made> => {
    const response = await fetch(`/certification/${round}/pack?task=${number}`);
    if (!response.ok) return { why: ((await response.json()) as { readonly error: string }).error };
    const address = URL.createObjectURL(await response.blob());
    const link = document.createElement("a");
    link.href = address;
    link.download = `nomade-round-${round}.zip`;
    link.click();
    URL.revokeObjectURL(address);
    return { hash: response.headers.get("x-pack-hash") ?? "" };
  };
  const begin = (): void => {
    const number = crypto.randomUUID();
    setTask(number);
    setMade(undefined);
    void make(number)
      .catch((): Made => ({ why: "The server did not answer. Try again." }))
      .then((done) => {
        setMade(done);
        setTask(undefined);
      });
  };
  return (
    <>
      <p className={sheet.sub}>Document, lines, decisions, signatures, orders, the record, a report, and how to verify each without this program.</p>
      {task === undefined ? (
        <Button variant="default" onClick={begin}>
          Make the evidence pack
        </Button>
      ) : (
        <TaskProgress at="/evidence/task" task={task} name="Evidence pack" />
      )}
      {made &&
        ("hash" in made ? (
          <p className={sheet.sub} role="status" style={{ overflowWrap: "anywhere" }}>
            Saved. The SHA-256 of its SHA256SUMS is {made.hash}; it stands in the record.
          </p>
        ) : (
          <p role="alert" className={sheet.grave}>
            {made.why}
          </p>
        ))}
    </>
  );
}
