"use client";

import { Button, Checkbox, Select, TextInput } from "@mantine/core";
import { Dropzone } from "@mantine/dropzone";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { PrintedIssue, Snapshot } from "@/operations/ports";
import type { IntakeOutcome, IntakePreview } from "@/operations/services";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { listWords } from "../words/kinds";
import { capital, plural, timesWords } from "../words/numbers";
import { clockText } from "../words/times";
import type { Mapping } from "./mapping-form";
import { hasUnknown, MappingForm } from "./mapping-form";
import { EffectTable } from "./effect-table";
import classes from "./intake.module.css";
import { TaskProgress } from "../shell/task-progress";

interface Uploaded {
  readonly token: string;
  readonly preview: IntakePreview;
}

type StoringOutcome = IntakeOutcome | { readonly outcome: "gone" | "stopped" };

export interface IntakeViewProps {
  readonly snapshots: readonly Snapshot[];
  readonly store: (token: string, source: string, task: string, leaveOut: number, mapping: Mapping | undefined) => Promise<StoringOutcome>;
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
    const response = await fetch("/intake/upload", { method: "POST", body: file, headers: { "x-file-name": encodeURIComponent(file.name), "x-task": task, "x-source": encodeURIComponent(source) } });
    return (await response.json()) as Uploaded | { error: string };
  } catch {
    return { error: "The file did not reach the server. Check that Nomade is running and try again." };
  }
}

async function readAgain(token: string, task: string, mapping: Mapping): Promise<Uploaded | { readonly error: string }> {
  try {
    const response = await fetch(`/intake/preview/${token}`, { method: "POST", body: JSON.stringify({ task, mapping }), headers: { "content-type": "application/json" } });
    return (await response.json()) as Uploaded | { error: string };
  } catch {
    return { error: "The server did not answer. Check that Nomade is running and try again." };
  }
}

