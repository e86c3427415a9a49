"use client";

import { Textarea, UnstyledButton } from "@mantine/core";
import { useState } from "react";
import type { Narrowing } from "@/core/certification/decide-line";
import { isDefinition } from "@/core/certification/line-content";
import type { Line } from "@/core/certification/line";
import type { EpochMinute } from "@/core/time/instant";
import type { OtherCertifier, ShownLine } from "@/operations/certification/show-docket";
import sheet from "@/ui/sheet.module.css";
import type { DocketWords } from "../words/docket/docket-words";
import type { Choice } from "./decision-queue";
import { AccessFacts } from "./access-facts";
import { DefinitionFacts, TaskForm } from "./definition-facts";
import classes from "./docket.module.css";
import { LineComments } from "./line-comments";
import { LineEffect } from "./line-effect";
import { NarrowForm } from "./narrow-form";
import { PassOnForm } from "./pass-on-form";

export interface DocketLineProps {
  readonly shown: ShownLine;
  readonly asOf: number;
  /** The zone in which dates of the register are read. */
  readonly timeZone: string;
  readonly editable: boolean;
  readonly words: DocketWords;
  readonly others: readonly OtherCertifier[];
  /** What was chosen and is not saved yet. */
  readonly waiting: Choice | undefined;
  readonly refused: string | undefined;
  readonly choose: (line: number, choice: Choice) => void;
  readonly comment: (line: number, text: string) => Promise<string | undefined>;
}

/** What holds of a line: what is on its way, else what is stored. */
export function choiceOf({ decision, reason, narrowing, passedTo }: ShownLine, waiting: Choice | undefined): Exclude<Choice, { decision: "undo" }> | undefined {
  if (waiting) return waiting.decision === "undo" ? undefined : waiting;
  if (decision === undefined) return undefined;
  if (decision === "narrow") return narrowing && { decision, narrowing, reason };
  if (decision === "pass-on") return passedTo === undefined ? undefined : { decision, to: passedTo, reason };
  return { decision, reason };
}

/** What stays of a narrowed line, in words. */
function Narrowed({ line, narrowing, words }: { readonly line: Line; readonly narrowing: Narrowing; readonly words: DocketWords }) {
  const names = new Map(line.hours.flatMap(({ doors }) => doors.map(({ id, name }) => [id, name] as const)));
  const to =
    narrowing.kind === "doors"
      ? { schedule: undefined, until: undefined, shut: narrowing.shut.map((id) => names.get(id) ?? id) }
      : { schedule: narrowing.scheduleName ?? narrowing.schedule, until: narrowing.until, shut: [] };
  return <p className={classes.effect}>{words.narrowedTo(to)}</p>;
}

