"use client";

import { Select } from "@mantine/core";
import { Dropzone } from "@mantine/dropzone";
import { useRouter } from "next/navigation";
import Link from "next/link";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Arrival } from "@/operations/ports/deliveries";
import type { SnapshotSummary } from "@/operations/ports/snapshots";
import type { ProfileTarget, SourceProfile } from "@/operations/intake/try-profile";
import type { IntakeOutcome } from "@/operations/services";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { plural, timesWords } from "../words/numbers";
import { clockText } from "../words/times";
import { ArrivalsTable } from "./arrivals-table";
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
    profile: SourceProfile | undefined,
    asOf: string | undefined,
    on: number | null,
  ) => Promise<StoringOutcome>;
  readonly takeBack: (snapshot: number, reason: string, task: string) => Promise<string | undefined>;
  /** Sources of which it is known how they write their tables. */
  readonly sources: readonly string[];
  /** Everything that rows of a source may feed. */
  readonly targets: readonly ProfileTarget[];
  /** What arrived from sources and waits for somebody. */
  readonly arrivals: readonly Arrival[];
  /** The one of them that is looked at at once. */
  readonly waiting: Arrival | undefined;
  readonly discard: (token: string) => Promise<void>;
  /** Sources that should have sent by now. */
  readonly overdue: readonly { readonly name: string; readonly dueAt: string | undefined }[];
}

/** How a file is read, where somebody said it here: the rest is as its source writes. */
interface ReadSo {
  readonly profile: SourceProfile | undefined;
  readonly asOf: string | undefined;
}

type State =
  | { readonly step: "waiting" }
  | { readonly step: "reading"; readonly name: string; readonly task: string }
  | { readonly step: "read"; readonly uploaded: Uploaded; readonly so: ReadSo }
  | { readonly step: "again"; readonly uploaded: Uploaded; readonly so: ReadSo; readonly task: string }
  | { readonly step: "storing"; readonly uploaded: Uploaded; readonly so: ReadSo; readonly task: string }
  | { readonly step: "said"; readonly words: string; readonly refused: boolean };

type Answer = Uploaded | { readonly error: string };

async function send(file: File, task: string, source: string, batch?: { readonly token: string; readonly isLast: boolean }): Promise<Answer> {
  try {
    const response = await fetch("/intake/upload", {
      method: "POST",
      body: file,
      headers: {
        "x-file-name": encodeURIComponent(file.name),
        "x-task": task,
        "x-source": encodeURIComponent(source),
        ...(batch && { "x-batch": batch.token, ...(batch.isLast && { "x-last": "1" }) }),
      },
    });
    return (await response.json()) as Answer;
  } catch {
    return { error: "The file did not reach the server. Check that Nomade is running and try again." };
  }
}

/** Sends a file, or several that are read together once the last is there. */
async function upload(files: readonly File[], task: string, source: string): Promise<Answer> {
  const [first] = files;
  if (!first) return { error: "There is no file." };
  if (files.length === 1) return send(first, task, source);
  let token = "new";
  for (const [at, file] of files.entries()) {
    const isLast = at === files.length - 1;
    const answer = await send(file, task, source, { token, isLast });
    if ("error" in answer || isLast) return answer;
    token = answer.token;
  }
  return { error: "There is no file." };
}

