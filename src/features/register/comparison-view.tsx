"use client";

import { Select } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import type { AccessEffect } from "@/operations/register/effect-on-access";
import type { Snapshot, SnapshotChoice } from "@/operations/ports/snapshots";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { EffectTable } from "../intake/effect-table";
import { listWords } from "../words/kinds";
import { clockText } from "../words/times";
import classes from "./register.module.css";

type ComparedSnapshot = Pick<Snapshot, "id" | "source" | "takenAt" | "counts">;

interface ComparisonProps {
  readonly before: ComparedSnapshot;
  readonly after: ComparedSnapshot;
  readonly effect: AccessEffect;
  readonly snapshots: readonly SnapshotChoice[];
}

const comparisonHref = (before: number, after: number): string => `/register/compare?before=${before}&after=${after}`;

const sourceName = (source: string): string => (source === "" ? "No source named" : source);

/** What changed in access from one snapshot to another, not in rows; the rows are counted beside it. */
export function ComparisonView({ before, after, effect, snapshots }: ComparisonProps) {
  const router = useRouter();
  const choices = snapshots.map(({ id, takenAt }) => ({ value: String(id), label: `${id}, ${clockText(takenAt)}` }));
  const pick = (label: string, value: number, go: (id: number) => void) => (
    <Select size="xs" w={230} aria-label={label} value={String(value)} data={choices} allowDeselect={false} onChange={(id) => id !== null && go(Number(id))} />
  );
  const lists = Object.keys(after.counts).filter(
    (list) => before.counts[list as keyof Snapshot["counts"]] !== after.counts[list as keyof Snapshot["counts"]],
  ) as (keyof Snapshot["counts"])[];
  const margin = (
    <>
      <h2>How many there were</h2>
      {lists.length === 0 ? (
        <p>As many of everything as before.</p>
      ) : (
        <dl className={sheet.facts}>
          {lists.map((list) => (
            <div key={list} style={{ display: "contents" }}>
              <dt>{listWords[list]}</dt>
              <dd>
                {before.counts[list].toLocaleString("en-GB")} → {after.counts[list].toLocaleString("en-GB")}
              </dd>
            </div>
          ))}
        </dl>
      )}
      <p className={sheet.links} style={{ marginTop: 12 }}>
        <Link href={`/register?snapshot=${before.id}`}>Look at snapshot {before.id}</Link>
        <Link href={`/register?snapshot=${after.id}`}>Look at snapshot {after.id}</Link>
      </p>
    </>
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result={`From snapshot ${before.id} to snapshot ${after.id}`}
        lead={`${sourceName(before.source)}, taken in ${clockText(before.takenAt)}, against ${sourceName(after.source)}, taken in ${clockText(after.takenAt)}.`}
      />
      <div className={classes.tools}>
        {pick("From", before.id, (id) => router.replace(comparisonHref(id, after.id)))}
        {pick("To", after.id, (id) => router.replace(comparisonHref(before.id, id)))}
      </div>
      <EffectTable effect={effect} />
    </Sheet>
  );
}
