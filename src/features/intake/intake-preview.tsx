"use client";

import { Button, Checkbox, TextInput } from "@mantine/core";
import { useState } from "react";
import type { PrintedIssue } from "@/operations/ports/snapshots";
import type { ProfileTarget, SourceProfile } from "@/operations/intake/try-profile";
import type { IntakePreview } from "@/operations/services";
import sheet from "@/ui/sheet.module.css";
import { listWords } from "../words/kinds";
import { madeFromNamesWords } from "../words/profile-fields";
import { capital, plural } from "../words/numbers";
import { clockText } from "../words/times";
import { DayTypesForm } from "./day-types-form";
import { EffectTable } from "./effect-table";
import classes from "./intake.module.css";
import { ProfileEditor } from "./profile/profile-editor";

/** A file that waits on the server, and what it would bring. */
export interface Uploaded {
  readonly token: string;
  readonly preview: IntakePreview;
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

const asOfWords: Readonly<Record<NonNullable<Extract<IntakePreview, { kind: "facility" }>["tables"]>["asOfFrom"], string>> = {
  file: "as the files say",
  typed: "as you say",
  name: "by the file’s name",
  clock: "by the clock, since nothing in the files says it",
};

/** The moment for which tables speak, and what of them was not read or was made of names. */
function TablesRead({
  tables: { asOfFrom, unread, madeFromNames },
  asOf,
  busy,
  onAsOf,
}: {
  readonly tables: NonNullable<Extract<IntakePreview, { kind: "facility" }>["tables"]>;
  readonly asOf: string;
  readonly busy: boolean;
  readonly onAsOf: (asOf: string) => void;
}) {
  const [typed, setTyped] = useState(asOf);
  const isInstant = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:\d{2})$/.test(typed);
  return (
    <>
      <div className={classes.store}>
        <TextInput
          size="xs"
          w={260}
          label={`It speaks for this moment, ${asOfWords[asOfFrom]}`}
          value={typed}
          error={isInstant ? undefined : "expected an instant such as 2026-03-02T08:00:00Z"}
          onChange={(event) => setTyped(event.currentTarget.value)}
        />
        <Button size="xs" variant="default" disabled={!isInstant || typed === asOf} loading={busy} onClick={() => onAsOf(typed)}>
          Read it for this moment
        </Button>
      </div>
      {unread.length > 0 && <p>Not read: {unread.map(({ name, why }) => `${name} (${why})`).join("; ")}.</p>}
      {madeFromNames.length > 0 && (
        <p>
          <b>{capital(plural(madeFromNames.length, "object is", "objects are"))} made from names</b> that nothing else brings:{" "}
          {madeFromNamesWords(madeFromNames)}.
        </p>
      )}
    </>
  );
}

interface PreviewProps {
  readonly uploaded: Uploaded;
  readonly busy: boolean;
  /** Name of the source, where one was chosen. */
  readonly source: string;
  readonly targets: readonly ProfileTarget[];
  readonly hasRegister: boolean;
  /** How it was read, where somebody said it here. */
  readonly so: { readonly profile: SourceProfile | undefined; readonly asOf: string | undefined };
  readonly onRead: (so: { readonly profile?: SourceProfile; readonly asOf?: string }) => void;
  readonly onStore: (source: string, leaveOut: number) => void;
  readonly onDrop: () => void;
}

