"use client";

import { useEffect, useRef, useState } from "react";
import type { RoundPreview } from "@/operations/certification/preview-round";
import { Heading, Sheet } from "@/ui/sheet";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { TaskProgress } from "../shell/task-progress";
import { NewRoundView } from "./new-round-view";
import type { OpenRound } from "./open-round-form";
import type { AskedRound } from "./round-address";

export type Planned = { readonly outcome: "planned"; readonly preview: RoundPreview } | { readonly outcome: "stopped" | "no-register" };

const said = {
  stopped: { result: "Stopped", lead: "Nothing was planned, and nothing was stored. Open this page again to plan a round." },
  "no-register": { result: "There is no register yet", lead: "Take in a facility document first; then there is something to certify." },
  failed: { result: "The plan could not be worked out", lead: "The server did not answer. Open this page again." },
};

/** Works out what a round would be while showing how far it is, then shows it. */
export function PlanRound({
  asked: wanted,
  plan,
  open,
}: {
  readonly asked: AskedRound;
  readonly plan: (asked: AskedRound & { readonly task: string }) => Promise<Planned>;
  readonly open: OpenRound;
}) {
  const [task] = useState(() => crypto.randomUUID());
  // Read from the address anew with each answer of the server, it is the same as long as the page is.
  const asked = useRef(wanted);
  const [planned, setPlanned] = useState<Planned | { readonly outcome: "failed" }>();
  useEffect(() => {
    let over = false;
    void plan({ task, ...asked.current })
      .catch(() => ({ outcome: "failed" as const }))
      .then((found) => {
        if (!over) setPlanned(found);
        over = true;
      });
    return () => {
      if (!over) void fetch(`/certification/task/${task}`, { method: "DELETE" }).catch(() => undefined);
      over = true;
    };
  }, [plan, task]);
  if (planned?.outcome === "planned") return <NewRoundView preview={planned.preview} asked={wanted} open={open} />;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      {planned ? (
        <div role="status">
          <Heading {...said[planned.outcome]} />
        </div>
      ) : (
        <>
          <Heading result="Working out who certifies what …" lead="This is done beside the server’s other work; leaving the page stops it and does no harm." />
          <TaskProgress at="/certification/task" task={task} name="A new round" />
        </>
      )}
    </Sheet>
  );
}