async function readWaiting(token: string, task: string, source: string, so: ReadSo): Promise<Answer> {
  try {
    const response = await fetch(`/intake/preview/${token}`, {
      method: "POST",
      body: JSON.stringify({ task, source, ...so }),
      headers: { "content-type": "application/json" },
    });
    return (await response.json()) as Answer;
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

/** What an empty register says: what to bring, and what it is good for. */
function WhatToBring() {
  return (
    <section className={classes.preview}>
      <h2>There is no register yet. What to bring</h2>
      <ol className={classes.bring}>
        <li>
          <b>People and their cards</b>, as the system that hands them out, or the personnel office, exports them: who there is, with which cards, in which
          department or group.
        </li>
        <li>
          <b>What opens what</b>: doors and areas, access levels with their doors, schedules, and who has which level.
        </li>
        <li>
          <b>Holidays</b> as a calendar file, and <b>events</b> of the doors, as far back as you have them: they tell what is used.
        </li>
      </ol>
      <p>
        Bring any of them first, as they are; the order does not matter much. Drop several files at once if they belong together. What a column means is said
        once, beside the file’s own rows, and known again the next time.
      </p>
      <p>
        No export at hand? The tables to fill in, with one example row each, are a{" "}
        <a href="/intake/templates/xlsx" download>
          workbook
        </a>{" "}
        or{" "}
        <a href="/intake/templates/csv" download>
          CSV files
        </a>
        ; they can be taken in as they are, too. To look around in a made-up register first, start Nomade without <code>--empty</code> in another data folder (
        <code>NOMADE_DATA</code>).
      </p>
    </section>
  );
}

/** Taking in: drop a file, see what it would bring, store it or leave it; below, what was taken in before. */
export function IntakeView({ snapshots, sources, targets, arrivals, waiting, overdue, store, takeBack, discard }: IntakeViewProps) {
  const [source, setSource] = useState("");
  const router = useRouter();
  const [state, setState] = useState<State>({ step: "waiting" });
  const take = async (files: readonly File[]) => {
    const task = crypto.randomUUID();
    setState({ step: "reading", name: files.length === 1 ? (files[0]?.name ?? "") : `${files.length} files`, task });
    const uploaded = await upload(files, task, source);
    if ("error" in uploaded) return setState({ step: "said", words: uploaded.error, refused: true });
    // A source whose way of writing fits is known again.
    if (uploaded.preview.source !== undefined) setSource(uploaded.preview.source);
    setState({ step: "read", uploaded, so: { profile: undefined, asOf: undefined } });
  };
  const look = useCallback(async ({ token, name, source: from, asOf }: Arrival) => {
    const task = crypto.randomUUID();
    setSource(from);
    setState({ step: "reading", name, task });
    const so = { profile: undefined, asOf };
    const uploaded = await readWaiting(token, task, from, so);
    setState("error" in uploaded ? { step: "said", words: uploaded.error, refused: true } : { step: "read", uploaded, so });
  }, []);
  const opened = useRef<string>(undefined);
  useEffect(() => {
    if (waiting === undefined || waiting.token === opened.current) return;
    opened.current = waiting.token;
    void look(waiting);
  }, [waiting, look]);
  const read = async (before: Uploaded, so: ReadSo) => {
    const task = crypto.randomUUID();
    setState({ step: "again", uploaded: before, so, task });
    const uploaded = await readWaiting(before.token, task, source, so);
    setState("error" in uploaded ? { step: "said", words: uploaded.error, refused: true } : { step: "read", uploaded, so });
  };
  const keep = async (uploaded: Uploaded, so: ReadSo, named: string, leaveOut: number) => {
    const task = crypto.randomUUID();
    setState({ step: "storing", uploaded, so, task });
    const outcome = await store(
      uploaded.token,
      named,
      source,
      task,
      leaveOut,
      so.profile,
      so.asOf,
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
        result={snapshots.length === 0 ? "Bring in what you have" : `Taken in ${timesWords(snapshots.length)}, last ${clockText(snapshots[0]?.takenAt ?? "")}`}
        lead="Files are taken as other systems write them. What they hold is shown, with what it would do to access, before anything is stored; then all of it is stored, or nothing."
      />
      {state.step === "said" && (
        <p role="status" className={state.refused ? sheet.grave : undefined}>
          <b>{state.words}</b>
        </p>
      )}
      {overdue.length > 0 && (state.step === "waiting" || state.step === "said") && (
        <p>
          <b className={sheet.grave}>Overdue:</b> {overdue.map(({ name, dueAt = "" }) => `${name}, since ${clockText(dueAt)}`).join("; ")}.{" "}
          <Link href="/register/sources">See the sources</Link>
        </p>
      )}
      {arrivals.length > 0 && (state.step === "waiting" || state.step === "said") && (
        <ArrivalsTable arrivals={arrivals} onLook={(arrival) => void look(arrival)} discard={discard} />
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
            if (files.length > 0) void take(files);
          }}
          className={classes.drop}
          unstyled
          inputProps={{ "aria-label": "File to take in" }}
        >
          <strong>Drop files here, as they came</strong>
          <div className={sheet.sub}>
            or press Enter to choose them. Workbooks (.xlsx, .ods, .xls), tables (.csv, .tsv, .txt, also packed as .zip or .gz), calendars (.ics), people of a
            directory (.ldif), events, a facility document (.json)
          </div>
        </Dropzone>
      )}
      {state.step === "reading" && <TaskProgress at="/intake/task" task={state.task} name={state.name} />}
      {state.step === "storing" && <TaskProgress at="/intake/task" task={state.task} name={state.uploaded.preview.fileName} />}
      {state.step === "again" && <TaskProgress at="/intake/task" task={state.task} name={state.uploaded.preview.fileName} />}
      {(state.step === "read" || state.step === "storing" || state.step === "again") && (
        <Preview
          key={`${state.uploaded.token} ${state.uploaded.preview.kind}`}
          uploaded={state.uploaded}
          busy={state.step !== "read"}
          source={source}
          targets={targets}
          hasRegister={snapshots.length > 0}
          so={state.so}
          onRead={(so) => void read(state.uploaded, { ...state.so, ...so })}
          onStore={(named, leaveOut) => void keep(state.uploaded, state.so, named, leaveOut)}
          onDrop={() => setState({ step: "waiting" })}
        />
      )}
      {snapshots.length === 0 && state.step === "waiting" && <WhatToBring />}
      {snapshots.length > 0 && <SnapshotsTable snapshots={snapshots} takeBack={takeBack} />}
      {snapshots.length > 0 && state.step === "waiting" && (
        <p className={sheet.sub}>
          Without a file at hand: the tables to fill in, each with one example row, as a{" "}
          <a href="/intake/templates/xlsx" download>
            workbook
          </a>{" "}
          or as{" "}
          <a href="/intake/templates/csv" download>
            CSV files
          </a>
          .
        </p>
      )}
    </Sheet>
  );
}