/** What a file would bring, before anything is stored: what is wrong or odd, what it does to access, how much of what there is. */
export function Preview({ uploaded, busy, source: named, targets, hasRegister, so, onStore, onDrop, onRead }: PreviewProps) {
  const { preview } = uploaded;
  const [source, setSource] = useState(named);
  const [leaves, setLeaves] = useState(false);
  const leftOut = preview.kind === "refused" ? 0 : preview.leftOut;
  const editor = (
    <ProfileEditor
      token={uploaded.token}
      source={named}
      targets={targets}
      hasRegister={hasRegister}
      given={so.profile}
      busy={busy}
      onRead={(profile) => onRead({ profile })}
    />
  );
  if (preview.kind === "refused" && preview.needsProfile === true && so.profile === undefined)
    return (
      <section className={classes.preview}>
        <h2>{preview.fileName}</h2>
        {editor}
        <Button variant="default" mt="md" onClick={onDrop}>
          Choose another file
        </Button>
      </section>
    );
  if (preview.kind === "refused")
    return (
      <section className={classes.preview}>
        <h2>
          {preview.fileName} is refused: {plural(preview.errorCount, "error", "errors")}
        </h2>
        <p className={sheet.sub}>Nothing was stored. Each line says where, what was found, and what was expected.</p>
        <Issues issues={preview.errors} total={preview.errorCount} label="Errors" />
        {preview.isTables && preview.errors[0]?.code === "refused-row" && <RefusedLink token={uploaded.token} />}
        {preview.isTables && editor}
        <Button variant="default" mt="md" onClick={onDrop}>
          Choose another file
        </Button>
      </section>
    );
  const ask = (
    <div className={classes.store}>
      {preview.kind === "facility" && (
        <TextInput
          label="Name of the source"
          placeholder="badge office"
          description="What it brings is its own; orders go to it"
          inputWrapperOrder={["label", "input", "description"]}
          value={source}
          onChange={(event) => setSource(event.currentTarget.value)}
          w={320}
        />
      )}
      {leftOut > 0 && (
        <Checkbox
          checked={leaves}
          onChange={(event) => setLeaves(event.currentTarget.checked)}
          label={`Leave out ${plural(leftOut, "row", "rows")} and store the rest; every answer will say so`}
        />
      )}
      <Button
        onClick={() => onStore(source, leftOut)}
        loading={busy}
        disabled={(leftOut > 0 && !leaves) || (preview.kind === "facility" && source.trim() === "")}
      >
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
        {preview.leftOut > 0 && (
          <>
            <h2 className={classes.section}>{capital(plural(preview.leftOut, "row cannot be read", "rows cannot be read"))}</h2>
            <RefusedRows refused={preview.refused} total={preview.leftOut} />
            <RefusedLink token={uploaded.token} />
          </>
        )}
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
          <b>{capital(plural(preview.keptCount, "object is", "objects are"))} kept</b> although the files do not bring {preview.keptCount === 1 ? "it" : "them"}{" "}
          any more, since something else refers to {preview.keptCount === 1 ? "it" : "them"}:{" "}
          {preview.kept
            .slice(0, 8)
            .map(({ list, id }) => `${listWords[list] ?? list} ${id}`)
            .join(", ")}
          {preview.keptCount > 8 && " and others"}.
        </p>
      )}
      {preview.tables && <TablesRead tables={preview.tables} asOf={preview.asOf} busy={busy} onAsOf={(asOf) => onRead({ asOf })} />}
      {preview.effect && <EffectTable effect={preview.effect} />}
      <h2 className={classes.section}>What is in it</h2>
      <Counts preview={preview} />
      {preview.noteCount > 0 && (
        <>
          <h2 className={classes.section}>{capital(plural(preview.noteCount, "thing is odd", "things are odd"))}</h2>
          <Issues issues={preview.notes} total={preview.noteCount} label="Data notes" />
        </>
      )}
      {preview.events && preview.events.events.length > 0 && (
        <DayTypesForm
          key={JSON.stringify(preview.events)}
          events={preview.events}
          busy={busy}
          onRead={(calendars) =>
            onRead({ profile: { format: "nomade.profile/1", tables: [], ...so.profile, calendars: { ...so.profile?.calendars, ...calendars } } })
          }
        />
      )}
      {preview.tables && (
        <details>
          <summary>How this source writes</summary>
          {editor}
        </details>
      )}
      {ask}
    </section>
  );
}