/** One decision: what, when, how used, who else; what speaks against it; and what the choice would do. */
export function DocketLineCard({ shown, asOf, timeZone, editable, words, others, waiting, refused, choose, comment }: DocketLineProps) {
  const { line, flagged } = shown;
  const definition = isDefinition(line) ? line : undefined;
  const title = definition ? words.definitions.title(definition.subject) : line.subject.name;
  const chosen = choiceOf(shown, waiting);
  const [opened, open] = useState<"keep" | "narrow" | "withdraw" | "pass-on">();
  const [tried, setTried] = useState<Choice["decision"]>();
  // Of a definition that needs changing the words stored are what is asked for, not why it is right.
  const [reason, setReason] = useState(definition && shown.decision === "withdraw" ? "" : shown.reason);
  const isCard = line.subject.kind === "credential";
  const isOwn = shown.aboutYourself;
  const send = (choice: Choice): void => {
    open(undefined);
    setTried(choice.decision);
    choose(shown.id, choice);
  };
  const keep = (): void => {
    // A flagged line is kept only with a reason, so that is asked for first.
    if (flagged && reason.trim() === "") open("keep");
    else send({ decision: "keep", reason });
  };
  // Words that were not enough stay open, to be made better.
  const wasRefused = (decision: Choice["decision"]): boolean => refused !== undefined && opened === undefined && (tried ?? "keep") === decision;
  const asksReason = opened === "keep" || (flagged && (chosen?.decision === "keep" || wasRefused("keep")));
  const asksTask = definition !== undefined && (opened === "withdraw" || (opened === undefined && chosen?.decision === "withdraw") || wasRefused("withdraw"));
  const button = (is: Exclude<Choice["decision"], "undo">, text: string, act: () => void, isDisabled = false) => {
    const isPressed = opened === undefined ? chosen?.decision === is : opened === is;
    return (
      <UnstyledButton
        className={isPressed ? classes.chosen : classes.choice}
        aria-pressed={isPressed}
        disabled={!editable || isDisabled}
        data-choice={is}
        onClick={act}
      >
        {text}
      </UnstyledButton>
    );
  };
  const toggle = (what: "narrow" | "withdraw" | "pass-on") => () => open(opened === what ? undefined : what);
  const passedTo = chosen?.decision === "pass-on" ? others.find(({ docket }) => docket === chosen.to) : undefined;
  return (
    <section className={classes.line} aria-label={definition ? title : `${shown.holderName}, ${title}`} tabIndex={-1} data-line={shown.id}>
      <h2>{title}</h2>
      {shown.passedFrom !== undefined && <p className={sheet.sub}>{words.passedOnToYou}</p>}
      {definition ? (
        <DefinitionFacts line={definition} timeZone={timeZone} words={words.definitions} language={words.language} />
      ) : (
        !isDefinition(line) && <AccessFacts line={line} asOf={asOf as EpochMinute} timeZone={timeZone} words={words} />
      )}
      {isOwn && editable && <p className={classes.effect}>{words.aboutYourself}</p>}
      <div className={isCard || definition ? classes.choices : classes.threeChoices}>
        {button("keep", definition ? words.definitions.keep : words.keep(isCard), keep, isOwn)}
        {!isCard && !definition && button("narrow", words.narrow, toggle("narrow"), isOwn)}
        {definition
          ? button("withdraw", words.definitions.change, toggle("withdraw"))
          : button("withdraw", words.withdraw(isCard), () => send({ decision: "withdraw", reason }), isOwn)}
      </div>
      {asksReason && (
        <Textarea
          mt="sm"
          label={words.why}
          description={words.whyHint}
          value={reason}
          onChange={(event) => setReason(event.currentTarget.value)}
          onBlur={() => reason.trim() !== "" && !(chosen?.decision === "keep" && chosen.reason === reason) && send({ decision: "keep", reason })}
          disabled={!editable}
          autosize
        />
      )}
      {asksTask && (
        <TaskForm
          asked={chosen?.decision === "withdraw" ? chosen.reason : ""}
          words={words.definitions}
          disabled={!editable}
          ask={(task) => send({ decision: "withdraw", reason: task })}
        />
      )}
      {opened === "narrow" && (
        <NarrowForm
          line={shown.id}
          flagged={flagged}
          before={chosen?.decision === "narrow" ? chosen.narrowing : undefined}
          reason={reason}
          words={words}
          narrow={(narrowing, why) => {
            setReason(why);
            send({ decision: "narrow", narrowing, reason: why });
          }}
        />
      )}
      {opened === "pass-on" && <PassOnForm others={others} words={words} passOn={(to, why) => send({ decision: "pass-on", to, reason: why })} />}
      {opened === undefined && chosen?.decision === "keep" && !flagged && <p className={classes.effect}>{words.nothingChanges}</p>}
      {opened === undefined && chosen?.decision === "withdraw" && !definition && <LineEffect line={shown.id} words={words} />}
      {opened === undefined && chosen?.decision === "narrow" && !isDefinition(line) && (
        <>
          <Narrowed line={line} narrowing={chosen.narrowing} words={words} />
          <LineEffect line={shown.id} narrowing={chosen.narrowing} words={words} />
        </>
      )}
      {opened === undefined && chosen?.decision === "pass-on" && <p className={classes.effect}>{words.passedOnTo(passedTo?.name ?? words.reviewer)}</p>}
      {refused !== undefined && (
        <p role="alert" className={classes.refused}>
          {refused}
        </p>
      )}
      <div className={classes.asides}>
        {editable && shown.passedFrom === undefined && others.length > 0 && (
          <UnstyledButton className={classes.aside} aria-expanded={opened === "pass-on"} data-choice="pass-on" onClick={toggle("pass-on")}>
            {words.passOn}
          </UnstyledButton>
        )}
        {editable && chosen !== undefined && (
          <UnstyledButton className={classes.aside} data-choice="undo" onClick={() => send({ decision: "undo" })}>
            {words.undo}
          </UnstyledButton>
        )}
        <LineComments shown={shown} words={words} comment={comment} />
      </div>
    </section>
  );
}