function Issues({ issues, total, label }: { readonly issues: readonly PrintedIssue[]; readonly total: number; readonly label: string }) {
  return (
    <div className={classes.errors} role="region" aria-label={label} tabIndex={0}>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Where</th>
            <th scope="col">What</th>
          </tr>
        </thead>
        <tbody>
          {issues.map(({ path, message }, i) => (
            <tr key={`${path} ${i}`}>
              <td>
                <code>{path === "" ? "the file" : path}</code>
              </td>
              <td>{message}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {total > issues.length && <p className={sheet.sub}>and {total - issues.length} more</p>}
    </div>
  );
}

function RefusedRows({ refused, total }: { readonly refused: Extract<IntakePreview, { kind: "facility" }>["refused"]; readonly total: number }) {
  return (
    <div className={classes.errors} role="region" aria-label="Rows that cannot be read" tabIndex={0}>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">File</th>
            <th scope="col" className={sheet.number}>
              Line
            </th>
            <th scope="col">Column</th>
            <th scope="col">Found</th>
            <th scope="col">Why not</th>
          </tr>
        </thead>
        <tbody>
          {refused.map(({ file, line, column, value, reason }, i) => (
            <tr key={`${file} ${line} ${i}`}>
              <td>{file}</td>
              <td className={sheet.number}>{line}</td>
              <td>{column}</td>
              <td>
                <code>{value}</code>
              </td>
              <td>{reason}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {total > refused.length && <p className={sheet.sub}>and {(total - refused.length).toLocaleString("en-GB")} more; the CSV has them all</p>}
    </div>
  );
}

const RefusedLink = ({ token }: { readonly token: string }) => (
  <p>
    <a href={`/intake/refused/${token}`} download>
      Save them as CSV
    </a>{" "}
    to send them back.
  </p>
);

function Counts({ preview }: { readonly preview: Extract<IntakePreview, { kind: "facility" }> }) {
  return (
    <table className={sheet.table} style={{ maxWidth: 560 }}>
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col" className={sheet.number}>
            in the file
          </th>
          {preview.against && (
            <>
              <th scope="col" className={sheet.number}>
                new
              </th>
              <th scope="col" className={sheet.number}>
                changed
              </th>
              <th scope="col" className={sheet.number}>
                gone
              </th>
            </>
          )}
        </tr>
      </thead>
      <tbody>
        {Object.entries(preview.counts).map(([list, count]) => {
          const change = preview.against?.[list];
          return (
            <tr key={list}>
              <td>{listWords[list]}</td>
              <td className={sheet.number}>{count}</td>
              {change && (
                <>
                  <td className={sheet.number}>{change.added || "–"}</td>
                  <td className={sheet.number}>{change.changed || "–"}</td>
                  <td className={sheet.number}>{change.gone || "–"}</td>
                </>
              )}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Preview({ uploaded, busy, source: named, columns, onStore, onDrop, onMap }: { readonly uploaded: Uploaded; readonly busy: boolean; readonly source: string; readonly columns: IntakeViewProps["columns"]; readonly onMap: (mapping: Mapping) => void; readonly onStore: (source: string, leaveOut: number) => void; readonly onDrop: () => void }) {
  const { preview } = uploaded;
  const [source, setSource] = useState(named === "" ? preview.fileName : named);
  const [leaves, setLeaves] = useState(false);
  const leftOut = preview.kind === "facility" ? preview.leftOut : 0;
  if (preview.kind === "refused")
    return (
      <section className={classes.preview}>
        <h2>
          {preview.fileName} is refused: {plural(preview.errorCount, "error", "errors")}
        </h2>
        <p className={sheet.sub}>Nothing was stored. Each line says where, what was found, and what was expected.</p>
        <Issues issues={preview.errors} total={preview.errorCount} label="Errors" />
        {preview.tables && hasUnknown(preview.tables) && <MappingForm tables={preview.tables} columns={columns} busy={busy} onRead={onMap} />}
        {preview.fileName.toLowerCase().endsWith(".zip") && preview.errors[0]?.code === "refused-row" && <RefusedLink token={uploaded.token} />}
        <Button variant="default" mt="md" onClick={onDrop}>
          Choose another file
        </Button>
      </section>
    );
  const ask = (
    <div className={classes.store}>
      <TextInput label="Name of the source" value={source} onChange={(event) => setSource(event.currentTarget.value)} w={320} />
      {leftOut > 0 && <Checkbox checked={leaves} onChange={(event) => setLeaves(event.currentTarget.checked)} label={`Leave out ${plural(leftOut, "row", "rows")} and store the rest; every answer will say so`} />}
      <Button onClick={() => onStore(source, leftOut)} loading={busy} disabled={leftOut > 0 && !leaves}>
        Store
      </Button>
      <Button variant="default" onClick={onDrop} disabled={busy}>
        Leave it
      </Button>
    </div>
  );
  if (preview.kind === "events")
    return (
      <section className={classes.preview}>
        <h2>
          {preview.rows.toLocaleString("en-GB")} events, from {preview.from.slice(0, 10)} to {preview.to.slice(0, 10)}
        </h2>
        <p className={sheet.sub}>
          {preview.unknownDoors + preview.unknownCredentials === 0
            ? "Every door and credential in them is in the register."
            : `${capital(plural(preview.unknownDoors, "door", "doors"))} and ${plural(preview.unknownCredentials, "credential", "credentials")} in them are not in the register; their events are kept all the same.`}
        </p>
        {ask}
      </section>
    );
  return (
    <section className={classes.preview}>
      <h2>{preview.unchanged ? "Nothing would change: the register stands just so already" : `${preview.facilityName}, as of ${clockText(preview.asOf)}`}</h2>
      <p className={sheet.sub}>
        Nothing is stored yet. SHA-256 of the normal form <code className={classes.hash}>{preview.hash}</code>
      </p>
      {preview.leftOut > 0 && (
        <>
          <h2 className={classes.section}>{capital(plural(preview.leftOut, "row cannot be read", "rows cannot be read"))}</h2>
          <RefusedRows refused={preview.refused} total={preview.refusedCount} />
          <RefusedLink token={uploaded.token} />
        </>
      )}
      {preview.keptCount > 0 && (
        <p>
          <b>{capital(plural(preview.keptCount, "object is", "objects are"))} kept</b> although the files do not bring {preview.keptCount === 1 ? "it" : "them"} any more, since something else refers to {preview.keptCount === 1 ? "it" : "them"}: {preview.kept.slice(0, 8).map(({ list, id }) => `${listWords[list] ?? list} ${id}`).join(", ")}
          {preview.keptCount > 8 && " and others"}.
        </p>
      )}
      {preview.effect && <EffectTable effect={preview.effect} />}
      <h2 className={classes.section}>What is in it</h2>
      <Counts preview={preview} />
      {preview.noteCount > 0 && (
        <>
          <h2 className={classes.section}>{capital(plural(preview.noteCount, "thing is odd", "things are odd"))}</h2>
          <Issues issues={preview.notes} total={preview.noteCount} label="Data notes" />
        </>
      )}
      {ask}
    </section>
  );
}

const outcomeWords = (outcome: StoringOutcome): { words: string; refused: boolean } => {
  switch (outcome.outcome) {
    case "stored":
      return { words: outcome.snapshot === undefined ? `Stored ${outcome.rows.toLocaleString("en-GB")} ${outcome.what}.` : `Stored ${outcome.what} as snapshot ${outcome.snapshot}; ${outcome.rows.toLocaleString("en-GB")} rows of the register are new.`, refused: false };
    case "unchanged":
      return { words: `Nothing changed: ${outcome.what} ${outcome.snapshot === undefined ? "were taken in before" : `stands just so in snapshot ${outcome.snapshot}`}.`, refused: false };
    case "refused":
      return { words: `Refused with ${plural(outcome.errorCount, "error", "errors")}; nothing was stored.`, refused: true };
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
    const uploaded = await readAgain(before.token, task, mapping);
    setState("error" in uploaded ? { step: "said", words: uploaded.error, refused: true } : { step: "read", uploaded, mapping });
  };
  const keep = async (uploaded: Uploaded, source: string, leaveOut: number, mapping: Mapping | undefined) => {
    const task = crypto.randomUUID();
    setState({ step: "storing", uploaded, task });
    const outcome = await store(uploaded.token, source, task, leaveOut, mapping).catch(() => undefined);
    setState({ step: "said", ...(outcome ? outcomeWords(outcome) : { words: "The server did not answer. Look at the list below to see whether it was stored.", refused: true }) });
    router.refresh();
  };
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={snapshots.length === 0 ? "Take in a facility document" : `Taken in ${timesWords(snapshots.length)}, last ${clockText(snapshots[0]?.takenAt ?? "")}`}
        lead="A facility document (JSON), a ZIP of CSV tables, a holiday calendar (iCalendar), or events (CSV, JSON Lines) is checked and shown before anything is stored; then all of it is stored, or nothing."
      />
      {state.step === "said" && (
        <p role="status" className={state.refused ? sheet.grave : undefined}>
          <b>{state.words}</b>
        </p>
      )}
      {(state.step === "waiting" || state.step === "said") && sources.length > 0 && (
        <Select size="xs" w={320} mb="sm" label="Source, where Nomade knows how it writes" placeholder="any" clearable searchable value={source === "" ? null : source} data={[...sources]} onChange={(value) => setSource(value ?? "")} />
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
          <div className={sheet.sub}>or press Enter to choose one. Facility document (.json), CSV tables (.zip), a calendar (.ics), events (.csv, .jsonl)</div>
        </Dropzone>
      )}
      {state.step === "reading" && (
        <TaskProgress at="/intake/task" task={state.task} name={state.name} />
      )}
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
          onStore={(named, leaveOut) => void keep(state.uploaded, named, leaveOut, state.step === "read" ? state.mapping : undefined)} onDrop={() => setState({ step: "waiting" })} />
      )}
      {snapshots.length > 0 && (
        <>
          <h2 className={classes.section}>Snapshots</h2>
          <table className={sheet.table}>
            <thead>
              <tr>
                <th scope="col">No.</th>
                <th scope="col">Taken in</th>
                <th scope="col">As of</th>
                <th scope="col">Source</th>
                <th scope="col" className={sheet.number}>
                  Cardholders
                </th>
                <th scope="col" className={sheet.number}>
                  Doors
                </th>
                <th scope="col" className={sheet.number}>
                  Rows new / ended
                </th>
                <th scope="col" className={sheet.number}>
                  Notes
                </th>
                <th scope="col">SHA-256</th>
                <th scope="col">
                  <span className={sheet.sub}>Save, look, compare</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {snapshots.map((snapshot, i) => (
                <tr key={snapshot.id}>
                  <td>{snapshot.id}</td>
                  <td>
                    {clockText(snapshot.takenAt)}
                    <div className={sheet.sub}>by {snapshot.takenBy}</div>
                  </td>
                  <td>{clockText(snapshot.asOf)}</td>
                  <td>
                    {snapshot.source}
                    {snapshot.leftOut > 0 && <div className={sheet.grave}>{plural(snapshot.leftOut, "row", "rows")} not read</div>}
                  </td>
                  <td className={sheet.number}>{snapshot.counts.cardholders.toLocaleString("en-GB")}</td>
                  <td className={sheet.number}>{snapshot.counts.doors.toLocaleString("en-GB")}</td>
                  <td className={sheet.number}>
                    {snapshot.changes.added.toLocaleString("en-GB")} / {snapshot.changes.ended.toLocaleString("en-GB")}
                  </td>
                  <td className={sheet.number}>{snapshot.notes.length}</td>
                  <td>
                    <code className={classes.hash}>{snapshot.hash.slice(0, 12)} …</code>
                  </td>
                  <td>
                    <div className={sheet.links} style={{ margin: 0 }}>
                      <a href={`/evidence/snapshot/${snapshot.id}`} download aria-label={`Document of snapshot ${snapshot.id}`}>
                        JSON
                      </a>
                      <a href={`/evidence/snapshot/${snapshot.id}/tables`} download aria-label={`Tables of snapshot ${snapshot.id}`}>
                        CSV
                      </a>
                      <Link href={`/register?snapshot=${snapshot.id}`}>Look</Link>
                      {snapshots[i + 1] && <Link href={`/register/compare?before=${snapshots[i + 1]?.id ?? 0}&after=${snapshot.id}`}>What changed</Link>}
                    </div>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </Sheet>
  );
}
