"use client";

import { Button, Checkbox, FileButton, Group, Tabs, TextInput } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import type { ProfileTarget, SourceProfile, TriedSource } from "@/operations/intake/try-profile";
import sheet from "@/ui/sheet.module.css";
import { capital, plural } from "../../words/numbers";
import { madeFromNamesWords } from "../../words/profile-fields";
import { dateText } from "../../words/times";
import classes from "../intake.module.css";
import { ColumnsTable } from "./columns-table";
import { targetKey } from "./edit-profile";
import { FirstRows } from "./first-rows";
import { Questions } from "./questions";
import { MadeSettings, TextSettings } from "./table-settings";

interface ProfileEditorProps {
  readonly token: string;
  readonly source: string;
  readonly targets: readonly ProfileTarget[];
  /** Whether there is a register, whose name and zone hold. */
  readonly hasRegister: boolean;
  /** How the file was read before it came here; undefined where nobody has said. */
  readonly given: SourceProfile | undefined;
  readonly busy: boolean;
  readonly onRead: (profile: SourceProfile) => void;
}

type Answer = { readonly tried: TriedSource | { readonly error: string } } | { readonly error: string };

async function tryIt(token: string, source: string, profile: SourceProfile | undefined, signal: AbortSignal): Promise<Answer | undefined> {
  try {
    const response = await fetch(`/intake/try/${token}`, {
      method: "POST",
      body: JSON.stringify({ task: crypto.randomUUID(), source, profile }),
      headers: { "content-type": "application/json" },
      signal,
    });
    return (await response.json()) as Answer;
  } catch (error) {
    return (error as Error).name === "AbortError" ? undefined : { error: "The server did not answer. Check that Nomade is running and try again." };
  }
}

const settleMs = 250;
const mostUndone = 100;

