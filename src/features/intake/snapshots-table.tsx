"use client";

import { Button, TextInput } from "@mantine/core";
import Link from "next/link";
import { useState } from "react";
import type { SnapshotSummary } from "@/operations/ports/snapshots";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { plural } from "../words/numbers";
import { RecordLink } from "../evidence/record-link";
import { clockText } from "../words/times";
import classes from "./intake.module.css";

const figure = (rows: number | undefined): string => (rows === undefined ? "–" : rows.toLocaleString("en-GB"));

/** The files of an intake: what the source states of each, and how that agrees with what was taken in. */
function Files({ snapshot: { id, files } }: { readonly snapshot: SnapshotSummary }) {
  const hasStated = files.some(({ stated }) => stated !== undefined);
  return (
    <details className={classes.more}>
      <summary className={sheet.sub}>{plural(files.length, "file", "files")}</summary>
      <table className={sheet.table} aria-label={`Files of snapshot ${id}`}>
        <thead>
          <tr>
            <th scope="col">File</th>
            {hasStated && (
              <th scope="col" className={sheet.number}>
                Stated
              </th>
            )}
            <th scope="col" className={sheet.number}>
              Taken in
            </th>
            <th scope="col" className={sheet.number}>
              Left out
            </th>
            <th scope="col">SHA-256</th>
          </tr>
        </thead>
        <tbody>
          {files.map(({ name, hash, rows, leftOut, stated }) => (
            <tr key={name}>
              <td>{name}</td>
              {hasStated && <td className={sheet.number}>{stated === undefined ? "–" : `${figure(stated)}${stated === (rows ?? 0) + leftOut ? "" : " !"}`}</td>}
              <td className={sheet.number}>{figure(rows)}</td>
              <td className={sheet.number}>{figure(leftOut)}</td>
              <td>
                <code className={classes.hash}>{hash.slice(0, 12)} …</code>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

type TakeBack = (snapshot: number, reason: string, task: string) => Promise<string | undefined>;

const shortestReason = 10;

/** Taking the latest intake back: what stood before it becomes a new snapshot, with the reason in the record. */
function TakingBack({ snapshot, before, takeBack }: { readonly snapshot: number; readonly before: number; readonly takeBack: TakeBack }) {
  const [reason, setReason] = useState("");
  const { busy, refused, run } = useAction();
  return (
    <details className={classes.more}>
      <summary className={sheet.sub}>Take it back</summary>
      <p className={sheet.sub}>
        What stood in snapshot {before} becomes the register again, as a new snapshot. Nothing is erased; the record says who, when and why.
      </p>
      <TextInput size="xs" label="Why" value={reason} onChange={(event) => setReason(event.currentTarget.value)} error={refused} />
      <Button
        size="xs"
        mt={6}
        variant="default"
        loading={busy}
        disabled={reason.trim().length < shortestReason}
        onClick={() => run(() => takeBack(snapshot, reason, crypto.randomUUID()))}
      >
        Take snapshot {snapshot} back
      </Button>
    </details>
  );
}

/** What was taken in, the latest first, each to be saved, looked at as it was, and compared with the one before. */
export function SnapshotsTable({ snapshots, takeBack }: { readonly snapshots: readonly SnapshotSummary[]; readonly takeBack: TakeBack }) {
  return (
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
                {snapshot.source === "" ? "no source named" : snapshot.source}
                {snapshot.leftOut > 0 && <div className={sheet.grave}>{plural(snapshot.leftOut, "row", "rows")} not read</div>}
                {snapshot.files.length > 0 && <Files snapshot={snapshot} />}
                {i === 0 && snapshots.length > 1 && <TakingBack snapshot={snapshot.id} before={snapshots[1]?.id ?? 0} takeBack={takeBack} />}
              </td>
              <td className={sheet.number}>{snapshot.counts.cardholders.toLocaleString("en-GB")}</td>
              <td className={sheet.number}>{snapshot.counts.doors.toLocaleString("en-GB")}</td>
              <td className={sheet.number}>
                {snapshot.changes.added.toLocaleString("en-GB")} / {snapshot.changes.ended.toLocaleString("en-GB")}
              </td>
              <td className={sheet.number}>{snapshot.noteCount}</td>
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
                  <a href={`/evidence/snapshot/${snapshot.id}/workbook`} download aria-label={`Workbook of snapshot ${snapshot.id}`}>
                    XLSX
                  </a>
                  <Link href={`/register?snapshot=${snapshot.id}`}>Look</Link>
                  <RecordLink of={{ on: [`snapshot ${snapshot.id}`] }} words="Record" />
                  {snapshots[i + 1] && <Link href={`/register/compare?before=${snapshots[i + 1]?.id ?? 0}&after=${snapshot.id}`}>What changed</Link>}
                </div>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
