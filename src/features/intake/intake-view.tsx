"use client";

import { Select } from "@mantine/core";
import { Dropzone } from "@mantine/dropzone";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { SnapshotSummary } from "@/operations/ports/snapshots";
import type { IntakeOutcome } from "@/operations/services";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { plural, timesWords } from "../words/numbers";
import { clockText } from "../words/times";
import type { Mapping } from "./mapping-form";
import type { Uploaded } from "./intake-preview";
import { Preview } from "./intake-preview";
import classes from "./intake.module.css";
import { SnapshotsTable } from "./snapshots-table";
import { TaskProgress } from "../shell/task-progress";

type StoringOutcome = IntakeOutcome | { readonly outcome: "gone" | "stopped" };

export interface IntakeViewProps {
  readonly snapshots: readonly SnapshotSummary[];
  readonly store: (
    token: string,
    source: string,
    previewedFor: string,
    task: string,
    leaveOut: number,
    mapping: Mapping | undefined,
    on: number | null,
  ) => Promise<StoringOutcome>;
  /** Sources of which it is known how they write their tables. */
  readonly sources: readonly string[];
  /** The tables of a bundle, and the columns of each. */
  readonly columns: Readonly<Record<string, readonly string[]>>;
}

type State =
  | { readonly step: "waiting" }
  | { readonly step: "reading"; readonly name: string; readonly task: string }
  | { readonly step: "read"; readonly uploaded: Uploaded; readonly mapping: Mapping | undefined }
  | { readonly step: "again"; readonly uploaded: Uploaded; readonly task: string }
  | { readonly step: "storing"; readonly uploaded: Uploaded; readonly task: string }
  | { readonly step: "said"; readonly words: string; readonly refused: boolean };

async function upload(file: File, task: string, source: string): Promise<Uploaded | { readonly error: string }> {
  try {
    const response = await fetch("/intake/upload", {
      method: "POST",
      body: file,
      headers: { "x-file-name": encodeURIComponent(file.name), "x-task": task, "x-source": encodeURIComponent(source) },
    });
    return (await response.json()) as Uploaded | { error: string };
  } catch {
    return { error: "The file did not reach the server. Check that Nomade is running and try again." };
  }
}

async function readAgain(token: string, task: string, source: string, mapping: Mapping | undefined): Promise<Uploaded | { readonly error: string }> {
  try {
    const response = await fetch(`/intake/preview/${token}`, {
      method: "POST",
      body: JSON.stringify({ task, source, mapping }),
      headers: { "content-type": "application/json" },
    });
    return (await response.json()) as Uploaded | { error: string };
  } catch {
    return { error: "The server did not answer. Check that Nomade is running and try again." };
  }
}

/** Refusals that say in one sentence what to do. */
const toldInWords = new Set(["other-profile", "no-source", "changed-meanwhile"]);

const outcomeWords = (outcome: StoringOutcome): { words: string; refused: boolean } => {
  switch (outcome.outcome) {
    case "stored":
      return {
        words:
          outcome.snapshot === undefined
            ? `Stored ${outcome.rows.toLocaleString("en-GB")} ${outcome.what}.`
            : `Stored ${outcome.what} as snapshot ${outcome.snapshot}; ${outcome.rows.toLocaleString("en-GB")} rows of the register are new.`,
        refused: false,
      };
    case "unchanged":
      return {
        words: `Nothing changed: ${outcome.what} ${outcome.snapshot === undefined ? "were taken in before" : `stands just so in snapshot ${outcome.snapshot}`}.`,
        refused: false,
      };
    case "refused":
      return {
        words:
          outcome.errors[0] && toldInWords.has(outcome.errors[0].code)
            ? outcome.errors[0].message
            : `Refused with ${plural(outcome.errorCount, "error", "errors")}; nothing was stored.`,
        refused: true,
      };
    case "stopped":
      return { words: "Stopped; nothing was stored, and the register is as it was.", refused: false };
    default:
      return { words: "The uploaded file is no longer there. Drop it again.", refused: true };
  }
};