/** How a source writes things, said beside its own rows: what each column is, what its values mean, and what each row makes of that. */
export function ProfileEditor({ token, source, targets, hasRegister, given, busy, onRead }: ProfileEditorProps) {
  const [profile, setProfile] = useState(given);
  /** What was said before each change, the latest last. */
  const [before, setBefore] = useState<readonly (SourceProfile | undefined)[]>([]);
  const [tried, setTried] = useState<TriedSource>();
  const [failed, setFailed] = useState<string>();
  const [isBehind, setIsBehind] = useState(true);
  const [shown, setShown] = useState<string | null>(null);
  const asked = useRef(0);
  useEffect(() => {
    const controller = new AbortController();
    const turn = ++asked.current;
    const timer = setTimeout(
      () => {
        void tryIt(token, source, profile, controller.signal).then((answer) => {
          if (!answer || turn !== asked.current) return;
          const found = "tried" in answer ? answer.tried : answer;
          setIsBehind(false);
          if ("error" in found) return setFailed(found.error);
          setFailed(undefined);
          setTried(found);
        });
      },
      asked.current === 1 ? 0 : settleMs,
    );
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [token, source, profile]);
  if (failed !== undefined && !tried) return <p className={sheet.grave}>{failed}</p>;
  if (!tried) return <p className={sheet.sub}>Looking at its rows …</p>;
  const known = profile ?? tried.profile;
  const change = (next: SourceProfile): void => {
    setIsBehind(true);
    setBefore([...before.slice(-mostUndone), profile]);
    setProfile(next);
  };
  const undo = (): void => {
    setIsBehind(true);
    setProfile(before[before.length - 1]);
    setBefore(before.slice(0, -1));
  };
  const filled = tried.tables.filter(({ columns }) => columns.length > 0);
  const questionsOf = (name: string): number => tried.questions.filter((question) => "table" in question && question.table === name).length;
  const neededOf = (name: string): string[] =>
    tried.questions.flatMap((question) =>
      question.kind === "needs" && question.table === name ? question.fields.slice(0, 1).map((field) => targetKey(question.makes, field)) : [],
    );
  const { name: facility = "", timeZone = "" } = known.facility ?? {};
  // Without a register somebody has to say what the new one is called and which clock it keeps.
  const isNamed =
    hasRegister || (facility.trim() !== "" && timeZone !== "") || known.tables.some(({ makes }) => makes.some(({ table }) => table === "facility"));
  return (
    <section aria-label="How this source writes" aria-busy={isBehind}>
      <h2 className={classes.section}>How this source writes</h2>
      <p className={sheet.sub}>
        {tried.isSuggested && profile === undefined
          ? "This is what can be seen in the file; nothing of it is read before you have looked at it. "
          : "What is said here is kept with the source when the file is stored. "}
        The file itself stays as it is.
      </p>
      {failed !== undefined && <p className={sheet.grave}>{failed}</p>}
      {!hasRegister && (
        <Group gap="sm" align="flex-end" mb="sm">
          <TextInput
            size="xs"
            w={230}
            label="What the register is called"
            value={facility}
            onChange={(event) => change({ ...known, facility: { ...known.facility, name: event.currentTarget.value } })}
          />
          <TextInput
            size="xs"
            w={230}
            label="Its time zone"
            placeholder="Europe/Paris"
            value={timeZone}
            onChange={(event) => {
              const { timeZone: _before, ...rest } = known.facility ?? {};
              const zone = event.currentTarget.value;
              change({ ...known, facility: zone === "" ? rest : { ...rest, timeZone: zone } });
            }}
          />
        </Group>
      )}
      <Questions
        questions={tried.questions}
        profile={known}
        targets={targets}
        columns={Object.fromEntries(filled.map(({ name, columns }) => [name, columns.map((column) => column.name)]))}
        severalTables={filled.length > 1}
        onChange={change}
      />
      {tried.dateInName !== undefined && (
        <Checkbox
          size="xs"
          mb="sm"
          checked={known.asOf === "file-name"}
          label={`It speaks for the beginning of the date in its name, ${dateText(tried.dateInName)}`}
          onChange={(event) => {
            const { asOf: _before, ...rest } = known;
            change(event.currentTarget.checked ? { ...rest, asOf: "file-name" } : rest);
          }}
        />
      )}
      {tried.unread.length > 0 && <p className={sheet.sub}>Not read: {tried.unread.map(({ name, why }) => `${name} (${why})`).join("; ")}.</p>}
      <Tabs value={shown ?? filled[0]?.name ?? null} onChange={setShown} keepMounted={false}>
        {filled.length > 1 && (
          <Tabs.List>
            {filled.map(({ name, rows, isHidden }) => (
              <Tabs.Tab key={name} value={name}>
                {name} <span className={sheet.sub}>{isHidden ? "hidden" : plural(rows, "row", "rows")}</span>
                {questionsOf(name) > 0 && <b className={classes.open}> {questionsOf(name)}?</b>}
              </Tabs.Tab>
            ))}
          </Tabs.List>
        )}
        {filled.map((table) => {
          const said = known.tables.find(({ name }) => name === table.name) ?? { name: table.name, headers: table.columns.map(({ name }) => name), makes: [] };
          const settings = { tried: table, said, profile: known, targets, onChange: change };
          return (
            <Tabs.Panel key={table.name} value={table.name} pt="sm">
              <div className={classes.editor}>
                <div>
                  <ColumnsTable {...settings} untaken={neededOf(table.name)} />
                  <MadeSettings {...settings} />
                  <TextSettings {...settings} />
                </div>
                <FirstRows tried={table} />
              </div>
            </Tabs.Panel>
          );
        })}
      </Tabs>
      {tried.refusedCount > 0 && (
        <details open={tried.questions.length === 0}>
          <summary>{capital(plural(tried.refusedCount, "thing is refused", "things are refused"))}</summary>
          <ul className={classes.refusedList}>
            {tried.refused.map(({ file, line, column, value, reason }, at) => (
              <li key={at}>
                {file}
                {line > 0 && `, line ${line}`}
                {column !== "" && `, ${column}`}
                {value !== "" && (
                  <>
                    {": "}
                    <code>{value}</code>
                  </>
                )}
                : {reason}
              </li>
            ))}
          </ul>
        </details>
      )}
      {tried.madeFromNames.length > 0 && <p className={sheet.sub}>Made from their names: {madeFromNamesWords(tried.madeFromNames)}.</p>}
      <Group gap="sm" mt="sm">
        <Button onClick={() => onRead(known)} loading={busy} disabled={isBehind || !isNamed}>
          Read it so
        </Button>
        {before.length > 0 && (
          <Button variant="default" onClick={undo}>
            Take back the last change
          </Button>
        )}
        <Button
          variant="default"
          component="a"
          download={`${source === "" ? "source" : source}.profile.json`}
          href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(known, undefined, 2))}`}
        >
          Save this profile
        </Button>
        <FileButton
          accept="application/json,.json"
          onChange={(file) => {
            void file?.text().then((text) => {
              try {
                change(JSON.parse(text) as SourceProfile);
              } catch {
                setFailed(`${file.name} is no JSON; expected a profile that was saved here.`);
              }
            });
          }}
        >
          {(props) => (
            <Button variant="default" {...props}>
              Take a profile from a file
            </Button>
          )}
        </FileButton>
      </Group>
    </section>
  );
}
