"use client";

import { useMemo } from "react";
import type { DrawnPlan } from "@/operations/inquiry/routes-answer";
import { FlowDrawing } from "@/ui/flow-drawing";
import sheet from "@/ui/sheet.module.css";
import { capital, listWords, plural } from "../words/numbers";
import { doorWords } from "./routes-links";

/** The places that are told of and the doors between them. */
export function RoutesDrawing({ drawing, label }: { readonly drawing: DrawnPlan; readonly label: string }) {
  const nodes = useMemo(
    () =>
      drawing.places.map(({ name, state, isAsked }) => ({
        label: state === "never" ? `${name} (no way there)` : name,
        look: state === "start" ? ("start" as const) : isAsked ? ("goal" as const) : state === "never" ? ("faint" as const) : ("plain" as const),
      })),
    [drawing],
  );
  const edges = useMemo(
    () =>
      drawing.passages.map(({ from, to, doors, isTaken, isOnWay }) => ({
        from,
        to,
        label: `${doors.length === 1 ? (doors[0] ?? "") : doorWords(doors.length)}${isTaken ? "" : " (shut)"}`,
        title: listWords(doors),
        look: isTaken ? (isOnWay ? ("strong" as const) : ("plain" as const)) : ("broken" as const),
      })),
    [drawing],
  );
  return (
    <>
      <FlowDrawing nodes={nodes} edges={edges} label={label} />
      {drawing.more > 0 && (
        <p className={sheet.sub}>
          {capital(plural(drawing.more, "place", "places"))} more, further away, {drawing.more === 1 ? "is" : "are"} not drawn.
        </p>
      )}
    </>
  );
}
