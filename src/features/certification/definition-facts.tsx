import { Textarea, UnstyledButton } from "@mantine/core";
import { useState } from "react";
import type { DefinedHours, DefinitionLine, MarkedSpan } from "@/core/certification/definitions/definition";
import type { Language } from "@/core/certification/signing-statement";
import sheet from "@/ui/sheet.module.css";
import { AccessWeek } from "../inquiry/trace-margin";
import type { DefinitionWords } from "../words/docket/definition-words";
import classes from "./docket.module.css";

/** So many dates and spans are shown at once; the rest of a fuller calendar unfolds. */
const datesShown = 40;

function Hours({ hours, moreHours, words }: { readonly hours: readonly DefinedHours[]; readonly moreHours: number; readonly words: DefinitionWords }) {
  const areSeveral = new Set(hours.map(({ zone }) => zone)).size > 1;
  return (
    <>
      {hours.map((one) => (
        <div key={one.words + (one.doors[0]?.id ?? "")} className={classes.defined}>
          <AccessWeek week={one.week} outside={one.outside} size="cell" words={words.hours(one)} />
          <div>
            <div>
              {words.hours(one)}
              {areSeveral && <span className={sheet.sub}> {one.zone}</span>}
            </div>
            <div className={sheet.sub}>{words.doors(one)}</div>
          </div>
        </div>
      ))}
      {moreHours > 0 && <p className={sheet.sub}>{words.moreHours(moreHours)}</p>}
    </>
  );
}

function DateList({ dates, words }: { readonly dates: readonly MarkedSpan[]; readonly words: DefinitionWords }) {
  const list = (
    <ul className={classes.dates}>
      {dates.map(({ from, to, name, dayType }) => (
        <li key={from}>
          <b>{from === to ? words.date(from) : words.span(from, to)}</b> {name}
          <span className={sheet.sub}> {words.dayType(dayType)}</span>
        </li>
      ))}
    </ul>
  );
  if (dates.length <= datesShown) return list;
  return (
    <details className={classes.more}>
      <summary>{words.dates(dates.length)}</summary>
      {list}
    </details>
  );
}

export interface DefinitionFactsProps {
  readonly line: DefinitionLine;
  readonly timeZone: string;
  readonly words: DefinitionWords;
  readonly language: Language;
}

/** What a definition says, whom it touches, what changed since it was certified last, and what speaks against it. */
export function DefinitionFacts({ line, timeZone, words }: DefinitionFactsProps) {
  const { definition, since } = line;
  return (
    <>
      <p className={classes.hours}>{words.facts(definition).join(" ")}</p>
      {(definition.kind === "level" || definition.kind === "unlocking") && <Hours hours={definition.hours} moreHours={definition.moreHours} words={words} />}
      {definition.kind === "calendar" && <DateList dates={definition.dates} words={words} />}
      <p>{words.touches(definition)}</p>
      <p className={sheet.sub}>{line.keptBefore === undefined ? (since ? words.since(since) : words.notCertifiedBefore) : words.keptBefore(line.keptBefore)}</p>
      {since && since.count > 0 && (
        <ul className={classes.changes}>
          {words.changes(since).map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
        </ul>
      )}
      {line.findings.map((finding) => (
        <p key={finding.fingerprint} className={sheet.grave}>
          {words.finding(line, finding, timeZone)}
        </p>
      ))}
      {line.moreFindings !== undefined && <p className={sheet.grave}>{words.moreFindings(line.moreFindings)}</p>}
    </>
  );
}

/** What should be changed about a definition, in the certifier's own words. */
export function TaskForm({
  asked,
  words,
  disabled,
  ask,
}: {
  /** What was asked for already; empty where nothing was. */
  readonly asked: string;
  readonly words: DefinitionWords;
  readonly disabled: boolean;
  readonly ask: (task: string) => void;
}) {
  const [task, setTask] = useState(asked);
  return (
    <div className={classes.task}>
      <Textarea
        label={words.task}
        description={words.taskHint}
        value={task}
        onChange={(event) => setTask(event.currentTarget.value)}
        disabled={disabled}
        maxLength={2000}
        autosize
        data-autofocus
      />
      {task.trim() !== "" && task === asked ? (
        <p className={classes.effect}>{words.asked}</p>
      ) : (
        <UnstyledButton className={classes.choice} disabled={disabled || task.trim() === ""} onClick={() => ask(task)}>
          {words.ask}
        </UnstyledButton>
      )}
    </div>
  );
}