/** Taking in: drop a file, see what it would bring, store it or leave it; below, what was taken in before. */
export function IntakeView({ snapshots, sources, columns, store }: IntakeViewProps) {
  const [source, setSource] = useState("");
  const router = useRouter();
  const [state, setState] = useState<State>({ step: "waiting" });
  const take = async (file: File) => {
    const task = crypto.randomUUID();
    setState({ step: "reading", name: file.name, task });
    const uploaded = await upload(file, task, source);
    setState("error" in uploaded ? { step: "said", words: uploaded.error, refused: true } : { step: "read", uploaded, mapping: undefined });
  };
  const map = async (before: Uploaded, mapping: Mapping) => {
    const task = crypto.randomUUID();
    setState({ step: "again", uploaded: before, task });
    const uploaded = await readAgain(before.token, task, source, mapping);
    setState("error" in uploaded ? { step: "said", words: uploaded.error, refused: true } : { step: "read", uploaded, mapping });
  };
  const keep = async (uploaded: Uploaded, named: string, leaveOut: number, mapping: Mapping | undefined) => {
    const task = crypto.randomUUID();
    setState({ step: "storing", uploaded, task });
    const outcome = await store(
      uploaded.token,
      named,
      source,
      task,
      leaveOut,
      mapping,
      uploaded.preview.kind === "facility" ? uploaded.preview.on : null,
    ).catch(() => undefined);
    setState({
      step: "said",
      ...(outcome ? outcomeWords(outcome) : { words: "The server did not answer. Look at the list below to see whether it was stored.", refused: true }),
    });
    router.refresh();
  };
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={
          snapshots.length === 0 ? "Take in a facility document" : `Taken in ${timesWords(snapshots.length)}, last ${clockText(snapshots[0]?.takenAt ?? "")}`
        }
        lead="A facility document (JSON), tables (a ZIP of CSV, or a workbook), a holiday calendar (iCalendar), or events (CSV, JSON Lines) is checked and shown before anything is stored; then all of it is stored, or nothing."
      />
      {state.step === "said" && (
        <p role="status" className={state.refused ? sheet.grave : undefined}>
          <b>{state.words}</b>
        </p>
      )}
      {(state.step === "waiting" || state.step === "said") && sources.length > 0 && (
        <Select
          size="xs"
          w={320}
          mb="sm"
          label="Source, where Nomade knows how it writes"
          placeholder="any"
          clearable
          searchable
          value={source === "" ? null : source}
          data={[...sources]}
          onChange={(value) => setSource(value ?? "")}
        />
      )}
      {(state.step === "waiting" || state.step === "said") && (
        <Dropzone
          onDrop={(files) => {
            const file = files[0];
            if (file) void take(file);
          }}
          multiple={false}
          className={classes.drop}
          unstyled
          inputProps={{ "aria-label": "File to take in" }}
        >
          <strong>Drop a file here</strong>
          <div className={sheet.sub}>
            or press Enter to choose one. Facility document (.json), tables (.zip of CSV, .xlsx, .ods, .xls), a calendar (.ics), events (.csv, .jsonl)
          </div>
        </Dropzone>
      )}
      {state.step === "reading" && <TaskProgress at="/intake/task" task={state.task} name={state.name} />}
      {state.step === "storing" && <TaskProgress at="/intake/task" task={state.task} name={state.uploaded.preview.fileName} />}
      {state.step === "again" && <TaskProgress at="/intake/task" task={state.task} name={state.uploaded.preview.fileName} />}
      {(state.step === "read" || state.step === "storing" || state.step === "again") && (
        <Preview
          key={state.uploaded.preview.kind}
          uploaded={state.uploaded}
          busy={state.step !== "read"}
          source={source}
          columns={columns}
          onMap={(mapping) => void map(state.uploaded, mapping)}
          onStore={(named, leaveOut) => void keep(state.uploaded, named, leaveOut, state.step === "read" ? state.mapping : undefined)}
          onDrop={() => setState({ step: "waiting" })}
        />
      )}
      {snapshots.length > 0 && <SnapshotsTable snapshots={snapshots} />}
    </Sheet>
  );
}
